import { by } from "../../catalogue/clauses";
import type { Rule, Example } from "../../catalogue/rule";
import { american, awg, breaker, circuit, q } from "../../examples/systems";
import { carriesLoad, isUnitsOwn } from "../../needs/cable";

export const unitMca: Rule = {
  id: "unit-mca",
  group: "AC wiring",
  title: "Unit's circuit carries the minimum circuit ampacity",
  asks: "A cable that feeds one air conditioner carries the MCA on its plate, or 1.25 × compressor RLA + other loads.",
  clause: by("NEC 440.4(B), 440.33", "NEC 440.33", "plate of the unit", "plate of the unit", "plate of the unit"),
  broken: "Fails",
  fix: "Use cable of at least the minimum circuit ampacity on the unit’s plate.",
  part: { cable: (at) => (isUnitsOwn(at) && at.system.wiring.rules.continuous > 1 ? [carriesLoad(at)] : []) },
};

export const example: Example = {
  what: "12 AWG for a unit whose plate asks for 24 A",
  breaks: () => circuit(american({ unit: { runningCurrent: q(14), circuitAmpacity: q(24) } }), [breaker(20), awg(12)]),
  word: "Fails",
  meets: () => circuit(american({ unit: { runningCurrent: q(14), circuitAmpacity: q(18) } }), [breaker(20), awg(12)]),
};
