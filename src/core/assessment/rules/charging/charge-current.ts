import type { Rule, Example } from "../../catalogue/rule";
import { jobOf, q, withBranch } from "../../examples/systems";
import type { Finding } from "../../judge/finding";
import { chargingTogether } from "../../needs/charging";
import { type System, largestShare } from "../../../models/system/system";
import { CHEMISTRIES } from "../../../reference/battery/chemistry";
import { temperatureShare } from "../../../reference/battery/temperature";
import { constant, given, traced } from "../../../units/trace";

/** All that may charge at the same time against what the battery takes at its temperature. */
function together(system: System): Finding[] {
  const { values, job, bank } = system;
  const { figure: need, entered } = chargingTogether(system);
  if (!need) return [];
  const { lithium } = CHEMISTRIES[job.bank.chemistry];
  const temperature = values.bank.temperatureC.value;
  const factor = temperatureShare(lithium, temperature, values.bank.highestChargeC.value).charge;
  const has = traced({
    key: "bank.chargeLimit",
    name: "Max charge current",
    dimension: "current",
    value: bank.chargeCurrent * factor,
    relation: "I_m = I_1 ÷ q × k_T",
    terms: () => [
      given("I_1", values.bank.chargeCurrent),
      largestShare(system),
      constant(
        "k_T",
        "Capacity factor at its temperature",
        factor,
        "ratio",
        lithium ? "none in frost, less under 15 °C and over 45 °C" : "as at 25 °C",
      ),
      given("T", values.bank.temperatureC),
    ],
    source: "data sheet",
  });
  return [
    {
      name: "charging currents together",
      demand: need,
      limit: has,
      remark: "all sources at once",
      gravity: entered ? "Fails" : "Tight",
      part: "bank",
    },
  ];
}

export const chargeCurrent: Rule = {
  id: "charge-current",
  group: "Charging",
  title: "All charging currents together",
  asks: "Solar, engine, charger and inverter-charger together bring no more than the battery may take at its temperature.",
  clause: "data sheet of the battery",
  broken: "Fails",
  fix: "Set the chargers lower, or use more batteries in parallel.",
  system: ({ system }) => together(system),
};

export const example: Example = {
  what: "80 A of charging for a battery that takes 50 A",
  breaks: () =>
    withBranch("charger", { current: q(80) }, jobOf({ bank: { capacityAh: q(100), chargeCurrent: q(50) } })),
  word: "Fails",
  meets: () => withBranch("charger", { current: q(40) }, jobOf({ bank: { capacityAh: q(100), chargeCurrent: q(50) } })),
};
