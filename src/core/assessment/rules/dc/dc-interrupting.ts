import { by } from "../../catalogue/clauses";
import type { Rule, Example } from "../../catalogue/rule";
import { jobOf, q } from "../../examples/systems";
import type { Finding } from "../../judge/finding";
import type { CheckedPart } from "../../needs/checked";
import { faultAt } from "../../needs/short-circuit";
import type { WiringPart } from "../../../models/wiring/circuits";
import { TracedValue, constant, given, of, stated, traced } from "../../../units/trace";

/** A that a device of a lithium battery interrupts where only an upper bound of its short circuit is known (ABYC E-13). */
const UNSHOWN_FAULT_A = 20_000;
/** The same of lead-acid batteries, the largest class of the table of main breakers (ABYC E-11; from memory). */
const UNSHOWN_LEAD_ACID_A = 5000;

/** A fuse against the largest short-circuit current just behind it. */
function interrupts(at: CheckedPart): Finding {
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
  return {
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
    edge: beyond && !leadAcid,
    part: one.path,
  };
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

export const dcInterrupting: Rule = {
  id: "dc-interrupting",
  group: "DC wiring",
  title: "Interrupting rating",
  asks: "A fuse at the battery can interrupt the largest short-circuit current that the battery may give: an upper bound from half of an assumed resistance without the BMS. Where it is not shown to be lower, a lithium battery wants 20 kA, class T or HRC, and is Tight until its resistance is stated; a lead-acid one wants 5 kA.",
  clause: by("NEC 110.9", "ABYC E-11, E-13", "IEC 60364-4-43, 434", "ISO 13297; ISO/TS 23625", "AS/NZS 3000, 2.5.4"),
  broken: "Stop",
  fix: "Fit a fuse with a higher interrupting rating, such as class T or HRC, or enter the battery’s resistance.",
  part: { fuse: (at) => (at.circuit.far?.limited ? [] : [interrupts(at)]) },
};

export const example: Example = {
  what: "a bolt-down strip of 6 kA on a lithium battery",
  breaks: () => jobOf({ fuse: { fuseKind: "bolted-strip", interrupting: q(6000) } }),
  word: "Stop",
  meets: () => jobOf({ fuse: { fuseKind: "class-t" } }),
};
