import { openCircuitVoltage } from "../../models/battery/battery";
import { dcInput } from "../../models/inverter/inverter";
import { allowedPathPower } from "../../simulation/start/start";
import { constant, given, of, record, type TracedValue, type Term } from "../../units/trace";
import { check, verdictOf, type Check, type Verdict } from "../checks/check";
import { allCircuits } from "../../models/wiring/circuits";
import { generatorDerate } from "../../models/charging/supply";
import { bankChecks } from "../checks/battery-checks";
import { circuitChecks } from "../checks/circuit-checks";
import { legShares } from "../../reference/standards/mains";
import { solarChecks } from "../checks/solar-checks";
import { compartmentOf, heatChecks, circuitLoad, type Compartment } from "../checks/loads-and-heat";
import { ruleChecks, structureRules, type Rule } from "../checks/layout-checks";
import {
  lowestShare,
  recordAllowed,
  recordBankCurrent,
  recordCurrent,
  largestShare,
  type System,
} from "../../models/system/system";

export interface CarriesResult {
  verdict: Verdict;
  rules: Rule[];
  compartment: Compartment | null;
  /** A through each run with everything on, by its path. */
  currents: Record<string, number>;
}

/** Whether every part takes the worst simultaneous running draw for hours, at the reserve; fuses, heat and structure. */
export function assessCarries(system: System): CarriesResult {
  const { figures, values, bank, inverter, path, units, loads, converted, rig } = system;
  const onMains = units.filter((u) => !u.direct);
  const direct = units.filter((u) => u.direct && !system.beside[u.index]);
  const beside = units.filter((u) => system.beside[u.index]);
  const sum = (list: TracedValue[]) => list.reduce((total, f) => total + f.value, 0);
  const unitTerms = (list: TracedValue[], symbol: string): Term[] => list.map((f, i) => of(`${symbol}_${i + 1}`, f));
  const plus = (list: unknown[], symbol: string, more: string) =>
    [...list.map((_, i) => `${symbol}_${i + 1}`), more].join(" + ");

  const apparent = record(
    figures,
    "carries.apparent",
    "All AC loads at once, apparent",
    "apparentPower",
    sum(onMains.map((u) => u.runningApparent)) + loads.mains,
    `S = ${plus(onMains, "S", "P_o")}`,
    [
      ...unitTerms(
        onMains.map((u) => u.runningApparent),
        "S",
      ),
      constant("P_o", "Other AC loads", loads.mains, "power", "brief, all at once"),
    ],
  );
  const real = record(
    figures,
    "carries.real",
    "All AC loads at once",
    "power",
    sum(onMains.map((u) => u.running)) + loads.mains,
    `P = ${plus(onMains, "P", "P_o")}`,
    [
      ...unitTerms(
        onMains.map((u) => u.running),
        "P",
      ),
      constant("P_o", "Other AC loads", loads.mains, "power", "brief, all at once"),
    ],
  );
  const directPower = sum(direct.map((u) => u.running));
  const pathPower = record(
    figures,
    "carries.pathPower",
    "Power along the main circuit",
    "power",
    (converted ? dcInput(inverter, real.value) : 0) + directPower,
    converted ? `P_d = P_0 + (1 + a) × P + b × P² ÷ S_n${directPower > 0 ? " + P_u" : ""}` : "P_d = P_u",
    [
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
    "inverter loss curve",
  );
  const rest = openCircuitVoltage(bank, lowestShare(system));
  const { figure: current, state } = recordCurrent(
    system,
    "carries.current",
    "Current to the inverter, running",
    pathPower,
    loads.dc + sum(beside.map((u) => u.running)),
  );
  const bankCurrent = recordBankCurrent(system, "carries.bankCurrent", "Battery current, running", current, state);

  const checks: Check[] = [];
  if (converted) {
    const has = record(
      figures,
      "carries.inverter",
      "Inverter continuous rating at its temperature",
      "apparentPower",
      inverter.derated,
      "S_c = n × S_1 × max(0, 1 − d × max(0, T − T_k))",
      [
        given("n", values.inverter.count),
        given("S_1", values.inverter.rating),
        given("d", values.inverter.deratePerKelvin),
        given("T", values.inverter.compartmentC),
        given("T_k", values.inverter.derateFromC),
      ],
      "full rating up to the knee, derated above it",
    );
    checks.push(
      check("inverter-continuous", "inverter", "inverter continuous", apparent, has, "hot, with everything on"),
    );
    if (values.inverter.maxDcCurrent) {
      const most = record(
        figures,
        "carries.maxDc",
        "Largest DC input, all inverters",
        "current",
        values.inverter.maxDcCurrent.value * values.inverter.count.value,
        "I_m = n × I_1",
        [given("n", values.inverter.count), given("I_1", values.inverter.maxDcCurrent)],
        "data sheet",
      );
      checks.push(
        check(
          "inverter-continuous",
          "maxDc",
          "inverter DC input",
          current,
          most,
          "at the reserve, when amps are highest",
        ),
      );
    }
  }
  const allowed = allowedPathPower({ ...system, mainsLoad: loads.mains, dcLoad: loads.dc }, rest);
  const { figure: voltage, limit } = recordAllowed(
    system,
    "carries.voltage",
    "Power that the voltage allows, running",
    allowed,
  );
  checks.push(
    check(
      "bank-voltage",
      "voltage",
      limit,
      pathPower,
      voltage,
      state.collapsed ? "the voltage collapses" : "running at the reserve",
    ),
  );

  const protection = record(
    figures,
    "carries.protection",
    "Battery limit, continuous",
    "current",
    bank.continuousCurrent,
    "I_l = I_1 ÷ q × k_T",
    [
      given("I_1", values.bank.continuousCurrent),
      largestShare(system),
      constant("k_T", "Derating factor at its temperature", bank.hotShare, "ratio", "less from 45 °C on"),
    ],
    "data sheet; the battery that gives most meets its limit first",
  );
  checks.push(
    check(
      "bms-discharge",
      "protection",
      rig.bank.chemistry === "agm" ? "battery current limit" : "battery protection",
      bankCurrent,
      protection,
      "continuous, at the reserve",
    ),
  );

  const outputs = converted ? outputLegs(system, apparent) : [apparent];
  if (converted && system.legs.split) checks.push(...legChecks(system, outputs));
  const currents: Record<string, number> = {};
  for (const circuit of allCircuits(path, converted)) {
    const load = circuitLoad(system, circuit, current, outputs);
    currents[circuit.path] = load.current.value;
    checks.push(...circuitChecks(system, circuit, load));
  }
  checks.push(...bankChecks(system, bankCurrent), ...solarChecks(system), ...converterChecks(system));
  checks.push(...generatorChecks(system, apparent));
  checks.push(...heatChecks(system, current));
  const rules = structureRules(system);
  checks.push(...ruleChecks(system, rules));
  return { verdict: verdictOf("Carries", checks), rules, compartment: compartmentOf(system, real), currents };
}

/** Apparent power on each output conductor of the inverter: one, or the two legs of a split phase. */
function outputLegs(system: System, whole: TracedValue): TracedValue[] {
  const { figures, legs, units, rig, loads } = system;
  if (!legs.split) return [whole];
  return ([0, 1] as const).map((leg) => {
    const own = units.filter(
      ({ direct, index }) => !direct && legShares(rig.brief.mains, rig.units[index]!.leg)[leg] > 0,
    );
    const share = (index: number) => legShares(rig.brief.mains, rig.units[index]!.leg)[leg];
    return record(
      figures,
      `carries.leg.${leg}`,
      `Apparent power on leg L${leg + 1}`,
      "apparentPower",
      own.reduce((sum, u) => sum + share(u.index) * u.runningApparent.value, 0) + loads.byLeg[leg],
      `S = ${[...own.map((u, i) => `${share(u.index) === 1 ? "" : "0.5 × "}S_${i + 1}`), "P_o"].join(" + ")}`,
      [
        ...own.map((u, i) => of(`S_${i + 1}`, u.runningApparent)),
        constant("P_o", "Other AC loads on this leg", loads.byLeg[leg], "power", "brief, all at once"),
      ],
      "a load between the legs is half on each",
    );
  });
}

/** Each leg against its half of the inverter, and their difference. */
function legChecks(system: System, outputs: TracedValue[]): Check[] {
  const { figures, inverter } = system;
  const half = record(
    figures,
    "carries.leg",
    "Inverter continuous, one leg",
    "apparentPower",
    inverter.derated / 2,
    "S = S_c ÷ 2",
    [of("S_c", figures["carries.inverter"]!)],
  );
  const checks = outputs.map((leg, i) =>
    check("leg-load", `leg.${i + 1}`, `leg L${i + 1} of the inverter`, leg, half, "everything on", {
      part: "inverter",
    }),
  );
  const [first, second] = outputs as [TracedValue, TracedValue];
  const apart = record(
    figures,
    "carries.leg.apart",
    "Difference of the legs",
    "apparentPower",
    Math.abs(first.value - second.value),
    "ΔS = max(S_1, S_2) − min(S_1, S_2)",
    [of("S_1", first), of("S_2", second)],
  );
  const allowed = record(
    figures,
    "carries.leg.balance",
    "Half of a leg's rating",
    "apparentPower",
    half.value / 2,
    "S = S_l ÷ 2",
    [of("S_l", half)],
    "common practice, no source",
  );
  checks.push(
    check("leg-balance", "leg.balance", "balance of the legs", apart, allowed, "move loads to the other leg", {
      rule: true,
      soft: 0,
      part: "inverter",
    }),
  );
  return checks;
}

/** Converters for DC loads against all those loads at once. */
function converterChecks({ figures, path, values, rig }: System): Check[] {
  return path.branches.flatMap(({ branch, title }, i) => {
    if (branch!.role !== "loads" || !branch!.converter) return [];
    const v = values.path.branches[i]!;
    const dc = rig.brief.loads.reduce(
      (sum, load, k) => (load.side === "dc" ? sum + values.loads[k]!.power.value : sum),
      0,
    );
    const need = record(
      figures,
      `path.branches.${i}.loads`,
      `DC loads at once, ${title}`,
      "current",
      dc / v.loadVoltage.value,
      "I = P ÷ V",
      [constant("P", "DC loads of the brief", dc, "power", "all at once"), given("V", v.loadVoltage)],
    );
    const has = record(
      figures,
      `path.branches.${i}.converter`,
      `Converter rating, ${title}`,
      "current",
      v.converterRating.value,
      "I_n = I_1",
      [given("I_1", v.converterRating)],
      "data sheet",
    );
    return [
      check(
        "converter-rating",
        `path.branches.${i}:converter`,
        `converter, ${title}`,
        need,
        has,
        "all DC loads at once",
        { rule: true, part: `path.branches.${i}` },
      ),
    ];
  });
}

/** A generator that the plan counts on, or that starts by itself, against all AC loads at once. */
function generatorChecks({ figures, rig, values, inverter, converted }: System, apparent: TracedValue): Check[] {
  const planned = rig.plan.patterns.some(({ spans }) => spans.some(({ kind }) => kind === "generator"));
  if (!converted || (!planned && !rig.supplies.generatorAuto)) return [];
  const { generatorRating, generatorContinuous, altitude } = values.supplies;
  const left = generatorDerate(altitude.value, values.weather.highestC.value);
  const helps = rig.inverter.combined && rig.inverter.assist ? inverter.derated : 0;
  const has = record(
    figures,
    "carries.generator",
    "Generator, for hours",
    "apparentPower",
    generatorRating.value * generatorContinuous.value * left + helps,
    "S = S_g × c × k + S_i",
    [
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
  );
  return [
    check("generator", "generator", "generator, for hours", apparent, has, "all AC loads at once", {
      rule: true,
      soft: 0,
      part: "supplies",
    }),
  ];
}
