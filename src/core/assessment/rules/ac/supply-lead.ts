import { by } from "../../catalogue/clauses";
import type { Rule, Example } from "../../catalogue/rule";
import { q, withBranch } from "../../examples/systems";
import type { Finding } from "../../judge/finding";
import { leastCopper } from "../../needs/cable";
import type { System } from "../../../models/system/system";
import type { Circuit } from "../../../models/wiring/circuits";
import { leadArea } from "../../../reference/standards/rule-set";
import { constant, given, stated, traced } from "../../../units/trace";

/** The supply lead by its rating and length. */
function leadOf({ values, wiring }: System, circuit: Circuit): Finding {
  const { rules } = wiring;
  const at = circuit.branchIndex!;
  const v = values.wiring.branches[at]!;
  const branchPath = `wiring.branches.${at}` as const;
  const needed = traced({
    key: `${branchPath}.lead`,
    name: `Supply lead needs, ${circuit.title}`,
    dimension: "area",
    value: leadArea(rules, v.current.value, v.leadLength.value) * 0.99,
    relation: "S = 0.99 × S_t × max(1, L ÷ L_t)",
    terms: () => [
      constant("S_t", "Table size at its rating", leadArea(rules, v.current.value, 0), "area", rules.standards.supply),
      given("L", v.leadLength),
      constant("L_t", "Longest lead of the table", rules.leadLength, "length", rules.standards.supply),
      given("I", v.current),
    ],
    source: rules.standards.supply,
  });
  const there = stated(
    { key: `${branchPath}.leadArea`, name: `Supply lead, ${circuit.title}` },
    "S",
    given("S_1", v.leadAreaMm2),
  );
  return {
    name: `supply lead, ${circuit.title}`,
    demand: needed,
    limit: there,
    remark: "by its rating and length",
    part: branchPath,
    aspect: "lead",
  };
}

export const supplyLead: Rule = {
  id: "supply-lead",
  group: "AC wiring",
  title: "Supply lead by its rating and length",
  asks: "The lead from the supply has the copper that the table asks for its rating, and more in proportion where it is longer than the table's leads.",
  clause: by(
    "NEC 551.46(B)",
    "ABYC E-11, shore power cables",
    "IEC 60364-7-721, table 721",
    "IEC 60364-7-709",
    "AS/NZS 3001.2",
  ),
  broken: "Fails",
  fix: "Use a thicker or a shorter lead, or a smaller inlet and breaker.",
  part: { cable: (at) => (at.circuit.branch?.role === "shore" ? [leastCopper(at)] : []) },
  circuit: ({ system, circuit }) => (circuit.branch?.role === "shore" ? [leadOf(system, circuit)] : []),
};

export const example: Example = {
  what: "a 32 A inlet with 25 m of 2.5 mm²",
  breaks: () => withBranch("shore", { current: q(32), leadLength: q(25), leadAreaMm2: q(2.5) }),
  word: "Fails",
  meets: () => withBranch("shore", { current: q(32), leadLength: q(25), leadAreaMm2: q(6) }),
};
