import { isCharging } from "../../document/schema";
import type { System } from "../../models/system/system";
import { constant, traced, type Term, type TracedValue } from "../../units/trace";

/** All that may charge at the same time; null where nothing does. `entered` where somebody said every part of it. */
export function chargingTogether(system: System): { figure: TracedValue | null; entered: boolean } {
  const { values, job, bank } = system;
  const sources: Term[] = [];
  let whole = 0;
  let entered = values.bank.chargeCurrent.entered;
  const add = (name: string, amps: number, why: string, isEntered: boolean) => {
    if (amps <= 0) return;
    whole += amps;
    entered &&= isEntered;
    sources.push(constant(`I_${sources.length + 1}`, name, amps, "current", why));
  };
  system.wiring.branches.forEach(({ branch, array }, i) => {
    if (!isCharging(branch!)) return;
    const v = values.wiring.branches[i]!.current;
    // A controller passes no more than its panels give at the battery's volts.
    const most = array && array.power > 0 ? Math.min(v.value, (1.1 * array.power) / bank.nominalVoltage) : v.value;
    add(branch!.name, most, most < v.value ? "what its panels give" : "largest current", v.entered);
  });
  if (job.inverter.combined && system.converted) {
    const v = values.inverter;
    add(
      "Inverter-charger",
      v.chargeCurrent.value * v.count.value,
      "charging current, all of them",
      v.chargeCurrent.entered,
    );
  }
  if (sources.length === 0) return { figure: null, entered };
  const figure = traced({
    key: "bank.charging",
    name: "All charging currents together",
    dimension: "current",
    value: whole,
    relation: `I = ${sources.map(({ symbol }) => symbol).join(" + ")}`,
    terms: () => sources,
  });
  return { figure, entered };
}
