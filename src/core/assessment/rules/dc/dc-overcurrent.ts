import { by } from "../../catalogue/clauses";
import type { Rule, Example } from "../../catalogue/rule";
import { american, loadRun } from "../../examples/systems";
import { guarded } from "../../needs/cable";

export const dcOvercurrent: Rule = {
  id: "dc-overcurrent",
  group: "DC wiring",
  title: "DC cable protected by its fuse",
  asks: "The fuse or breaker of a DC cable is not above its ampacity; in the US the next standard size up is allowed, at most 150 %.",
  clause: by(
    "ABYC E-11, overcurrent protection",
    "ABYC E-11, overcurrent protection",
    "EN 1648; ISO 10133",
    "ISO 13297",
    "AS/NZS 3001.2",
  ),
  broken: "Stop",
  fix: "Fit a smaller fuse, or a thicker cable behind it.",
  part: { cable: (at) => (at.circuit.mains ? [] : guarded(at)) },
};

export const example: Example = {
  what: "14 AWG behind a 30 A fuse on the DC side of a US vehicle",
  breaks: () => loadRun(american(), 14, 30),
  word: "Stop",
  meets: () => loadRun(american(), 14, 15),
};
