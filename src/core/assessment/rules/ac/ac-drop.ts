import { PRACTICE, by } from "../../catalogue/clauses";
import type { Rule, Example } from "../../catalogue/rule";
import { breaker, cable, edit, jobOf, part, q } from "../../examples/systems";
import { voltsLost } from "../../needs/voltage-drop";

export const acDrop: Rule = {
  id: "ac-drop",
  group: "AC wiring",
  title: "Voltage drop, AC",
  asks: "The voltage lost there and back is at most the share allowed, 5 % unless the job says otherwise.",
  clause: by("NEC 210.19(A), informational note", PRACTICE, "IEC 60364-5-52, annex G", PRACTICE, "AS/NZS 3000, 3.6.2"),
  broken: "Fails",
  fix: "Use a thicker or a shorter cable.",
  circuit: (at) => (at.circuit.mains ? voltsLost(at) : []),
};

export const example: Example = {
  what: "60 m of 1.5 mm² to a unit of 14 A",
  breaks: () =>
    edit(
      jobOf({ unit: { runningCurrent: q(14) } }),
      (copy) => void (copy.wiring.mains = [part("rcd"), breaker(16), cable(1.5, 60)]),
    ),
  word: "Fails",
  meets: () =>
    edit(
      jobOf({ unit: { runningCurrent: q(14) } }),
      (copy) => void (copy.wiring.mains = [part("rcd"), breaker(16), cable(2.5, 5)]),
    ),
};
