import { bankRestVoltage, coldFactor } from "../bank/bank";
import { draught, ventFor, WALLS } from "../inverter/compartment";
import { withstandArea, WITHSTAND_K } from "../path/ampacity";
import { FUSE_KINDS, letThrough } from "../path/fuse";
import { cableLength, isKind, protectorOf, type PathPart, type Run } from "../path/path";
import { isCharging } from "../rig/document";
import { compartmentHeat } from "../rig/typical";
import { constant, given, of, record, type Figure, type Term } from "../sum/figure";
import { check, type Check } from "./check";
import type { System } from "./system";

/** Continuous current through a fuse as a share of its rating: at most 1 / 1.25 (common practice of the marine and caravan rules). */
const FUSE_SPARE = 1.25;
/** Cable that may lie between a source and its fuse where it is sheathed all the way, m (ABYC E-11, 72 in; memory). */
export const UNFUSED_SHEATHED_M = 1.83;
/** The same for bare cable, m (ABYC E-11, 7 in; ISO 10133, 200 mm; memory). */
export const UNFUSED_BARE_M = 0.2;
/** Terminals of a breaker at its rated current: kelvin over the air (product standards allow 60 to 70; memory). */
const BREAKER_RISE_K = 50;
/** Hot enough for a stop. */
const HOT_C = 70;

/** What each run carries at the worst simultaneous use. */
export function runCurrent(system: System, run: Run, along: Figure, apparent: Figure): Figure {
  const { figures, values, mains } = system;
  if (run.key === "main") return along;
  if (run.key === "mains")
    return record(
      figures,
      "carries.mainsCurrent",
      "Mains, everything on",
      "current",
      apparent.value / mains,
      "I = S ÷ V",
      [of("S", apparent), constant("V", "Mains", mains, "voltage", "of the job")],
    );
  const unit = run.branch?.role === "circuit" ? ownUnit(system, run) : undefined;
  if (unit)
    return record(
      figures,
      `${run.path}.current`,
      `Running current, ${run.title}`,
      "current",
      unit.runningApparent.value / mains,
      "I = S ÷ V",
      [of("S", unit.runningApparent), constant("V", "Mains", mains, "voltage", "of the job")],
    );
  const at = Number(run.path.split(".")[2]);
  return record(
    figures,
    `${run.path}.current`,
    `Largest current, ${run.title}`,
    "current",
    values.path.branches[at]!.current.value,
    "I = I_1",
    [given("I_1", values.path.branches[at]!.current)],
    "what its source or its loads can pass",
  );
}

/** The unit that has a circuit to itself, where it is still there and on mains. */
function ownUnit({ rig, units }: System, run: Run): System["units"][number] | undefined {
  const at = rig.units.findIndex(({ id, kind }) => id === run.branch?.unitId && kind !== "dc");
  return units[at];
}

/** Every part of a run against its current: ampacity, ratings, the rules of its fuses, and the volts lost. */
export function runChecks(system: System, run: Run, current: Figure): Check[] {
  const checks = run.parts.flatMap((one, index) => partChecks(system, run, one, index, current));
  const drop = dropCheck(system, run, current);
  if (drop) checks.push(drop);
  if (!run.mains) checks.push(...placeChecks(system, run));
  return checks;
}

function partChecks(system: System, run: Run, one: PathPart, index: number, current: Figure): Check[] {
  const { figures } = system;
  const { part, values, path, name } = one;
  const key = (rule: string) => `${path}:${rule}`;
  const rated = (relation = "I_n = I_1", source = "stamped on it") =>
    record(
      figures,
      key("rating"),
      `Rating, ${name}`,
      "current",
      values.rating!.value,
      relation,
      [given("I_1", values.rating!)],
      source,
    );
  if (isKind(part, "cable")) {
    const checks = [check(key("ampacity"), `${name} ampacity`, current, one.ampacity!, "continuous", { part: path })];
    const guard = protectorOf(run, index);
    if (guard) {
      const fuse = record(
        figures,
        key("guard"),
        `Rating, ${guard.name}`,
        "current",
        guard.values.rating!.value,
        "I_n = I_1",
        [given("I_1", guard.values.rating!)],
        "stamped on it",
      );
      checks.push(
        check(key("guarded"), `${guard.name} above ${name}`, fuse, one.ampacity!, "it would let the cable burn", {
          rule: true,
          stop: true,
          part: path,
        }),
      );
      if (!run.mains) checks.push(withstandCheck(system, run, one, index, guard));
    }
    return checks;
  }
  if (isKind(part, "fuse")) {
    const least = record(
      figures,
      key("least"),
      `125 % of the current, ${name}`,
      "current",
      FUSE_SPARE * current.value,
      "I_m = 1.25 × I",
      [of("I", current)],
      "fuse at 125 % of continuous current: common practice, no source",
    );
    const checks = [
      check(key("size"), `${name} rating`, least, rated(), "125 % of the running current", {
        rule: true,
        part: path,
      }),
      voltageCheck(system, one),
      interruptingCheck(system, run, one, index),
    ];
    if (part.fuseKind === "breaker") checks.push(breakerHeatCheck(system, one, current));
    return checks;
  }
  if (isKind(part, "joints")) return [];
  const remark = isKind(part, "breaker") ? "it would trip in time" : "continuous";
  return [
    check(key("size"), `${name} rating`, current, rated(), remark, {
      ...(run.branch ? { rule: true } : { tightBelow: 1.05 }),
      part: path,
    }),
  ];
}

function voltageCheck(system: System, one: PathPart): Check {
  const { figures, bank, values, rig } = system;
  const part = one.part as PathPart["part"] & { kind: "fuse" };
  const full = bankRestVoltage(bank, 1);
  const charged = record(
    figures,
    "carries.highest",
    "Highest voltage of the bank",
    "voltage",
    Math.max(bank.chargeToVoltage, full),
    "V = max(V_h, V_r)",
    [
      given("V_h", values.bank.chargeToVoltage),
      constant("V_r", "Full bank at rest", full, "voltage", "rest voltage of its chemistry"),
    ],
    rig.bank.chemistry === "agm" ? "absorption end" : "end of charge",
  );
  const volts = record(
    figures,
    `${one.path}:voltage`,
    `Voltage rating, ${one.name}`,
    "voltage",
    one.values.voltage!.value,
    "V_f = V_1",
    [given("V_1", one.values.voltage!)],
    FUSE_KINDS[part.fuseKind].name,
  );
  return check(`${one.path}:volts`, `${one.name} voltage`, charged, volts, "an arc would not go out", {
    rule: true,
    stop: true,
    part: one.path,
  });
}

/** Short-circuit current of the full bank just behind a part: its rest voltage over all that lies before it. */
function faultAt(system: System, run: Run, index: number, key: string, name: string): Figure {
  const { figures, bank, values } = system;
  const before = run.parts.slice(0, index).reduce((sum, { resistance }) => sum + resistance, 0);
  const rest = bankRestVoltage(bank, bank.startShare);
  // A warm bank pushes hardest, whatever it is today.
  const warm =
    bank.innerResistance - bank.cellResistance + bank.cellResistance / coldFactor(values.bank.temperatureC.value);
  return record(
    figures,
    key,
    `Prospective short circuit, ${name}`,
    "current",
    rest / Math.max(warm + before, 1e-6),
    "I_k = E ÷ (R_b + R)",
    [
      constant("E", "Rest voltage as charged", rest, "voltage", "at the terminals"),
      constant("R_b", "Bank resistance, warm", warm, "resistance", "cells, protection and links at 25 °C or more"),
      constant("R", "Parts before it", before, "resistance", "in series, from the bank's terminal"),
    ],
    "a bolted short right behind it",
  );
}

function interruptingCheck(system: System, run: Run, one: PathPart, index: number): Check {
  const fault = faultAt(system, run, index, `${one.path}:fault`, one.name);
  const breaks = record(
    system.figures,
    `${one.path}:breaks`,
    `Interrupting rating, ${one.name}`,
    "current",
    one.values.interrupting!.value,
    "I_b = I_1",
    [given("I_1", one.values.interrupting!)],
    "data sheet",
  );
  return check(
    `${one.path}:interrupting`,
    `${one.name} interrupting rating`,
    fault,
    breaks,
    "the bank’s short circuit is larger",
    {
      rule: true,
      stop: true,
      part: one.path,
    },
  );
}

/** Whether a cable lives through the short circuit that its fuse ends: S = sqrt(I^2 t) / k. */
function withstandCheck(system: System, run: Run, one: PathPart, index: number, guard: PathPart): Check {
  const { figures } = system;
  const part = one.part as PathPart["part"] & { kind: "cable" };
  const fault = faultAt(system, run, index, `${one.path}:fault`, one.name);
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
        `${guard.name}: slow edge of its band, ISO 8820-5 (memory)`,
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
  return check(`${one.path}:short`, `${one.name} in a short circuit`, least, there, "before its fuse has opened", {
    rule: true,
    stop: true,
    part: one.path,
  });
}

/** A resettable breaker's own heat: its rise grows with the square of the current. */
function breakerHeatCheck(system: System, one: PathPart, current: Figure): Check {
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
    "a rise of 50 K at its rating is usual for terminals (memory)",
  );
  return check(`${one.path}:hot`, `${one.name} heat`, heat, hottest(system), "breakers run hotter than their cable", {
    tightBelow: 1.05,
    part: one.path,
  });
}

const hottest = ({ figures }: System) =>
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

function dropCheck(system: System, run: Run, current: Figure): Check | null {
  const { figures, values, bank, mains, path } = system;
  if (run.key !== "main" && !run.parts.some(({ part }) => part.kind === "cable")) return null;
  const main = run.key === "main";
  const resistance = main ? path.resistanceFigure : run.resistanceFigure;
  const nominal = run.mains ? mains : bank.nominalVoltage;
  const limit = main ? values.path.dropLimit : values.path.branchDropLimit;
  const drop = record(
    figures,
    `${run.path}:drop`,
    `Lost along it, ${run.title}`,
    "voltage",
    current.value * resistance.value,
    "ΔV = I × R",
    [of("I", current), of("R", resistance)],
    "Ohm",
  );
  const allowed = record(
    figures,
    `${run.path}:dropLimit`,
    `Voltage drop allowed, ${run.title}`,
    "voltage",
    limit.value * nominal,
    "ΔV_m = d × V_n",
    [given("d", limit), constant("V_n", "Nominal", nominal, "voltage", run.mains ? "mains" : "the bank's")],
    main
      ? "3 % for an inverter's path: common practice, no source"
      : "5 % where nothing is critical: common practice, no source",
  );
  const culprit = worstDropPart(run);
  const mostly = culprit && culprit.resistance > 0.5 * run.resistance ? `, mostly ${culprit.name}` : "";
  const name = `${main ? "voltage drop" : `voltage drop, ${run.title}`}${mostly}`;
  return check(
    `${run.path}:voltsLost`,
    name,
    drop,
    allowed,
    main ? "bank to far end, running" : "at its largest current",
    {
      tightBelow: 1.05,
      part: culprit?.path,
    },
  );
}

const worstDropPart = (run: Run) =>
  run.parts.reduce<PathPart | null>((worst, one) => (!worst || one.resistance > worst.resistance ? one : worst), null);

/** Protection at the source: a fuse, and as near as the rules ask. Engine charging has a source at both ends. */
function placeChecks(system: System, run: Run): Check[] {
  const { figures } = system;
  const fuses = run.parts.flatMap(({ part }, i) => (part.kind === "fuse" ? [i] : []));
  const bankEnd = run.key === "main" ? "at the bank" : `at the bank, ${run.title}`;
  if (fuses.length === 0) {
    const one = record(
      figures,
      `${run.path}:fuseWanted`,
      "Fuses wanted at the source",
      "count",
      1,
      "n = 1",
      [],
      "every source needs protection at the source",
    );
    const none = record(figures, `${run.path}:fuseThere`, "Fuses there", "count", 0, "n = 0", [], "path");
    return [
      check(`${run.path}:fused`, `no fuse ${bankEnd}`, one, none, "a short circuit would have nothing to stop it", {
        stop: true,
        part: run.path,
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
    "ABYC E-11, 72 in where sheathed all the way; 7 in bare (memory)",
  );
  const lengthCheck = (end: string, parts: PathPart[], name: string, part: string) => {
    const metres = cableLength(parts);
    if (metres <= UNFUSED_BARE_M) return [];
    const length = record(
      figures,
      `${run.path}:${end}`,
      "Cable without a fuse before it",
      "length",
      metres,
      "L = Σ L_i",
      parts.filter((one) => one.part.kind === "cable").map((one, i): Term => given(`L_${i + 1}`, one.values.length!)),
    );
    return [
      check(
        `${run.path}:${end}Place`,
        name,
        length,
        allowed,
        "bare cable no more than 0.2 m, sheathed no more than 1.83 m",
        { stop: true, tightBelow: 10, part },
      ),
    ];
  };
  const [first, last] = [fuses[0]!, fuses[fuses.length - 1]!];
  const checks = lengthCheck(
    "unfused",
    run.parts.slice(0, first),
    `fuse too far from the bank${run.key === "main" ? "" : `, ${run.title}`}`,
    run.parts[first]!.path,
  );
  if (run.branch?.role === "engine" && cableLength(run.parts) > UNFUSED_BARE_M)
    checks.push(
      ...lengthCheck(
        "farUnfused",
        run.parts.slice(fuses.length > 1 ? last + 1 : 0),
        `no fuse at the engine's end, ${run.title}`,
        run.parts[last]!.path,
      ).map((one) => ({ ...one, remark: "two sources: the starter battery feeds a short circuit from its end" })),
    );
  return checks;
}

/** What was measured hot, brought to the running current, against the cable beside it. */
export function heatChecks(system: System, along: Figure): Check[] {
  const { figures, values } = system;
  const { hotCurrent, airC, cableC, lugC, protectionC } = values.path.measured;
  if (!cableC) return [];
  const checks: Check[] = [];
  const act = record(
    figures,
    "measured.act",
    "Over the cable at most",
    "number",
    20,
    "ΔT = 20",
    [],
    "more than 20 K above the cable at the same current: act; common practice, no source",
  );
  const look = (key: string, title: string, known: NonNullable<typeof cableC> | undefined, name: string) => {
    if (!known) return;
    const over = record(
      figures,
      `measured.${key}`,
      `${title} over the cable, K`,
      "number",
      Math.max(0, known.value - cableC.value),
      "ΔT = max(0, T − T_c)",
      [given("T", known), given("T_c", cableC)],
      "at the same current",
    );
    checks.push(
      check(`measured:${key}`, `${name} above its cable`, over, act, "a poor joint or a tired part", {
        tightBelow: 1.3,
        part: "path.measured",
      }),
    );
    if (!hotCurrent) return;
    const air = airC?.value ?? values.path.ambientC.value;
    const hot = record(
      figures,
      `measured.${key}.hot`,
      `${title} at the running current`,
      "temperature",
      values.path.ambientC.value + Math.max(0, known.value - air) * Math.pow(along.value / hotCurrent.value, 2),
      "T = T_a + (T_m − T_0) × (I ÷ I_m)²",
      [
        given("T_a", values.path.ambientC),
        given("T_m", known),
        airC ? given("T_0", airC) : given("T_0", values.path.ambientC),
        of("I", along),
        given("I_m", hotCurrent),
      ],
      "heat grows with the square of the current",
    );
    checks.push(
      check(
        `measured:${key}Hot`,
        `${name} temperature`,
        hot,
        hottest(system),
        "by the reading, at the running current",
        { stop: true, tightBelow: 1.08, part: "path.measured" },
      ),
    );
  };
  look("lug", "Hottest lug", lugC, "lug");
  look("protection", "Breaker or fuse", protectionC, "breaker or fuse");
  return checks;
}

export interface Compartment {
  heat: Figure;
  /** m2 of each vent that would keep it at its full rating, or 8 K over outdoors where outdoors is too hot for that. */
  vent: Figure;
  target: number;
}

/** Heat in the inverter's compartment and the vents that would do. */
export function compartmentOf(system: System, real: Figure): Compartment | null {
  if (!system.converted) return null;
  const { figures, values, rig, inverter } = system;
  const v = values.inverter;
  const chargingPower = rig.path.branches.reduce(
    (sum, branch, i) =>
      isCharging(branch) ? sum + values.path.branches[i]!.current.value * system.bank.nominalVoltage : sum,
    0,
  );
  const heat = record(
    figures,
    "compartment.heat",
    "Heat in its compartment",
    "power",
    compartmentHeat(
      { acPower: real.value, chargingPower, ventArea: undefined },
      {
        idlePower: v.idlePower.value,
        lossShare: v.lossShare.value,
        lossRise: v.lossRise.value,
        rating: v.rating.value,
        count: v.count.value,
      },
    ),
    real.value > inverter.rating
      ? "Q = P_0 + a × min(P, S_n) + b × min(P, S_n)² ÷ S_n + 0.08 × P_l"
      : "Q = P_0 + a × P + b × P² ÷ S_n + 0.08 × P_l",
    [
      of("P", real),
      constant("P_0", "Inverter idle", inverter.idlePower, "power", "all inverters"),
      given("a", v.lossShare),
      given("b", v.lossRise),
      constant("S_n", "Inverter rating", inverter.rating, "apparentPower", "all inverters"),
      constant("P_l", "Charging at the same time", chargingPower, "power", "charging branches at their largest"),
    ],
    "inverter loss curve; chargers lose 5 to 12 %: common practice, no source",
  );
  const outdoor = values.brief.outdoorC.value;
  const target = Math.max(v.derateFromC.value, outdoor + 8);
  const vent = record(
    figures,
    "compartment.vent",
    "Vents that would do, each of in and out",
    "opening",
    ventFor(heat.value, target - outdoor, v.ventHeight.value),
    heat.value > WALLS * (target - outdoor) ? "A = (Q − k × ΔT) ÷ (q × ΔT × √(ΔT))" : "A = 0",
    [
      of("Q", heat),
      constant(
        "ΔT",
        "Kept to",
        target - outdoor,
        "number",
        "kelvin over outdoors: full rating, or 8 K where that is too hot",
      ),
      given("h", v.ventHeight),
      constant("k", "Through its walls, per K", WALLS, "power", "a locker of ply, typical"),
      constant(
        "q",
        "Carried by a square metre of vent at 1 K",
        draught(1, v.ventHeight.value),
        "power",
        "stack effect: ρ c × 0.6 ÷ √2 × √(2 g h ÷ T)",
      ),
      given("T_k", v.derateFromC),
    ],
    "stack effect, ASHRAE Fundamentals (memory)",
  );
  return { heat, vent, target };
}
