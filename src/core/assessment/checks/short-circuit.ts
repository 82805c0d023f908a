import { of, type TracedValue, constant, given, stated, traced } from "../../units/trace";
import type { CheckedPart } from "./checked-part";
import { check, type Check } from "./check";
import { WITHSTAND_K, withstandArea } from "../../reference/conductors/ampacity";
import type { WiringPart } from "../../models/wiring/circuits";
import { coldFactor, openCircuitVoltage } from "../../models/battery/battery";
import { letThrough } from "../../reference/conductors/fuse";

/** A that a device of a lithium battery interrupts where only an upper bound of its short circuit is known (ABYC E-13). */
const UNSHOWN_FAULT_A = 20_000;
/** The same of lead-acid batteries, the largest class of the table of main breakers (ABYC E-11; from memory). */
const UNSHOWN_LEAD_ACID_A = 5000;

/**
 * Largest short-circuit current just behind a part: an upper bound. From the battery, its open-circuit voltage over the cells
 * alone, half of them where their resistance is assumed, without the protection board's; from another source, what that
 * source gives.
 */
function faultAt({ system, circuit, index, one }: CheckedPart): TracedValue {
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

export function interruptingCheck(at: CheckedPart): Check {
  const { system, circuit, one } = at;
  const { values, job } = system;
  const bound = faultAt(at);
  const leadAcid = job.bank.chemistry === "agm";
  const taken = leadAcid ? UNSHOWN_LEAD_ACID_A : UNSHOWN_FAULT_A;
  const breaks = stated(
    { key: `${one.path}:breaks`, name: `Interrupting rating, ${one.name}`, source: "data sheet" },
    "I_b",
    given("I_1", one.values.interrupting!),
  );
  // An upper bound beyond what the standards take as enough is a question to the maker, and no stop.
  const beyond = !circuit.far && bound.value > taken && breaks.value < bound.value;
  const fault = beyond ? takenAsEnough(one, bound, { taken, leadAcid }) : bound;
  return check({
    by: "dc-interrupting",
    key: `${one.path}:interrupting`,
    topic: "interrupting",
    name: `${one.name} interrupting rating`,
    demand: fault,
    limit: breaks,
    remark:
      breaks.value < fault.value
        ? `the short circuit of the ${circuit.far ? circuit.far.source : "battery"} may be larger`
        : !beyond
          ? "above the upper bound"
          : leadAcid
            ? "the largest class of the table for lead-acid batteries"
            : values.bank.resistance.entered
              ? "the upper bound is larger: ask the maker of the battery for its short-circuit current"
              : "the battery's resistance is not stated: enter it, or ask its maker for the short-circuit current",
    rule: true,
    stop: true,
    tight: beyond && !leadAcid,
    part: one.path,
  });
}

/** The short-circuit current that the standards take as enough where only an upper bound is known. */
function takenAsEnough(
  one: WiringPart,
  bound: TracedValue,
  { taken, leadAcid }: { taken: number; leadAcid: boolean },
): TracedValue {
  return traced({
    key: `${one.path}:faultTaken`,
    name: `Short-circuit current to interrupt, ${one.name}`,
    dimension: "current",
    value: taken,
    relation: "I = min(I_k, I_u)",
    terms: () => [
      of("I_k", bound),
      constant("I_u", "Taken where only an upper bound is known", taken, "current", leadAcid ? "5 kA" : "20 kA"),
    ],
    source: leadAcid
      ? "a lead-acid battery: 5 kA (ABYC E-11)"
      : "a lithium battery whose short-circuit current is not known: class T or HRC, 20 kA (ABYC E-13)",
  });
}

/** Whether a cable lives through the short circuit that its fuse ends: S = sqrt(I^2 t) / k. */
export function withstandCheck(at: CheckedPart, guard: WiringPart): Check {
  const { one } = at;
  const part = one.part as WiringPart["part"] & { kind: "cable" };
  const fault = faultAt(at);
  const kind = guard.part.kind === "fuse" ? guard.part.fuseKind : "breaker";
  const through = letThrough(guard.values.rating!.value, fault.value, kind);
  const k = WITHSTAND_K[part.insulation];
  const least = traced({
    key: `${one.path}:withstand`,
    name: `Withstands the short circuit, ${one.name}`,
    dimension: "area",
    value: withstandArea(through, k),
    relation: "S = √(I_k² × t) ÷ k",
    terms: () => [
      of("I_k", fault),
      constant(
        "t",
        "Until the fuse has opened",
        through / (fault.value * fault.value),
        "duration",
        `${guard.name}: slow edge of its band, ISO 8820-5`,
      ),
      constant(
        "k",
        "Copper in this insulation",
        k,
        "number",
        "IEC 60364-5-54: 115 at 70 °C, 143 at 90 °C, 88 at 105 °C",
      ),
    ],
    source: "IEC 60364-5-54, adiabatic",
  });
  const there = traced({
    key: `${one.path}:area`,
    name: `Copper, ${one.name}`,
    dimension: "area",
    value: one.values.areaMm2!.value * one.values.count!.value,
    relation: "S = n × S_1",
    terms: () => [given("n", one.values.count!), given("S_1", one.values.areaMm2!)],
  });
  return check({
    by: "dc-withstand",
    key: `${one.path}:short`,
    topic: "short",
    name: `${one.name} in a short circuit`,
    demand: least,
    limit: there,
    remark: "until its fuse has opened",
    rule: true,
    stop: true,
    part: one.path,
  });
}
