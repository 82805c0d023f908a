import { constant, given, stated, traced, type TracedValue } from "../../units/trace";
import { cableResistance, cableResistancePerMetre, COPPER_ALPHA } from "../../reference/conductors/cable";
import { isKind, type NamedPart } from "./part";
import type { JobValues } from "../../document/resolved";

/** Resistance of the path by two voltages and a current, where all three were entered and make sense. */
export function measuredResistance(measured: JobValues["wiring"]["measured"]): TracedValue | null {
  const { bankVoltage, inverterVoltage, current } = measured;
  if (!bankVoltage || !inverterVoltage || !current || bankVoltage.value <= inverterVoltage.value) return null;
  return traced({
    key: "wiring.measured",
    name: "Wiring, as measured",
    dimension: "resistance",
    value: (bankVoltage.value - inverterVoltage.value) / current.value,
    relation: "R = (V_b − V_i) ÷ I",
    terms: () => [given("V_b", bankVoltage), given("V_i", inverterVoltage), given("I", current)],
    source: "Ohm; volts at the battery's posts and at the inverter's, under the same load",
  });
}

/**
 * Resistance of one part, ohm: of a cable by its length and its copper, of terminations by their number, else as entered.
 * Null where it is not counted. `path` is that of the part in the document, `name` its name on the plan.
 */
export function partResistance({ part, values: known, path, name }: NamedPart): TracedValue | null {
  const key = `${path}.resistance`;
  if (isKind(part, "cable")) {
    const [area, length, count, conductor] = [known.areaMm2!, known.length!, known.count!, known.conductorC!];
    const ways = part.ways === "both" ? 2 : 1;
    return traced({
      key,
      name: `Resistance, ${name}`,
      dimension: "resistance",
      value: ways * cableResistance(area.value, length.value, count.value, conductor.value),
      relation: "R = w × r × L × (1 + α × (T − 20)) ÷ n",
      terms: () => [
        constant("w", "Ways", ways, "count", ways === 2 ? "there and back" : "one way"),
        constant(
          "r",
          "Copper at 20 °C, per metre",
          cableResistancePerMetre(area.value),
          "resistance",
          "IEC 60228 class 5, or ASTM B258 for AWG sizes",
        ),
        given("L", length),
        constant("α", "Rise with temperature, per K", COPPER_ALPHA, "number", "IEC 60228"),
        given("T", conductor),
        given("n", count),
        given("S", area),
      ],
      source: "IEC 60228",
    });
  }
  if (isKind(part, "joints")) {
    const [contacts, each] = [known.contacts!, known.resistance!];
    return traced({
      key,
      name: `Resistance, ${name}`,
      dimension: "resistance",
      value: contacts.value * each.value,
      relation: "R = n × R_1",
      terms: () => [given("n", contacts), given("R_1", each)],
    });
  }
  const own = known.resistance;
  return own ? stated({ key, name: `Resistance, ${name}` }, "R", given("R_1", own)) : null;
}
