import { by } from "../../catalogue/clauses";
import type { Rule, Example } from "../../catalogue/rule";
import { panels, q } from "../../examples/systems";
import type { Finding } from "../../judge/finding";
import { type ArrayOnController, arraysOf } from "../../needs/arrays";
import { coldRise } from "../../../document/sides";
import type { System } from "../../../models/system/system";
import { constant, given, traced } from "../../../units/trace";

/** Volts that a controller is taken to bear where nobody listed one. */
const UNLISTED_VOLTS = 100;

/** The longest string on the coldest morning against what its controller bears. */
function coldMorning({ values, wiring }: System, { index, name, at, array }: ArrayOnController): Finding {
  const v = values.sources.controllers[index];
  const cold = traced({
    key: `solar.${index}.cold`,
    name: `String voltage on the coldest morning, ${name}`,
    dimension: "voltage",
    value: array.coldVolts,
    relation: "V = V_oc × k",
    terms: () => [
      constant(
        "V_oc",
        "Open-circuit voltage of the longest string",
        array.openVolts,
        "voltage",
        "panels in series, at 25 °C",
      ),
      constant(
        "k",
        "Rise in the cold",
        coldRise(values.sources.lowestC.value),
        "number",
        "NEC table 690.7(A), IEC 62548 table 5: crystalline silicon",
      ),
      given("T", values.sources.lowestC),
    ],
    source: wiring.rules.standards.solar,
  });
  const bears = traced({
    key: `solar.${index}.bears`,
    name: `Max PV voltage, ${name}`,
    dimension: "voltage",
    value: v?.maxVoltage.value ?? UNLISTED_VOLTS,
    relation: "V_m = V_1",
    terms: () =>
      v
        ? [given("V_1", v.maxVoltage)]
        : [constant("V_1", "A usual controller", UNLISTED_VOLTS, "voltage", "none is listed")],
    source: "data sheet",
  });
  return {
    name: `string voltage, ${name}`,
    demand: cold,
    limit: bears,
    remark:
      cold.value > bears.value
        ? "the controller is destroyed on a cold bright morning"
        : "below the controller’s largest PV voltage",
    part: at,
    aspect: `controller${index}`,
  };
}

export const solarVoltage: Rule = {
  id: "solar-voltage",
  group: "Solar",
  title: "String voltage on the coldest morning",
  asks: "The open-circuit voltage of the longest string at the lowest temperature, by the table for crystalline silicon, is at most the controller’s largest PV voltage.",
  clause: by("NEC 690.7(A)", "NEC 690.7(A)", "IEC 62548, 7.2", "IEC 62548, 7.2", "AS/NZS 5033, 4.2"),
  broken: "Stop",
  fix: "Put fewer panels in series, or use a controller for more volts.",
  system: ({ system }) => arraysOf(system).map((array) => coldMorning(system, array)),
};

export const example: Example = {
  what: "four panels of 49 V in series on a controller for 100 V",
  breaks: () => panels(4, 4, { openVoltage: q(49) }),
  word: "Stop",
  meets: () => panels(4, 1, { openVoltage: q(49) }),
};
