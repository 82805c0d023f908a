import { by } from "../../catalogue/clauses";
import type { Rule, Example } from "../../catalogue/rule";
import { bank48, cable, engine, fuse, q } from "../../examples/systems";
import { carriesLoad } from "../../needs/cable";

export const dcAmpacity: Rule = {
  id: "dc-ampacity",
  group: "DC wiring",
  title: "DC cable carries its current",
  asks: "The ampacity by the DC table, with route and air temperature, is at least the largest current for hours.",
  clause: by(
    "ABYC E-11, table VI",
    "ABYC E-11, table VI",
    "ISO 10133, table A.1",
    "ISO 13297, table A.1",
    "AS/NZS 3001.2",
  ),
  broken: "Fails",
  fix: "Use a thicker cable or more in parallel, a cooler route, or less current.",
  part: { cable: (at) => (at.circuit.mains ? [] : [carriesLoad(at)]) },
};

export const example: Example = {
  what: "16 mm² for 50 A of charging on the 12 V side of a 48 V battery",
  breaks: () => engine({ current: q(50), far: [fuse(300), cable(16, 3)] }, bank48),
  word: "Fails",
  meets: () => engine({ current: q(50), far: [fuse(300), cable(95, 3)] }, bank48),
};
