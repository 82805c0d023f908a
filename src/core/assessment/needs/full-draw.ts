import type { System } from "../../models/system/system";
import { constant, given, traced, type TracedValue } from "../../units/trace";

/** A along the main run, each lane, with the inverter at its rating and at its cut-off. */
export function fullDraw(system: System): TracedValue {
  const { values, inverter, wiring } = system;
  const v = values.inverter;
  const power = inverter.idlePower + (1 + inverter.lossShare + inverter.lossRise) * inverter.rating;
  const largest = v.maxDcCurrent
    ? Math.min(power / inverter.cutOffVoltage, v.maxDcCurrent.value * v.count.value)
    : power / inverter.cutOffVoltage;
  return traced({
    key: "carries.fullDraw",
    name: "Inverter's full DC draw",
    dimension: "current",
    value: largest / wiring.main.lanes,
    relation: "I = min((P_0 + (1 + a + b) × S_n) ÷ V_c, I_m) ÷ m",
    terms: () => [
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
      constant("m", "Equal circuits in parallel", wiring.main.lanes, "count", "one for each of several inverters"),
    ],
    source: "rating ÷ efficiency ÷ volts",
  });
}
