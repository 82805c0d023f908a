import { openCircuitVoltage } from "../../models/battery/battery";
import { dcInput } from "../../models/inverter/inverter";
import {
  allowedOnBranch,
  allowedPathPower,
  branchOfUnit,
  voltageOnBranch,
  voltsAtLimit,
} from "../../models/system/allowed";
import { constant, given, of, stated, traced, type TracedValue } from "../../units/trace";
import { METRIC } from "../../units/dimension";
import { formatQuantity } from "../../units/format";
import { check, verdictOf, type Check, type Verdict } from "../checks/check";
import { allCircuits } from "../../models/wiring/circuits";
import { generatorDerate } from "../../models/charging/supply";
import { legShares } from "../../reference/standards/mains";
import { circuitLoad } from "../checks/circuit-load";
import { compartmentOf, type Compartment, heatChecks } from "../checks/heat-checks";
import { structureRules, type Rule, ruleChecks } from "../checks/layout-checks";
import {
  currentAlongPath,
  currentOfBank,
  largestShare,
  lowestSoc,
  powerByVoltage,
  powerByVoltageOfUnit,
  type System,
} from "../../models/system/system";
import { bankChecks } from "../checks/battery-checks";
import { circuitChecks } from "../checks/circuit-checks";
import { solarChecks } from "../checks/solar-checks";

export interface CarriesResult {
  verdict: Verdict;
  rules: Rule[];
  compartment: Compartment | null;
  /** A through each run with everything on, by its path. */
  currents: Record<string, number>;
  /** A along the main circuit and out of the battery with everything on. */
  pathCurrent: TracedValue;
  bankCurrent: TracedValue;
  /** VA that the inverters carry for hours at their temperature; null without one. */
  inverterRating: TracedValue | null;
}

/** Whether every part takes the worst simultaneous running draw for hours, at the reserve; fuses, heat and structure. */
export function assessCarries(system: System): CarriesResult {
  const { wiring, converted } = system;
  const draw = everythingOn(system);
  const { apparent, real, current, bankCurrent } = draw;
  const inverterRating = converted ? ratingOfInverters(system) : null;
  const outputs = converted ? outputLegs(system, apparent) : [apparent];
  const checks: Check[] = [
    ...(inverterRating ? inverterChecks(system, draw, inverterRating) : []),
    voltageCheck(system, draw),
    ...unitVoltageChecks(system, draw),
    protectionCheck(system, bankCurrent),
    ...(inverterRating && system.legs.split ? legChecks(inverterRating, outputs) : []),
  ];
  const currents: Record<string, number> = {};
  for (const circuit of allCircuits(wiring, converted)) {
    const load = circuitLoad(system, circuit, current, outputs);
    currents[circuit.path] = load.current.value;
    checks.push(...circuitChecks(system, circuit, load));
  }
  const rules = structureRules(system);
  checks.push(
    ...bankChecks(system, bankCurrent),
    ...solarChecks(system),
    ...converterChecks(system),
    ...generatorChecks(system, apparent),
    ...heatChecks(system, current),
    ...ruleChecks(rules),
  );
  return {
    verdict: verdictOf("Carries", checks),
    rules,
    compartment: compartmentOf(system, real),
    currents,
    pathCurrent: current,
    bankCurrent,
    inverterRating,
  };
}

/** Everything on at once, at the reserve. */
interface RunningDraw {
  apparent: TracedValue;
  real: TracedValue;
  /** W along the main circuit, and A along it and out of the battery. */
  pathPower: TracedValue;
  /** W at the battery beside it: DC loads, and units on branches of their own. */
  side: number;
  current: TracedValue;
  bankCurrent: TracedValue;
}

function everythingOn(system: System): RunningDraw {
  const { values, inverter, units, loads, converted } = system;
  const onMains = units.filter((u) => !u.direct);
  const apparent = loadsTogether(
    { key: "carries.apparent", name: "All AC loads at once, apparent", dimension: "apparentPower", symbol: "S" },
    onMains.map((u) => u.runningApparent),
    loads.mains,
  );
  const real = loadsTogether(
    { key: "carries.real", name: "All AC loads at once", dimension: "power", symbol: "P" },
    onMains.map((u) => u.running),
    loads.mains,
  );
  const watts = (some: typeof units) => some.reduce((total, u) => total + u.running.value, 0);
  const directPower = watts(units.filter((u) => u.direct && !system.beside[u.index]));
  const pathPower = traced({
    key: "carries.pathPower",
    name: "Power along the main circuit",
    dimension: "power",
    value: (converted ? dcInput(inverter, real.value) : 0) + directPower,
    relation: converted ? `P_d = P_0 + (1 + a) × P + b × P² ÷ S_n${directPower > 0 ? " + P_u" : ""}` : "P_d = P_u",
    terms: () => [
      ...(converted
        ? [
            of("P", real),
            constant("P_0", "Inverter idle", inverter.idlePower, "power", "all inverters"),
            given("a", values.inverter.lossShare),
            given("b", values.inverter.lossRise),
            constant("S_n", "Inverter rating", inverter.rating, "apparentPower", "all inverters"),
          ]
        : []),
      constant("P_u", "DC air conditioners", directPower, "power", "running, on the design day"),
    ],
    source: "inverter loss curve",
  });
  const side = loads.dc + watts(units.filter((u) => system.beside[u.index]));
  const { figure: current, state } = currentAlongPath(system, {
    key: "carries.current",
    name: "Current to the inverter, running",
    onPath: pathPower,
    dcLoad: side,
  });
  const bankCurrent = currentOfBank("carries.bankCurrent", "Battery current, running", current, state);
  return { apparent, real, pathPower, side, current, bankCurrent };
}

/** The sum of what the units draw and of the other AC loads. */
function loadsTogether(
  { symbol, ...titled }: { key: string; name: string; dimension: "power" | "apparentPower"; symbol: "P" | "S" },
  units: TracedValue[],
  others: number,
): TracedValue {
  return traced({
    value: units.reduce((total, { value }) => total + value, 0) + others,
    relation: `${symbol} = ${[...units.map((_, i) => `${symbol}_${i + 1}`), "P_o"].join(" + ")}`,
    terms: () => [
      ...units.map((unit, i) => of(`${symbol}_${i + 1}`, unit)),
      constant("P_o", "Other AC loads", others, "power", "brief, all at once"),
    ],
    ...titled,
  });
}

function ratingOfInverters({ values, inverter }: System): TracedValue {
  return traced({
    key: "carries.inverter",
    name: "Inverter continuous rating at its temperature",
    dimension: "apparentPower",
    value: inverter.derated,
    relation: "S_c = n × S_1 × max(0, 1 − d × max(0, T − T_k))",
    terms: () => [
      given("n", values.inverter.count),
      given("S_1", values.inverter.rating),
      given("d", values.inverter.deratePerKelvin),
      given("T", values.inverter.compartmentC),
      given("T_k", values.inverter.derateFromC),
    ],
    source: "full rating up to the knee, derated above it",
  });
}

/** The inverters against everything on: by what they carry, and by the DC current that they take. */
function inverterChecks({ values }: System, { apparent, current }: RunningDraw, rating: TracedValue): Check[] {
  const continuous = check({
    by: "inverter-continuous",
    key: "inverter",
    name: "inverter continuous",
    demand: apparent,
    limit: rating,
    remark: "hot, with everything on",
  });
  const { maxDcCurrent, count } = values.inverter;
  if (!maxDcCurrent) return [continuous];
  const most = traced({
    key: "carries.maxDc",
    name: "Largest DC input, all inverters",
    dimension: "current",
    value: maxDcCurrent.value * count.value,
    relation: "I_m = n × I_1",
    terms: () => [given("n", count), given("I_1", maxDcCurrent)],
    source: "data sheet",
  });
  return [
    continuous,
    check({
      by: "inverter-continuous",
      key: "maxDc",
      name: "inverter DC input",
      demand: current,
      limit: most,
      remark: "at the reserve, when amps are highest",
    }),
  ];
}

function voltageCheck(system: System, { pathPower, side }: RunningDraw): Check {
  const rest = openCircuitVoltage(system.bank, lowestSoc(system));
  const context = { dcLoad: side, ...system };
  const allowed = allowedPathPower(context, rest);
  const { figure, limit } = powerByVoltage(
    system,
    "carries.voltage",
    "Power that the voltage allows, running",
    allowed,
  );
  const volts = voltsAtLimit(context, { by: allowed.by, rest, power: pathPower.value });
  return check({
    by: "bank-voltage",
    key: "voltage",
    name: limit,
    demand: pathPower,
    limit: figure,
    form: "draws",
    remark:
      volts === null
        ? "the voltage collapses"
        : `${formatQuantity(volts, "voltage", METRIC)} with everything on, at the reserve`,
  });
}

/** Each DC unit on a branch of its own: whether the volts at it stay above its own cut-off while all else runs, too. */
function unitVoltageChecks(system: System, { side, current, bankCurrent }: RunningDraw): Check[] {
  const rest = openCircuitVoltage(system.bank, lowestSoc(system));
  return system.units.flatMap(({ index, running }) => {
    const branch = system.beside[index] ? branchOfUnit(system, index) : undefined;
    if (!branch) return [];
    const { name } = system.job.units[index]!;
    const now = { bankCurrent: bankCurrent.value, pathCurrent: current.value, side };
    const allowed = allowedOnBranch(system, index, { rest, own: running.value, ...now });
    const volts = voltageOnBranch(system, index, { seen: allowed.seen, power: running.value });
    const limit = { key: `carries.unitVoltage.${index}`, name: `Power that the voltage at ${name} allows, running` };
    return [
      check({
        by: "bank-voltage",
        key: `unitVoltage.${index}`,
        name: `voltage at ${name}`,
        demand: running,
        limit: powerByVoltageOfUnit(system, limit, allowed, branch.resistanceFigure),
        form: "draws",
        remark: `${formatQuantity(volts, "voltage", METRIC)} with everything on, at the reserve`,
        run: branch.path,
      }),
    ];
  });
}

function protectionCheck(system: System, bankCurrent: TracedValue): Check {
  const { values, bank, job } = system;
  const limit = traced({
    key: "carries.protection",
    name: "Battery limit, continuous",
    dimension: "current",
    value: bank.continuousCurrent,
    relation: "I_l = I_1 ÷ q × k_T",
    terms: () => [
      given("I_1", values.bank.continuousCurrent),
      largestShare(system),
      constant("k_T", "Derating factor at its temperature", bank.hotShare, "ratio", "less from 45 °C on"),
    ],
    source: "data sheet; the battery that gives most meets its limit first",
  });
  return check({
    by: "bms-discharge",
    key: "protection",
    name: job.bank.chemistry === "agm" ? "battery current limit" : "battery protection",
    demand: bankCurrent,
    limit,
    remark: "continuous, at the reserve",
  });
}

/** Apparent power on each output conductor of the inverter: one, or the two legs of a split phase. */
function outputLegs(system: System, whole: TracedValue): TracedValue[] {
  const { legs, units, job, loads } = system;
  if (!legs.split) return [whole];
  return ([0, 1] as const).map((leg) => {
    const own = units.filter(
      ({ direct, index }) => !direct && legShares(job.brief.mains, job.units[index]!.leg)[leg] > 0,
    );
    const share = (index: number) => legShares(job.brief.mains, job.units[index]!.leg)[leg];
    return traced({
      key: `carries.leg.${leg}`,
      name: `Apparent power on leg L${leg + 1}`,
      dimension: "apparentPower",
      value: own.reduce((sum, u) => sum + share(u.index) * u.runningApparent.value, 0) + loads.byLeg[leg],
      relation: `S = ${[...own.map((u, i) => `${share(u.index) === 1 ? "" : "0.5 × "}S_${i + 1}`), "P_o"].join(" + ")}`,
      terms: () => [
        ...own.map((u, i) => of(`S_${i + 1}`, u.runningApparent)),
        constant("P_o", "Other AC loads on this leg", loads.byLeg[leg], "power", "brief, all at once"),
      ],
      source: "a load between the legs is half on each",
    });
  });
}

/** Each leg against its half of the inverter, and their difference. */
function legChecks(rating: TracedValue, outputs: TracedValue[]): Check[] {
  const half = traced({
    key: "carries.leg",
    name: "Inverter continuous, one leg",
    dimension: "apparentPower",
    value: rating.value / 2,
    relation: "S = S_c ÷ 2",
    terms: () => [of("S_c", rating)],
  });
  const checks = outputs.map((leg, i) =>
    check({
      by: "leg-load",
      key: `leg.${i + 1}`,
      name: `leg L${i + 1} of the inverter`,
      demand: leg,
      limit: half,
      remark: "everything on",
      part: "inverter",
    }),
  );
  const [first, second] = outputs as [TracedValue, TracedValue];
  const apart = traced({
    key: "carries.leg.apart",
    name: "Difference of the legs",
    dimension: "apparentPower",
    value: Math.abs(first.value - second.value),
    relation: "ΔS = max(S_1, S_2) − min(S_1, S_2)",
    terms: () => [of("S_1", first), of("S_2", second)],
  });
  const allowed = traced({
    key: "carries.leg.balance",
    name: "Half of a leg's rating",
    dimension: "apparentPower",
    value: half.value / 2,
    relation: "S = S_l ÷ 2",
    terms: () => [of("S_l", half)],
    source: "common practice, no source",
  });
  checks.push(
    check({
      by: "leg-balance",
      key: "leg.balance",
      name: "balance of the legs",
      demand: apart,
      limit: allowed,
      remark: "move loads to the other leg",
      rule: true,
      soft: 0,
      part: "inverter",
    }),
  );
  return checks;
}

/** Converters for DC loads against all those loads at once. */
function converterChecks({ wiring, values, job }: System): Check[] {
  return wiring.branches.flatMap(({ branch, title }, i) => {
    if (branch!.role !== "loads" || !branch!.converter) return [];
    const v = values.wiring.branches[i]!;
    const dc = job.brief.loads.reduce(
      (sum, load, k) => (load.side === "dc" ? sum + values.loads[k]!.power.value : sum),
      0,
    );
    const need = traced({
      key: `wiring.branches.${i}.loads`,
      name: `DC loads at once, ${title}`,
      dimension: "current",
      value: dc / v.loadVoltage.value,
      relation: "I = P ÷ V",
      terms: () => [constant("P", "DC loads of the brief", dc, "power", "all at once"), given("V", v.loadVoltage)],
    });
    const has = stated(
      { key: `wiring.branches.${i}.converter`, name: `Converter rating, ${title}`, source: "data sheet" },
      "I_n",
      given("I_1", v.converterRating),
    );
    return [
      check({
        by: "converter-rating",
        key: `wiring.branches.${i}:converter`,
        name: `converter, ${title}`,
        demand: need,
        limit: has,
        remark: "all DC loads at once",
        rule: true,
        part: `wiring.branches.${i}`,
      }),
    ];
  });
}

/** A generator that the plan counts on, or that starts by itself, against all AC loads at once. */
function generatorChecks({ job, values, inverter, converted }: System, apparent: TracedValue): Check[] {
  const planned = job.plan.patterns.some(({ spans }) => spans.some(({ kind }) => kind === "generator"));
  if (!converted || (!planned && !job.supplies.generatorAuto)) return [];
  const { generatorRating, generatorContinuous, altitude } = values.supplies;
  const left = generatorDerate(altitude.value, values.weather.highestC.value);
  const helps = job.inverter.combined && job.inverter.assist ? inverter.derated : 0;
  const has = traced({
    key: "carries.generator",
    name: "Generator, for hours",
    dimension: "apparentPower",
    value: generatorRating.value * generatorContinuous.value * left + helps,
    relation: "S = S_g × c × k + S_i",
    terms: () => [
      given("S_g", generatorRating),
      given("c", generatorContinuous),
      constant("k", "Altitude and heat", left, "ratio", "3 % less for each 300 m, 1 % for each 5 K above 25 °C"),
      constant(
        "S_i",
        "Added by an inverter-charger",
        helps,
        "apparentPower",
        helps > 0 ? "it assists" : "none assists",
      ),
    ],
  });
  return [
    check({
      by: "generator",
      key: "generator",
      name: "generator, for hours",
      demand: apparent,
      limit: has,
      remark: "all AC loads at once",
      rule: true,
      soft: 0,
      part: "supplies",
    }),
  ];
}
