import { PRACTICE, by } from "../../catalogue/clauses";
import type { Rule, Example } from "../../catalogue/rule";
import { jobOf, q } from "../../examples/systems";
import { voltsLost } from "../../needs/voltage-drop";

export const dcDrop: Rule = {
  id: "dc-drop",
  group: "DC wiring",
  title: "Voltage drop, DC",
  asks: "The voltage lost there and back is at most the share allowed: 3 % to the inverter, 5 % elsewhere unless the job says otherwise.",
  clause: by(
    "ABYC E-11, 3 % and 10 %",
    "ABYC E-11, 3 % and 10 %",
    "EN 1648; " + PRACTICE,
    "ISO 13297",
    "AS/NZS 3001.2",
  ),
  broken: "Fails",
  fix: "Use a thicker or a shorter cable, or more in parallel.",
  circuit: (at) => (at.circuit.mains ? [] : voltsLost(at)),
};

export const example: Example = {
  what: "15 m of 16 mm² between battery and inverter",
  breaks: () => jobOf({ cable: { areaMm2: q(16), length: q(15) } }),
  word: "Fails",
  meets: () => jobOf({ cable: { areaMm2: q(95), length: q(1) } }),
};
