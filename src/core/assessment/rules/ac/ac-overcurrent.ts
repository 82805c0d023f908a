import { by } from "../../catalogue/clauses";
import type { Rule, Example } from "../../catalogue/rule";
import { american, awg, breaker, edit, part } from "../../examples/systems";
import { guarded } from "../../needs/cable";

export const acOvercurrent: Rule = {
  id: "ac-overcurrent",
  group: "AC wiring",
  title: "AC cable protected by the device before it",
  asks: "The fuse or breaker that stands before a cable is not above its ampacity, whichever circuit the device sits in. US road: next standard size up, and 15 A on 14 AWG, 20 A on 12, 30 A on 10. US boat: next standard size up, at most 150 %.",
  clause: by(
    "NEC 240.4(B), 240.4(D), 240.6(A)",
    "ABYC E-11, overcurrent protection",
    "IEC 60364-4-43, 433.1",
    "ISO 13297, overcurrent protection",
    "AS/NZS 3000, 2.5.3.1",
  ),
  broken: "Stop",
  fix: "Fit a smaller breaker, or a thicker cable behind it.",
  part: { cable: (at) => (at.circuit.mains ? guarded(at) : []) },
};

export const example: Example = {
  what: "12 AWG behind a 30 A breaker",
  breaks: () => edit(american(), (copy) => void (copy.wiring.mains = [part("rcd"), breaker(30), awg(12)])),
  word: "Stop",
  meets: () => edit(american(), (copy) => void (copy.wiring.mains = [part("rcd"), breaker(30), awg(10)])),
};
