import { coldFactor, openCircuitVoltage } from "../../models/battery/battery";
import { constant, traced, type TracedValue } from "../../units/trace";
import type { CheckedPart } from "./checked";

/**
 * Largest short-circuit current just behind a part: an upper bound. From the battery, its open-circuit voltage over the cells
 * alone, half of them where their resistance is assumed, without the protection board's; from another source, what that
 * source gives.
 */
export function faultAt({ system, circuit, index, one }: CheckedPart): TracedValue {
  const { bank, values } = system;
  const before = circuit.parts.slice(0, index).reduce((sum, { resistance }) => sum + resistance, 0);
  const titled = {
    key: `${one.path}:fault`,
    name: `Short-circuit current, upper bound, ${one.name}`,
    dimension: "current" as const,
  };
  const { far } = circuit;
  if (far) {
    const volts = far.highestVolts;
    const inner = volts / Math.max(1, far.shortCircuit);
    return traced({
      value: volts / (inner + before),
      relation: "I_k = E ÷ (R_s + R)",
      terms: () => [
        constant("E", "Voltage of the source", volts, "voltage", far.source),
        constant(
          "R_s",
          "Its resistance",
          inner,
          "resistance",
          `gives ${Math.round(far.shortCircuit)} A in a short circuit`,
        ),
        constant("R", "Parts before it", before, "resistance", "in series, from the source"),
      ],
      source: "a bolted short right behind it",
      ...titled,
    });
  }
  const rest = openCircuitVoltage(bank, 1);
  const assumed = !values.bank.resistance.entered;
  // A warm battery pushes hardest, whatever it is today, and a new one harder than an old one.
  const warm = bank.cellResistance / coldFactor(values.bank.temperatureC.value);
  const least = (assumed ? 0.5 : 1) * warm;
  return traced({
    value: rest / Math.max(least + before, 1e-6),
    relation: "I_k = E ÷ (R_z + R)",
    terms: () => [
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
    source: "upper bound: a bolted short right behind it",
    ...titled,
  });
}
