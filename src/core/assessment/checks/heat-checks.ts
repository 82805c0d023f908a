import { draught, ventFor, WALLS } from "../../reference/air/compartment";
import { isCharging } from "../../document/schema";
import { compartmentHeat } from "../../document/defaults";
import { hottest } from "./checked-part";
import { constant, given, of, traced, type TracedValue } from "../../units/trace";
import { check, type Check } from "./check";
import type { System } from "../../models/system/system";

/** What was measured hot, brought to the running current, against the cable beside it. */
export function heatChecks(system: System, along: TracedValue): Check[] {
  const { values } = system;
  const { hotCurrent, airC, cableC, lugC, protectionC } = values.wiring.measured;
  if (!cableC) return [];
  const checks: Check[] = [];
  const act = traced({
    key: "measured.act",
    name: "Allowed rise above the cable",
    dimension: "number",
    value: 20,
    relation: "ΔT = 20",
    source: "more than 20 K above the cable at the same current: act; common practice, no source",
  });
  const look = (key: string, title: string, known: NonNullable<typeof cableC> | undefined, name: string) => {
    if (!known) return;
    const over = traced({
      key: `measured.${key}`,
      name: `${title} over the cable, K`,
      dimension: "number",
      value: Math.max(0, known.value - cableC.value),
      relation: "ΔT = max(0, T − T_c)",
      terms: () => [given("T", known), given("T_c", cableC)],
      source: "at the same current",
    });
    checks.push(
      check({
        by: "joint-heat",
        key: `measured:${key}`,
        name: `${name} above its cable`,
        demand: over,
        limit: act,
        remark: "a poor joint or a tired part",
        tightBelow: 1.3,
        part: "wiring.measured",
      }),
    );
    if (!hotCurrent) return;
    const air = airC?.value ?? values.wiring.ambientC.value;
    const hot = traced({
      key: `measured.${key}.hot`,
      name: `${title} at the running current`,
      dimension: "temperature",
      value:
        values.wiring.ambientC.value + Math.max(0, known.value - air) * Math.pow(along.value / hotCurrent.value, 2),
      relation: "T = T_a + max(0, T_m − T_0) × (I ÷ I_m)²",
      terms: () => [
        given("T_a", values.wiring.ambientC),
        given("T_m", known),
        airC ? given("T_0", airC) : given("T_0", values.wiring.ambientC),
        of("I", along),
        given("I_m", hotCurrent),
      ],
      source: "heat grows with the square of the current",
    });
    checks.push(
      check({
        by: "joint-heat",
        key: `measured:${key}Hot`,
        name: `${name} temperature`,
        demand: hot,
        limit: hottest(),
        remark: "by the reading, at the running current",
        stop: true,
        tightBelow: 1.08,
        part: "wiring.measured",
      }),
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
  const { values, job, inverter } = system;
  const v = values.inverter;
  const chargingPower = job.wiring.branches.reduce(
    (sum, branch, i) =>
      isCharging(branch) ? sum + values.wiring.branches[i]!.current.value * system.bank.nominalVoltage : sum,
    0,
  );
  const heat = traced({
    key: "compartment.heat",
    name: "Heat in the compartment",
    dimension: "power",
    value: compartmentHeat(
      { acPower: real.value, chargingPower, ventArea: undefined },
      {
        idlePower: v.idlePower.value,
        lossShare: v.lossShare.value,
        lossRise: v.lossRise.value,
        rating: v.rating.value,
        count: v.count.value,
      },
    ),
    relation:
      real.value > inverter.rating
        ? "Q = P_0 + a × min(P, S_n) + b × min(P, S_n)² ÷ S_n + 0.08 × P_l"
        : "Q = P_0 + a × P + b × P² ÷ S_n + 0.08 × P_l",
    terms: () => [
      of("P", real),
      constant("P_0", "Inverter idle", inverter.idlePower, "power", "all inverters"),
      given("a", v.lossShare),
      given("b", v.lossRise),
      constant("S_n", "Inverter rating", inverter.rating, "apparentPower", "all inverters"),
      constant("P_l", "Charging at the same time", chargingPower, "power", "charging branches at their largest"),
    ],
    source: "inverter loss curve; chargers lose 5 to 12 %: common practice, no source",
  });
  const outdoor = values.weather.highestC.value;
  const target = Math.max(v.derateFromC.value, outdoor + 8);
  const vent = traced({
    key: "compartment.vent",
    name: "Vent area needed, inlet and outlet each",
    dimension: "opening",
    value: ventFor(heat.value, target - outdoor, v.ventHeight.value),
    relation: heat.value > WALLS * (target - outdoor) ? "A = (Q − k × ΔT) ÷ (q × ΔT × √(ΔT))" : "A = 0",
    terms: () => [
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
    source: "stack effect, ASHRAE Fundamentals",
  });
  return { heat, vent, target };
}
