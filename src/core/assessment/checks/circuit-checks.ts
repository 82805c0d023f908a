import { openCircuitVoltage, coldFactor } from "../../models/battery/battery";
import { withstandArea, WITHSTAND_K } from "../../reference/conductors/ampacity";
import { FUSE_KINDS, FUSE_RATINGS, letThrough } from "../../reference/conductors/fuse";
import { cableLength, isKind, type WiringPart, type Circuit } from "../../models/wiring/circuits";
import type { ResolvedQuantity } from "../../units/known";
import { circuitCurrent } from "../../document/resolve";
import { constant, given, of, record, type TracedValue, type Term } from "../../units/trace";
import { check, type Check } from "./check";
import type { System } from "../../models/system/system";
import { maximumOvercurrent } from "../../reference/standards/ac-cable";
import type { RuleId } from "../rules/catalogue";
import { guardOf, largestDevice, STANDARD_RATINGS } from "./guards";
import { leadArea } from "../../reference/standards/rule-set";
import { onMains } from "../../document/unit-kinds";

/** Continuous current through a fuse as a share of its rating: at most 1 / 1.25 (common practice of the marine and caravan rules). */
const FUSE_SPARE = 1.25;
/** Cable that may lie between a source and its fuse where it is sheathed all the way, m (ABYC E-11, 72 in). */
export const UNFUSED_SHEATHED_M = 1.83;
/** The same for bare cable, m (ABYC E-11, 7 in; ISO 10133, 200 mm). */
export const UNFUSED_BARE_M = 0.2;
/** Terminals of a breaker at its rated current: kelvin over the air (product standards allow 60 to 70). */
const BREAKER_RISE_K = 50;
/** Hot enough for a stop, degC. */
export const HOT_C = 70;
/** A that a device of a lithium bank interrupts where the bank's own short circuit is only an assumption (ABYC E-13). */
const UNSHOWN_FAULT_A = 20_000;

/** What a run carries, and what its cables and breakers are chosen for: 125 % of continuous AC loads where the code asks. */
export interface CircuitLoad {
  current: TracedValue;
  design: TracedValue;
}

/** Every part of a run against its load: ampacity, protection, ratings, short circuits and the volts lost. */
export function circuitChecks(system: System, circuit: Circuit, load: CircuitLoad): Check[] {
  const own = shareOfLane(system, circuit, load.current);
  const design = shareOfLane(system, circuit, load.design);
  const checks = circuit.parts.flatMap((one, index) =>
    partChecks(system, circuit, one, index, { current: own, design }),
  );
  const drop = dropCheck(system, circuit, load.current);
  if (drop) checks.push(drop);
  if (!circuit.mains && !circuit.far?.limited) checks.push(...placeChecks(system, circuit));
  if (circuit.branch?.role === "shore") checks.push(...shoreChecks(system, circuit));
  if (circuit.branch?.role === "circuit") checks.push(...unitBreakerChecks(system, circuit));
  return checks;
}

/** Of runs side by side, what one of them carries. */
function shareOfLane({ figures }: System, circuit: Circuit, whole: TracedValue): TracedValue {
  if (circuit.lanes < 2) return whole;
  return record(
    figures,
    `${whole.key}.each`,
    `${whole.name}, each run`,
    "current",
    whole.value / circuit.lanes,
    "I_1 = I ÷ m",
    [of("I", whole), constant("m", "Equal circuits in parallel", circuit.lanes, "count", "one for each inverter")],
  );
}

function partChecks(system: System, circuit: Circuit, one: WiringPart, index: number, load: CircuitLoad): Check[] {
  const { part } = one;
  if (isKind(part, "cable")) return cableChecks(system, circuit, one, index, load);
  if (isKind(part, "fuse")) return fuseChecks(system, circuit, one, index, load);
  if (isKind(part, "joints")) return [];
  if (isKind(part, "breaker")) return breakerChecks(system, circuit, one, load);
  return seriesChecks(system, circuit, one, index, load);
}

const ratingFigure = ({ figures }: System, one: WiringPart, key: string, source = "stamped on it") =>
  record(
    figures,
    key,
    `Rating, ${one.name}`,
    "current",
    one.values.rating!.value,
    "I_n = I_1",
    [given("I_1", one.values.rating!)],
    source,
  );

function cableChecks(system: System, circuit: Circuit, one: WiringPart, index: number, load: CircuitLoad): Check[] {
  const { figures, path: model } = system;
  const { rules } = model;
  const { path, name } = one;
  const key = (rule: string) => `${path}:${rule}`;
  const ampacity = one.ampacity!;
  const ofUnit = circuit.branch?.role === "circuit";
  const guard = guardOf(model, circuit, index);
  // A fuse that nobody entered is taken as large as the cable allows: that it should be 125 % is asked of the cable.
  const assumed = guard !== null && isKind(guard.part, "fuse") && !guard.values.rating!.entered;
  const spare = assumed && !circuit.far?.limited ? FUSE_SPARE : 1;
  const checks = [
    check(
      ofUnit && rules.continuous > 1 ? "unit-mca" : circuit.mains ? "ac-ampacity" : "dc-ampacity",
      key("ampacity"),
      `${name} ampacity`,
      withFuse(system, load.design, spare, key("forFuse"), name),
      ampacity,
      "continuous",
      { part: path, ...(circuit.mains ? { rule: true } : spare > 1 ? { rule: true, soft: 1 / spare } : {}) },
    ),
  ];
  if (circuit.key === "main" && system.converted) {
    const full = withFuse(system, fullDraw(system), spare, key("fullDrawFuse"), name);
    checks.push(
      check(
        "inverter-full-draw",
        key("fullDraw"),
        `${name} at the inverter's full draw`,
        full,
        ampacity,
        fullDrawWords(full, ampacity),
        { rule: true, ...(spare > 1 ? { soft: 1 / spare } : {}), part: path },
      ),
    );
  }
  if (guard) {
    const fuse = ratingFigure(system, guard, key("guard"));
    const rule = circuit.mains ? rules.acDevice : rules.dcDevice;
    const area = one.values.areaMm2!.value;
    let allowed = largestDevice(rule, ampacity.value, area, circuit.mains ? STANDARD_RATINGS : FUSE_RATINGS);
    const unit = ownUnit(system, circuit);
    // NEC 440.22 lets a motor circuit have the plate's largest device where its conductors carry the MCA.
    const plate = unit === null ? undefined : system.values.units[unit]!.largestDevice;
    if (plate && rules.continuous > 1 && ampacity.value >= load.design.value) allowed = Math.max(allowed, plate.value);
    const most = record(
      figures,
      key("largestDevice"),
      `Largest fuse or breaker before ${name}`,
      "current",
      allowed,
      allowed === ampacity.value ? "I_m = I_z" : "I_m = I_d",
      [
        of("I_z", ampacity),
        constant("I_d", "Largest device by the rule", allowed, "current", "from the ampacity and the standard ratings"),
        given("S", one.values.areaMm2!),
        ...(plate ? [given("I_p", plate)] : []),
      ],
      rule === "never-above"
        ? `${rules.standards.protection}: not above the ampacity`
        : rule === "next-size-up"
          ? `${rules.standards.protection}: next standard size up, 240.4(D) on 14 to 10 AWG`
          : `${rules.standards.protection}: next standard size up, at most 150 %`,
    );
    checks.push(
      check(
        circuit.mains ? "ac-overcurrent" : "dc-overcurrent",
        key("guarded"),
        `${name} behind ${guard.name}`,
        fuse,
        most,
        fuse.value > most.value
          ? `${guard.name} lets more current through than ${name} carries`
          : "protected by the device before it",
        {
          rule: true,
          stop: true,
          tight: rule === "next-size-up-to-150" && fuse.value > ampacity.value + 1e-9,
          part: path,
        },
      ),
    );
    if (!circuit.mains && !circuit.far?.limited) checks.push(withstandCheck(system, circuit, one, index, guard));
  }
  if (circuit.mains && one.values.count!.value > 1) {
    const thinnest = record(
      figures,
      key("parallelLeast"),
      `Smallest copper in parallel, ${name}`,
      "area",
      PARALLEL_AC_MM2,
      "S_m = S",
      [constant("S", "From which on AC conductors may be parallel", PARALLEL_AC_MM2, "area", "1/0 AWG, 50 mm²")],
    );
    const each = record(
      figures,
      key("parallel"),
      `Copper of each, ${name}`,
      "area",
      one.values.areaMm2!.value,
      "S = S_1",
      [given("S_1", one.values.areaMm2!)],
    );
    checks.push(
      check(
        "ac-parallel",
        key("parallel"),
        `${name} side by side`,
        thinnest,
        each,
        "thin conductors do not share surely",
        {
          rule: true,
          part: path,
        },
      ),
    );
  }
  if (circuit.mains) {
    const floor =
      circuit.branch?.role === "shore"
        ? Math.max(rules.smallestAcMm2, leadArea(rules, load.current.value, 0))
        : rules.smallestAcMm2;
    const least = record(
      figures,
      key("smallest"),
      `Smallest copper, ${name}`,
      "area",
      // Catalogue sizes of both systems are a hair off their nominal area.
      floor * 0.99,
      "S_m = 0.99 × S",
      [constant("S", "By the rules, to a hundredth", floor, "area", rules.standards.ac)],
      circuit.branch?.role === "shore" ? rules.standards.supply : rules.standards.ac,
    );
    const there = record(figures, key("copper"), `Copper, ${name}`, "area", one.values.areaMm2!.value, "S = S_1", [
      given("S_1", one.values.areaMm2!),
    ]);
    checks.push(
      check(
        circuit.branch?.role === "shore" ? "supply-lead" : "ac-smallest",
        key("least"),
        `${name} size`,
        least,
        there,
        "the least that the rules allow",
        {
          rule: true,
          part: path,
        },
      ),
    );
  }
  return checks;
}

/** A current with the fuse's 125 % on it, where the cable is asked for it. */
function withFuse({ figures }: System, current: TracedValue, spare: number, key: string, name: string): TracedValue {
  if (spare === 1) return current;
  return record(
    figures,
    key,
    `125 % of the current, for the fuse of ${name}`,
    "current",
    spare * current.value,
    "I_m = 1.25 × I",
    [of("I", current)],
  );
}

/** Copper from which on AC conductors may be run in parallel: 1/0 AWG is 53.5 mm2, 50 mm2 its metric fellow. */
const PARALLEL_AC_MM2 = 49.5;

/** What is said of the full draw: why it passes, or what is too little. */
const fullDrawWords = (need: TracedValue, has: TracedValue): string =>
  has.value < need.value
    ? "less than the inverter draws at its rating and cut-off, with 25 % on it for the fuse"
    : "carries the inverter at its rating and cut-off";

/** A along the main run, each lane, with the inverter at its rating and at its cut-off. */
function fullDraw(system: System): TracedValue {
  const { figures, values, inverter, path } = system;
  const v = values.inverter;
  const power = inverter.idlePower + (1 + inverter.lossShare + inverter.lossRise) * inverter.rating;
  const largest = v.maxDcCurrent
    ? Math.min(power / inverter.cutOffVoltage, v.maxDcCurrent.value * v.count.value)
    : power / inverter.cutOffVoltage;
  return record(
    figures,
    "carries.fullDraw",
    "Inverter's full DC draw",
    "current",
    largest / path.main.lanes,
    "I = min((P_0 + (1 + a + b) × S_n) ÷ V_c, I_m) ÷ m",
    [
      constant("P_0", "Inverter idle", inverter.idlePower, "power", "all inverters"),
      given("a", v.lossShare),
      given("b", v.lossRise),
      constant("S_n", "Inverter rating", inverter.rating, "apparentPower", "all inverters"),
      given("V_c", v.cutOffVoltage),
      constant(
        "I_m",
        "Max DC input current",
        v.maxDcCurrent ? v.maxDcCurrent.value * v.count.value : largest,
        "current",
        v.maxDcCurrent ? "data sheet" : "not stated",
      ),
      constant("m", "Equal circuits in parallel", path.main.lanes, "count", "one for each of several inverters"),
    ],
    "rating ÷ efficiency ÷ volts",
  );
}

function fuseChecks(system: System, circuit: Circuit, one: WiringPart, index: number, load: CircuitLoad): Check[] {
  const { figures } = system;
  const { path, name, part } = one;
  const key = (rule: string) => `${path}:${rule}`;
  // A solar array's factor is in its current already, and a converter holds its own output.
  const spare = circuit.far?.limited ? 1 : FUSE_SPARE;
  const least = record(
    figures,
    key("least"),
    `${spare > 1 ? "125 % of the current" : "Current"}, ${name}`,
    "current",
    spare * load.current.value,
    `I_m = ${spare} × I`,
    [of("I", load.current)],
    "fuse at 125 % of continuous current: common practice, no source",
  );
  const rated = ratingFigure(system, one, key("rating"));
  // An assumed fuse follows its cable, which answers for it; without a cable nothing else would.
  const asked = one.values.rating!.entered || !circuit.parts.some((other) => isKind(other.part, "cable"));
  const checks = [
    ...(asked
      ? [
          check("dc-fuse-load", key("size"), `${name} rating`, least, rated, "125 % of the running current", {
            rule: true,
            part: path,
          }),
        ]
      : []),
    voltageCheck(system, circuit, one),
    ...(circuit.far?.limited ? [] : [interruptingCheck(system, circuit, one, index)]),
  ];
  if (circuit.key === "main" && system.converted && asked) {
    const full = fullDraw(system);
    const wanted = record(
      figures,
      "carries.fullDraw.fuse",
      "125 % of the inverter's full DC draw",
      "current",
      FUSE_SPARE * full.value,
      "I_m = 1.25 × I",
      [of("I", full)],
    );
    checks.push(
      check(
        "inverter-full-draw",
        key("fullDraw"),
        `${name} at the inverter's full draw`,
        wanted,
        rated,
        fullDrawWords(wanted, rated),
        {
          rule: true,
          soft: 1 / FUSE_SPARE,
          part: path,
        },
      ),
    );
  }
  if (isKind(part, "fuse") && part.fuseKind === "breaker") checks.push(breakerHeatCheck(system, one, load.current));
  return checks;
}

function breakerChecks(system: System, circuit: Circuit, one: WiringPart, load: CircuitLoad): Check[] {
  const { figures, inverter, mains, legs } = system;
  const { path, name } = one;
  const rated = ratingFigure(system, one, `${path}:rating`);
  const shore = circuit.branch?.role === "shore";
  const checks = [
    check("ac-breaker-load", `${path}:size`, `${name} rating`, load.design, rated, "continuous", {
      rule: true,
      // Behind an inlet a smaller breaker takes less from shore: safe, and said.
      ...(shore ? { soft: 0 } : {}),
      part: path,
    }),
  ];
  if (circuit.key === "mains") {
    const share = legs.split ? 2 : 1;
    const output = record(
      figures,
      "carries.output",
      "Rated output current of the inverter",
      "current",
      inverter.rating / share / mains,
      share === 2 ? "I = S_n ÷ 2 ÷ V" : "I = S_n ÷ V",
      [
        constant("S_n", "Inverter rating", inverter.rating, "apparentPower", "all inverters"),
        constant("V", "AC voltage", mains, "voltage", "of one leg"),
      ],
    );
    checks.push(
      check(
        "ac-output-breaker",
        `${path}:output`,
        `${name} at the inverter's rating`,
        output,
        rated,
        {
          met: "it carries the inverter at its rating",
          broken: "it opens before the inverter is at its rating",
        },
        {
          rule: true,
          soft: 0,
          part: path,
        },
      ),
    );
  }
  return checks;
}

/** Isolators, switches, transfer switches, RCDs, inlets, connectors, busbars, shunts: not under the device that protects them. */
function seriesChecks(system: System, circuit: Circuit, one: WiringPart, index: number, load: CircuitLoad): Check[] {
  const { path, name } = one;
  const rated = ratingFigure(system, one, `${path}:rating`);
  const guard = guardOf(system.path, circuit, index);
  const protectedBy = guard && !circuit.far?.limited ? ratingFigure(system, guard, `${path}:guard`) : load.current;
  // An inlet is protected by the breaker made for it, which its own rule holds.
  const need = isKind(one.part, "inlet") ? load.current : protectedBy;
  const checks = [
    check(
      circuit.far && circuit.branch?.role === "solar" ? "solar-current" : "series-device",
      `${path}:size`,
      `${name} rating`,
      need,
      rated,
      guard ? `${guard.name} protects it` : "the current that can flow",
      { rule: true, part: path },
    ),
  ];
  if (one.values.voltage && !circuit.mains) checks.push(voltageCheck(system, circuit, one));
  return checks;
}

/** The highest volts that parts of a run see. */
function highestVoltage(system: System, circuit: Circuit): TracedValue {
  const { figures, bank, values, rig } = system;
  if (circuit.far) {
    const solar = circuit.branch!.role === "solar";
    return record(
      figures,
      `${circuit.path}.highest`,
      `Highest voltage, ${circuit.title}`,
      "voltage",
      circuit.far.highestVolts,
      solar ? "V = V_oc × (1 + c × max(0, 25 − T))" : "V = 1.25 × V_n",
      solar
        ? [
            constant("V_oc", "Open-circuit voltage of the string", circuit.far.volts, "voltage", "at 25 °C"),
            constant("c", "Voltage rise per kelvin", 0.003, "number", "silicon"),
            given("T", values.sources.lowestC),
          ]
        : [constant("V_n", "Nominal", circuit.far.volts, "voltage", circuit.far.source)],
      solar ? "open circuit on the coldest morning" : "while it is charged",
    );
  }
  const full = openCircuitVoltage(bank, 1);
  return record(
    figures,
    "carries.highest",
    "Highest voltage of the battery",
    "voltage",
    Math.max(bank.chargeToVoltage, full),
    "V = max(V_h, V_r)",
    [
      given("V_h", values.bank.chargeToVoltage),
      constant("V_r", "Full battery, open circuit", full, "voltage", "open-circuit voltage of its chemistry"),
    ],
    rig.bank.chemistry === "agm" ? "absorption end" : "end of charge",
  );
}

function voltageCheck(system: System, circuit: Circuit, one: WiringPart): Check {
  const volts = record(
    system.figures,
    `${one.path}:voltage`,
    `Voltage rating, ${one.name}`,
    "voltage",
    one.values.voltage!.value,
    "V_f = V_1",
    [given("V_1", one.values.voltage!)],
    isKind(one.part, "fuse") ? FUSE_KINDS[one.part.fuseKind].name : "label",
  );
  const highest = highestVoltage(system, circuit);
  return check(
    "dc-voltage-rating",
    `${one.path}:volts`,
    `${one.name} voltage rating`,
    highest,
    volts,
    volts.value < highest.value ? "an arc would not go out" : "above the highest voltage of its side",
    { rule: true, stop: true, part: one.path },
  );
}

/**
 * Largest short-circuit current just behind a part: an upper bound. From the bank, its open-circuit voltage over the cells
 * alone, half of them where their resistance is assumed, without the protection board's; from another source, what that
 * source gives.
 */
function faultAt(system: System, circuit: Circuit, index: number, key: string, name: string): TracedValue {
  const { figures, bank, values } = system;
  const before = circuit.parts.slice(0, index).reduce((sum, { resistance }) => sum + resistance, 0);
  const title = `Short-circuit current, upper bound, ${name}`;
  if (circuit.far) {
    const volts = circuit.far.highestVolts;
    const inner = volts / Math.max(1, circuit.far.shortCircuit);
    return record(
      figures,
      key,
      title,
      "current",
      volts / (inner + before),
      "I_k = E ÷ (R_s + R)",
      [
        constant("E", "Voltage of the source", volts, "voltage", circuit.far.source),
        constant(
          "R_s",
          "Its resistance",
          inner,
          "resistance",
          `gives ${Math.round(circuit.far.shortCircuit)} A in a short circuit`,
        ),
        constant("R", "Parts before it", before, "resistance", "in series, from the source"),
      ],
      "a bolted short right behind it",
    );
  }
  const rest = openCircuitVoltage(bank, 1);
  const assumed = !values.bank.resistance.entered;
  // A warm bank pushes hardest, whatever it is today, and a new one harder than an old one.
  const warm = bank.cellResistance / coldFactor(values.bank.temperatureC.value);
  const least = (assumed ? 0.5 : 1) * warm;
  return record(
    figures,
    key,
    title,
    "current",
    rest / Math.max(least + before, 1e-6),
    "I_k = E ÷ (R_z + R)",
    [
      constant("E", "Open-circuit voltage, full", rest, "voltage", "at the terminals"),
      constant(
        "R_z",
        "Cells alone, warm",
        least,
        "resistance",
        assumed ? "half of the assumed resistance, without the BMS" : "as entered, without the BMS",
      ),
      constant("R", "Parts before it", before, "resistance", "in series, from the battery's terminal"),
    ],
    "upper bound: a bolted short right behind it",
  );
}

function interruptingCheck(system: System, circuit: Circuit, one: WiringPart, index: number): Check {
  const { figures, values, rig } = system;
  const bound = faultAt(system, circuit, index, `${one.path}:fault`, one.name);
  const unshown = !circuit.far && rig.bank.chemistry !== "agm" && !values.bank.resistance.entered;
  const fault =
    unshown && bound.value > UNSHOWN_FAULT_A
      ? record(
          figures,
          `${one.path}:faultTaken`,
          `Short-circuit current to interrupt, ${one.name}`,
          "current",
          UNSHOWN_FAULT_A,
          "I = min(I_k, I_u)",
          [of("I_k", bound), constant("I_u", "Taken where it is not shown", UNSHOWN_FAULT_A, "current", "20 kA")],
          "a lithium battery whose resistance is not known: class T or HRC, 20 kA (ABYC E-13)",
        )
      : bound;
  const breaks = record(
    figures,
    `${one.path}:breaks`,
    `Interrupting rating, ${one.name}`,
    "current",
    one.values.interrupting!.value,
    "I_b = I_1",
    [given("I_1", one.values.interrupting!)],
    "data sheet",
  );
  return check(
    "dc-interrupting",
    `${one.path}:interrupting`,
    `${one.name} interrupting rating`,
    fault,
    breaks,
    breaks.value < fault.value
      ? `the short circuit of the ${circuit.far ? circuit.far.source : "battery"} may be larger`
      : "above the upper bound",
    { rule: true, stop: true, part: one.path },
  );
}

/** Whether a cable lives through the short circuit that its fuse ends: S = sqrt(I^2 t) / k. */
function withstandCheck(system: System, circuit: Circuit, one: WiringPart, index: number, guard: WiringPart): Check {
  const { figures } = system;
  const part = one.part as WiringPart["part"] & { kind: "cable" };
  const fault = faultAt(system, circuit, index, `${one.path}:fault`, one.name);
  const kind = guard.part.kind === "fuse" ? guard.part.fuseKind : "breaker";
  const through = letThrough(guard.values.rating!.value, fault.value, kind);
  const k = WITHSTAND_K[part.insulation];
  const least = record(
    figures,
    `${one.path}:withstand`,
    `Withstands the short circuit, ${one.name}`,
    "area",
    withstandArea(through, k),
    "S = √(I_k² × t) ÷ k",
    [
      of("I_k", fault),
      constant(
        "t",
        "Until the fuse has opened",
        through / (fault.value * fault.value),
        "duration",
        `${guard.name}: slow edge of its band, ISO 8820-5`,
      ),
      constant("k", "Copper in this insulation", k, "number", "IEC 60364-5-54: 115 at 70 °C, 143 at 90 °C"),
    ],
    "IEC 60364-5-54, adiabatic",
  );
  const there = record(
    figures,
    `${one.path}:area`,
    `Copper, ${one.name}`,
    "area",
    one.values.areaMm2!.value * one.values.count!.value,
    "S = n × S_1",
    [given("n", one.values.count!), given("S_1", one.values.areaMm2!)],
  );
  return check(
    "dc-withstand",
    `${one.path}:short`,
    `${one.name} in a short circuit`,
    least,
    there,
    "until its fuse has opened",
    {
      rule: true,
      stop: true,
      part: one.path,
    },
  );
}

/** A resettable breaker's own heat: its rise grows with the square of the current. */
function breakerHeatCheck(system: System, one: WiringPart, current: TracedValue): Check {
  const { figures, values } = system;
  const rating = one.values.rating!;
  const heat = record(
    figures,
    `${one.path}:heat`,
    `Temperature of ${one.name}`,
    "temperature",
    values.path.ambientC.value + BREAKER_RISE_K * Math.pow(current.value / rating.value, 2),
    "T = T_a + 50 × (I ÷ I_n)²",
    [given("T_a", values.path.ambientC), of("I", current), given("I_n", rating)],
    "a rise of 50 K at its rating is usual for terminals",
  );
  return check(
    "breaker-heat",
    `${one.path}:hot`,
    `${one.name} heat`,
    heat,
    hottest(system),
    "breakers run hotter than their cable",
    {
      tightBelow: 1.05,
      part: one.path,
    },
  );
}

export const hottest = ({ figures }: System): TracedValue =>
  record(
    figures,
    "carries.hottest",
    "Hottest allowed",
    "temperature",
    HOT_C,
    "T = 70",
    [],
    "60 to 70 °C and no more: common practice, no source",
  );

/** Nominal volts that the drop of a run is a share of. */
function nominalVolts(system: System, circuit: Circuit): number {
  if (circuit.far) return Math.max(1, circuit.far.volts);
  if (!circuit.mains) return system.bank.nominalVoltage;
  const unit = ownUnit(system, circuit);
  return unit === null ? system.mains : system.unitVolts[unit]!;
}

function dropCheck(system: System, circuit: Circuit, current: TracedValue): Check | null {
  const { figures, values, path } = system;
  if (circuit.key !== "main" && !circuit.parts.some(({ part }) => part.kind === "cable")) return null;
  const main = circuit.key === "main";
  const resistance = main ? path.resistanceFigure : circuit.resistanceFigure;
  const nominal = nominalVolts(system, circuit);
  const limit = main ? values.path.dropLimit : values.path.branchDropLimit;
  const drop = record(
    figures,
    `${circuit.path}:drop`,
    `Voltage drop, ${circuit.title}`,
    "voltage",
    current.value * resistance.value,
    "ΔV = I × R",
    [of("I", current), of("R", resistance)],
    "Ohm",
  );
  const allowed = record(
    figures,
    `${circuit.path}:dropLimit`,
    `Voltage drop allowed, ${circuit.title}`,
    "voltage",
    limit.value * nominal,
    "ΔV_m = d × V_n",
    [
      given("d", limit),
      constant(
        "V_n",
        "Nominal",
        nominal,
        "voltage",
        circuit.far ? circuit.far.source : circuit.mains ? "AC" : "the battery's",
      ),
    ],
    main
      ? "3 % for an inverter's circuit: common practice, no source"
      : "5 % where nothing is critical: common practice, no source",
  );
  const culprit = worstDropPart(circuit);
  const mostly = culprit && culprit.resistance > 0.5 * circuit.resistance ? `, mostly ${culprit.name}` : "";
  const name = `${main ? "voltage drop" : `voltage drop, ${circuit.title}`}${mostly}`;
  return check(
    circuit.mains ? "ac-drop" : "dc-drop",
    `${circuit.path}:voltsLost`,
    name,
    drop,
    allowed,
    main ? "battery to far end, running" : "at its largest current",
    { tightBelow: 1.05, part: culprit?.path },
  );
}

const worstDropPart = (circuit: Circuit) =>
  circuit.parts.reduce<WiringPart | null>(
    (worst, one) => (!worst || one.resistance > worst.resistance ? one : worst),
    null,
  );

/** Protection at the source: a fuse, and as near as the rules ask. An isolator's run has a source at both ends. */
function placeChecks(system: System, circuit: Circuit): Check[] {
  const { figures } = system;
  const by: RuleId = "fuse-at-source";
  const fuses = circuit.parts.flatMap(({ part }, i) => (part.kind === "fuse" ? [i] : []));
  const source = circuit.far ? `the ${circuit.far.source}` : "the battery";
  const end = circuit.key === "main" ? "at the battery" : `at ${source}, ${circuit.title}`;
  if (fuses.length === 0) {
    const one = record(
      figures,
      `${circuit.path}:fuseWanted`,
      "Fuses needed at the source",
      "count",
      1,
      "n = 1",
      [],
      "every source needs protection at the source",
    );
    const none = record(figures, `${circuit.path}:fuseThere`, "Fuses at the source", "count", 0, "n = 0", [], "wiring");
    return [
      check(by, `${circuit.path}:fused`, `no fuse ${end}`, one, none, "a short circuit would have nothing to stop it", {
        stop: true,
        part: circuit.path,
      }),
    ];
  }
  const allowed = record(
    figures,
    "carries.unfused",
    "Cable allowed before its fuse",
    "length",
    UNFUSED_SHEATHED_M,
    "L = L_s",
    [constant("L_s", "Sheathed all the way", UNFUSED_SHEATHED_M, "length", "72 in")],
    "ABYC E-11, 72 in where sheathed all the way; 7 in bare",
  );
  const lengthCheck = (which: string, parts: WiringPart[], name: string, part: string) => {
    const metres = cableLength(parts);
    if (metres <= UNFUSED_BARE_M) return [];
    const length = record(
      figures,
      `${circuit.path}:${which}`,
      "Cable without a fuse before it",
      "length",
      metres,
      "L = Σ L_i",
      parts.filter((one) => one.part.kind === "cable").map((one, i): Term => given(`L_${i + 1}`, one.values.length!)),
    );
    return [
      check(
        by,
        `${circuit.path}:${which}Place`,
        name,
        length,
        allowed,
        "bare cable no more than 0.2 m, sheathed no more than 1.83 m",
        {
          stop: true,
          tightBelow: 10,
          part,
        },
      ),
    ];
  };
  const [first, last] = [fuses[0]!, fuses[fuses.length - 1]!];
  const checks = lengthCheck(
    "unfused",
    circuit.parts.slice(0, first),
    `fuse too far from ${source}${circuit.key === "main" ? "" : `, ${circuit.title}`}`,
    circuit.parts[first]!.path,
  );
  const bothEnds = !circuit.far && circuit.branch?.role === "engine" && circuit.branch.coupling === "isolator";
  if (bothEnds && cableLength(circuit.parts) > UNFUSED_BARE_M)
    checks.push(
      ...lengthCheck(
        "farUnfused",
        circuit.parts.slice(fuses.length > 1 ? last + 1 : 0),
        `no fuse at the engine's end, ${circuit.title}`,
        circuit.parts[last]!.path,
      ).map((one) => ({ ...one, remark: "two sources: the starter battery feeds a short circuit from its end" })),
    );
  return checks;
}

/** The supply lead by its rating and length, and the inlet's breaker. */
function shoreChecks(system: System, circuit: Circuit): Check[] {
  const { figures, values, path } = system;
  const { rules } = path;
  const at = circuit.branchIndex!;
  const v = values.path.branches[at]!;
  const branchPath = `path.branches.${at}`;
  const needed = record(
    figures,
    `${branchPath}.lead`,
    `Supply lead needs, ${circuit.title}`,
    "area",
    leadArea(rules, v.current.value, v.leadLength.value) * 0.99,
    "S = 0.99 × S_t × max(1, L ÷ L_t)",
    [
      constant("S_t", "Table size at its rating", leadArea(rules, v.current.value, 0), "area", rules.standards.supply),
      given("L", v.leadLength),
      constant("L_t", "Longest lead of the table", rules.leadLength, "length", rules.standards.supply),
      given("I", v.current),
    ],
    rules.standards.supply,
  );
  const there = record(
    figures,
    `${branchPath}.leadArea`,
    `Supply lead, ${circuit.title}`,
    "area",
    v.leadAreaMm2.value,
    "S = S_1",
    [given("S_1", v.leadAreaMm2)],
  );
  const checks = [
    check(
      "supply-lead",
      `${branchPath}:lead`,
      `supply lead, ${circuit.title}`,
      needed,
      there,
      "by its rating and length",
      {
        rule: true,
        part: branchPath,
      },
    ),
  ];
  const breaker = circuit.parts.find(({ part }) => part.kind === "breaker");
  if (breaker) {
    // Where no breaker is made at the inlet's rating the next size is usual: 16 A behind a 15 A inlet.
    const next = rules.breakers.find((one) => one >= v.current.value - 1e-9) ?? v.current.value;
    const inlet = record(
      figures,
      `${branchPath}.inlet`,
      `Largest breaker behind the inlet, ${circuit.title}`,
      "current",
      next,
      "I_m = I_s",
      [
        given("I_1", v.current),
        constant("I_s", "Breaker made for it", next, "current", "its rating, or the next size made"),
      ],
      rules.standards.supply,
    );
    checks.push(
      check(
        "supply-inlet",
        `${branchPath}:inlet`,
        `inlet behind ${breaker.name}`,
        ratingFigure(system, breaker, `${branchPath}.inletBreaker`),
        inlet,
        "the breaker protects the inlet",
        {
          rule: true,
          part: breaker.path,
        },
      ),
    );
  }
  return checks;
}

/** Index of the unit that has a circuit to itself, where it is still there and on mains. */
export function ownUnit({ rig }: System, circuit: Circuit): number | null {
  if (circuit.branch?.role !== "circuit") return null;
  const at = rig.units.findIndex((unit) => unit.id === circuit.branch!.unitId && onMains(unit));
  return at < 0 ? null : at;
}

/** A unit's breaker against the largest device that its plate, or the code, allows. */
function unitBreakerChecks(system: System, circuit: Circuit): Check[] {
  const { figures, values, path } = system;
  const unit = ownUnit(system, circuit);
  const guard = guardOf(path, circuit, circuit.parts.length);
  if (unit === null || !guard) return [];
  const v = values.units[unit]!;
  if (!v.largestDevice && path.rules.continuous === 1) return [];
  const running = system.units[unit]!.runningApparent.value / system.unitVolts[unit]!;
  const compressor = Math.min(v.compressorCurrent.value, running);
  const most = v.largestDevice
    ? record(
        figures,
        `${circuit.path}.mocp`,
        `Largest breaker, ${circuit.title}`,
        "current",
        v.largestDevice.value,
        "I_m = I_1",
        [given("I_1", v.largestDevice)],
        "plate of the unit",
      )
    : record(
        figures,
        `${circuit.path}.mocp`,
        `Largest breaker, ${circuit.title}`,
        "current",
        maximumOvercurrent(compressor, running - compressor),
        "I_m = I_s",
        [
          constant(
            "I_s",
            "2.25 × compressor + the rest, rounded down",
            maximumOvercurrent(compressor, running - compressor),
            "current",
            "to a standard rating",
          ),
          constant("I_c", "Compressor", compressor, "current", "rated load"),
          constant("I_o", "Fan and the rest", running - compressor, "current", "running current less the compressor's"),
        ],
        "NEC 440.22",
      );
  return [
    check(
      "unit-mocp",
      `${circuit.path}:mocp`,
      `${guard.name} for ${system.rig.units[unit]!.name}`,
      ratingFigure(system, guard, `${circuit.path}.mocpDevice`),
      most,
      "the largest that the unit allows",
      {
        rule: true,
        part: guard.path,
      },
    ),
  ];
}

/** A that a unit's own circuit is chosen for, as a figure: MCA on the plate, computed, or the running current. */
export function circuitDesign(system: System, circuit: Circuit, unit: number, running: TracedValue): TracedValue {
  const { figures, values, path } = system;
  const v = values.units[unit]!;
  const known: ResolvedQuantity | undefined = v.circuitAmpacity;
  if (!known && path.rules.continuous === 1) return running;
  const compressor = Math.min(v.compressorCurrent.value, running.value);
  return record(
    figures,
    `${circuit.path}.mca`,
    `Minimum circuit ampacity, ${circuit.title}`,
    "current",
    circuitCurrent(path.rules, v, running.value),
    known ? "I = max(I_1, I_r)" : "I = 1.25 × I_c + I_o",
    known
      ? [given("I_1", known), of("I_r", running)]
      : [
          constant("I_c", "Compressor", compressor, "current", "rated load"),
          constant(
            "I_o",
            "Fan and the rest",
            running.value - compressor,
            "current",
            "running current less the compressor's",
          ),
        ],
    known ? "plate of the unit" : "NEC 440.33",
  );
}
