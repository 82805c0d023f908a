import { by } from "../../catalogue/clauses";
import type { Rule, Example } from "../../catalogue/rule";
import { breaker, cable, part, q, withBranch } from "../../examples/systems";
import { type Finding, presence } from "../../judge/finding";
import { ratingFigure } from "../../needs/checked";
import { say } from "../../../messages/say";
import type { System } from "../../../models/system/system";
import type { Circuit } from "../../../models/wiring/circuits";
import { constant, given, traced } from "../../../units/trace";

/** The breaker behind an inlet against what is made for it. */
function inletBehindBreaker({ values, wiring: { rules } }: System, circuit: Circuit): Finding[] {
  const breaker = circuit.parts.find(({ part }) => part.kind === "breaker");
  if (!breaker) return [];
  const at = circuit.branchIndex!;
  const branchPath = `wiring.branches.${at}` as const;
  const { current } = values.wiring.branches[at]!;
  // Where no breaker is made at the inlet's rating the next size is usual: 16 A behind a 15 A inlet.
  const next = rules.breakers.find((one) => one >= current.value - 1e-9) ?? current.value;
  const inlet = traced({
    key: `${branchPath}.inlet`,
    name: `Largest breaker behind the inlet, ${circuit.title}`,
    dimension: "current",
    value: next,
    relation: "I_m = I_s",
    terms: () => [
      given("I_1", current),
      constant("I_s", "Breaker made for it", next, "current", "its rating, or the next size made"),
    ],
    source: rules.standards.supply,
  });
  return [
    {
      name: `inlet behind ${breaker.name}`,
      demand: ratingFigure(breaker, `${branchPath}.inletBreaker`),
      limit: inlet,
      remark: "the breaker protects the inlet",
      part: breaker.path,
    },
  ];
}

/** An inverter-charger draws no more from the inlet than the inlet is for. */
function chargersLimit({ job, values, converted }: System, circuit: Circuit): Finding[] {
  if (!job.inverter.combined || !converted) return [];
  const limit = values.inverter.inletLimit;
  const inlet = values.wiring.branches[circuit.branchIndex!]!.current;
  return [
    presence({
      key: `${circuit.path}.limit`,
      title: `limit of the inverter-charger, ${circuit.title}`,
      fault: `limit of the inverter-charger above ${circuit.title}`,
      met: limit.value <= inlet.value + 1e-9,
      reason: say("notices.limitAboveInlet"),
      fix: say("notices.setLimitToInlet"),
      part: "inverter.inletLimit",
      aspect: `circuit${circuit.branchIndex!}`,
    }),
  ];
}

export const supplyInlet: Rule = {
  id: "supply-inlet",
  group: "AC wiring",
  title: "Inlet protected by its breaker",
  asks: "The breaker behind the inlet is at most the inlet's rating, or the next size where none is made at it (16 A behind a 15 A inlet); an inverter-charger is limited to it.",
  clause: by(
    "NEC 551.45(B), 551.46",
    "ABYC E-11, shore power inlets",
    "IEC 60364-7-721, 721.55",
    "ISO 13297",
    "AS/NZS 3001.2",
  ),
  broken: "Fails",
  fix: "Fit a breaker of the inlet’s rating behind it.",
  circuit: ({ system, circuit }) =>
    circuit.branch?.role === "shore" ? [...inletBehindBreaker(system, circuit), ...chargersLimit(system, circuit)] : [],
};

export const example: Example = {
  what: "a 16 A inlet behind a 32 A breaker",
  breaks: () => withBranch("shore", { current: q(16), parts: [part("inlet"), part("rcd"), breaker(32), cable(6)] }),
  word: "Fails",
  meets: () => withBranch("shore", { current: q(16), parts: [part("inlet"), part("rcd"), breaker(16), cable(2.5)] }),
};
