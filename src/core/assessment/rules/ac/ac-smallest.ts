import { by } from "../../catalogue/clauses";
import type { Rule, Example } from "../../catalogue/rule";
import { breaker, cable, edit, jobOf, part } from "../../examples/systems";
import { leastCopper } from "../../needs/cable";

export const acSmallest: Rule = {
  id: "ac-smallest",
  group: "AC wiring",
  title: "AC cable not under the smallest size",
  asks: "Fixed AC wiring is at least 14 AWG (US road), 16 AWG (US boat), 1.5 mm² (European road, Australia and New Zealand) or 1 mm² (European boat).",
  clause: by("NEC 310.3(A), 551.47", "ABYC E-11", "IEC 60364-7-721, 721.524", "ISO 13297", "AS/NZS 3000, 3.3"),
  broken: "Fails",
  fix: "Use the smallest size of the rule set or a thicker one.",
  part: { cable: (at) => (at.circuit.mains && at.circuit.branch?.role !== "shore" ? [leastCopper(at)] : []) },
};

export const example: Example = {
  what: "1 mm² in a road vehicle",
  breaks: () => edit(jobOf(), (copy) => void (copy.wiring.mains = [part("rcd"), breaker(6), cable(1)])),
  word: "Fails",
  meets: () => edit(jobOf(), (copy) => void (copy.wiring.mains = [part("rcd"), breaker(6), cable(1.5)])),
};
