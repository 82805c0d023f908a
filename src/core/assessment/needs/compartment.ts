import { draught, ventFor, WALLS } from "../../reference/air/compartment";
import { isCharging } from "../../document/schema";
import { compartmentHeat } from "../../document/defaults";
import { constant, given, of, traced, type TracedValue } from "../../units/trace";
import type { System } from "../../models/system/system";

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
