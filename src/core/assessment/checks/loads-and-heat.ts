import { draught, ventFor, WALLS } from "../../reference/air/compartment";
import type { Circuit } from "../../models/wiring/circuits";
import { isCharging } from "../../document/schema";
import { compartmentHeat } from "../../document/defaults";
import { converterDraw } from "../../document/sides";
import { circuitDesign, hottest, ownUnit, type CircuitLoad } from "./circuit-checks";
import { constant, given, of, record, type TracedValue } from "../../units/trace";
import { check, type Check } from "./check";
import type { System } from "../../models/system/system";
import { onBattery } from "../../document/unit-kinds";

/** What each run carries at the worst simultaneous use, and what its cables and breakers are chosen for. */
export function circuitLoad(
  system: System,
  circuit: Circuit,
  along: TracedValue,
  outputs: readonly TracedValue[],
): CircuitLoad {
  const { figures, values, mains, legs, path } = system;
  const plain = (current: TracedValue): CircuitLoad => ({ current, design: current });
  if (circuit.key === "main") return plain(along);
  if (circuit.key === "mains") {
    const worst = outputs.reduce((a, b) => (b.value > a.value ? b : a));
    const current = record(
      figures,
      "carries.mainsCurrent",
      legs.split ? "AC current of the fuller leg, everything on" : "AC current, everything on",
      "current",
      worst.value / mains,
      "I = S ÷ V",
      [of("S", worst), constant("V", "AC voltage", mains, "voltage", "of one leg")],
    );
    return { current, design: continuous(system, current) };
  }
  const unit = ownUnit(system, circuit);
  if (unit !== null) {
    const volts = system.unitVolts[unit]!;
    const current = record(
      figures,
      `${circuit.path}.current`,
      `Running current, ${circuit.title}`,
      "current",
      system.units[unit]!.runningApparent.value / volts,
      "I = S ÷ V",
      [of("S", system.units[unit]!.runningApparent), constant("V", "AC voltage", volts, "voltage", "of the unit")],
    );
    return { current, design: circuitDesign(system, circuit, unit, current) };
  }
  const at = circuit.branchIndex!;
  const v = values.path.branches[at]!;
  if (circuit.far) {
    const { far, array } = circuit;
    const current = record(
      figures,
      `${circuit.path}.current`,
      `Largest current, ${circuit.title}`,
      "current",
      far.current,
      far.relation,
      array
        ? [
            constant("k", "Code factor", path.rules.solarFactor, "number", path.rules.standards.solar),
            constant(
              "I_sc",
              "Short-circuit current of all strings",
              array.shortCurrent,
              "current",
              "labels of the panels",
            ),
          ]
        : circuit.branch!.role === "loads"
          ? [given("I_c", v.converterRating)]
          : [
              given("I", v.current),
              constant(
                "V_b",
                "Charging voltage of the battery",
                Math.max(system.bank.chargeToVoltage, system.bank.nominalVoltage),
                "voltage",
                "end of charge",
              ),
              constant(
                "V_2",
                "Voltage of the other side",
                far.mains ? far.volts : (far.volts * 13) / 12,
                "voltage",
                far.source,
              ),
              given("η", v.efficiency),
            ],
      array ? path.rules.standards.solar : "the same power on both sides but for the loss",
    );
    return { current, design: far.mains ? continuous(system, current) : current };
  }
  const direct =
    circuit.branch?.role === "dc-unit"
      ? system.rig.units.findIndex((unit) => onBattery(unit) && unit.id === circuit.branch!.unitId)
      : -1;
  if (direct >= 0) {
    const low = Math.max(1, values.units[direct]!.cutOffVoltage.value);
    return plain(
      record(
        figures,
        `${circuit.path}.current`,
        `Running current at its cut-off, ${circuit.title}`,
        "current",
        system.units[direct]!.running.value / low,
        "I = P ÷ V_c",
        [of("P", system.units[direct]!.running), given("V_c", values.units[direct]!.cutOffVoltage)],
      ),
    );
  }
  if (circuit.branch?.role === "loads" && circuit.branch.converter)
    return plain(
      record(
        figures,
        `${circuit.path}.current`,
        `Largest current, ${circuit.title}`,
        "current",
        Math.max(v.current.value, converterDraw(v, system.bank.nominalVoltage)),
        "I = max(I_1, I_c × V_2 ÷ (V_b × η))",
        [
          given("I_1", v.current),
          given("I_c", v.converterRating),
          given("V_2", v.loadVoltage),
          constant("V_b", "Battery, nominal", system.bank.nominalVoltage, "voltage", "of the battery"),
          given("η", v.efficiency),
        ],
        "what the converter draws at its rating, or more where that is entered",
      ),
    );
  return plain(
    record(
      figures,
      `${circuit.path}.current`,
      `Largest current, ${circuit.title}`,
      "current",
      v.current.value,
      "I = I_1",
      [given("I_1", v.current)],
      "what its source or its loads can pass",
    ),
  );
}

/** 125 % of a continuous AC load where the code asks for it; else the load itself. */
function continuous({ figures, path }: System, current: TracedValue): TracedValue {
  const { continuous: factor, standards } = path.rules;
  if (factor === 1) return current;
  return record(
    figures,
    `${current.key}.design`,
    `${current.name}, 125 %`,
    "current",
    factor * current.value,
    "I_d = 1.25 × I",
    [of("I", current)],
    `${standards.ac}: continuous load`,
  );
}

/** What was measured hot, brought to the running current, against the cable beside it. */
export function heatChecks(system: System, along: TracedValue): Check[] {
  const { figures, values } = system;
  const { hotCurrent, airC, cableC, lugC, protectionC } = values.path.measured;
  if (!cableC) return [];
  const checks: Check[] = [];
  const act = record(
    figures,
    "measured.act",
    "Allowed rise above the cable",
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
      check("joint-heat", `measured:${key}`, `${name} above its cable`, over, act, "a poor joint or a tired part", {
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
      "T = T_a + max(0, T_m − T_0) × (I ÷ I_m)²",
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
        "joint-heat",
        `measured:${key}Hot`,
        `${name} temperature`,
        hot,
        hottest(system),
        "by the reading, at the running current",
        { stop: true, tightBelow: 1.08, part: "path.measured" },
      ),
    );
  };
  look("lug", "Hottest termination", lugC, "lug");
  look("protection", "Breaker or fuse", protectionC, "breaker or fuse");
  return checks;
}

export interface Compartment {
  heat: TracedValue;
  /** m2 of each vent that would keep it at its full rating, or 8 K over outdoors where outdoors is too hot for that. */
  vent: TracedValue;
  target: number;
}

/** Heat in the inverter's compartment and the vents that would do. */
export function compartmentOf(system: System, real: TracedValue): Compartment | null {
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
    "Heat in the compartment",
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
  const outdoor = values.weather.highestC.value;
  const target = Math.max(v.derateFromC.value, outdoor + 8);
  const vent = record(
    figures,
    "compartment.vent",
    "Vent area needed, inlet and outlet each",
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
    "stack effect, ASHRAE Fundamentals",
  );
  return { heat, vent, target };
}
