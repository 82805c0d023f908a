import { by } from "../../catalogue/clauses";
import type { Rule, Example } from "../../catalogue/rule";
import { breaker, cable, edit, jobOf, part, q } from "../../examples/systems";
import { carriesLoad, isUnitsOwn } from "../../needs/cable";

export const acAmpacity: Rule = {
  id: "ac-ampacity",
  group: "AC wiring",
  title: "AC cable carries its load",
  asks: "The ampacity by the AC table, with air temperature, circuits run together and terminals, is at least the design current; on US jobs that is 125 % of a continuous load.",
  clause: by(
    "NEC 210.19(A), 310.16, 110.14(C)",
    "ABYC E-11, AC conductors",
    "IEC 60364-4-43, 433.1; IEC 60364-5-52",
    "ISO 13297; IEC 60364-5-52",
    "AS/NZS 3000, 2.5.3; AS/NZS 3008.1",
  ),
  broken: "Fails",
  fix: "Use a thicker cable, a cooler route, or share the load over two circuits.",
  part: {
    cable: (at) =>
      at.circuit.mains && !(isUnitsOwn(at) && at.system.wiring.rules.continuous > 1) ? [carriesLoad(at)] : [],
  },
};

export const example: Example = {
  what: "1.5 mm² for a load of 20 A",
  breaks: () =>
    edit(
      jobOf({ unit: { runningCurrent: q(20) } }),
      (copy) => void (copy.wiring.mains = [part("rcd"), breaker(25), cable(1.5)]),
    ),
  word: "Fails",
  meets: () =>
    edit(
      jobOf({ unit: { runningCurrent: q(20) } }),
      (copy) => void (copy.wiring.mains = [part("rcd"), breaker(25), cable(4)]),
    ),
};
