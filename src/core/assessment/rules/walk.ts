import type { PartKind } from "../../document/fields";
import type { System } from "../../models/system/system";
import type { Rule } from "../catalogue/rule";
import { judge, type Check } from "../judge/judge";
import type { Finding } from "../judge/finding";
import type { CheckedCircuit, CheckedPart } from "../needs/checked";
import { shareOfLane } from "../needs/circuit-load";
import type { Carrying } from "../needs/everything-on";
import type { JudgedStart } from "../needs/start-moment";
import { RULES } from "./rules";

/* Asks every rule, and has what it finds judged. */

const ALL: Rule[] = Object.values(RULES);
const OF_STARTS = ALL.filter(({ start }) => start);
const BEFORE_STARTS = ALL.filter(({ beforeStart }) => beforeStart);

type AskedOfPart = (at: CheckedPart) => Finding[];

/** Rules by what they look at; those of parts by the kind of part. */
function rulesOf(rules: Rule[]) {
  const parts = new Map<PartKind, [Rule, AskedOfPart][]>();
  for (const rule of rules)
    for (const [kind, asked] of Object.entries(rule.part ?? {}) as [PartKind, AskedOfPart][])
      parts.set(kind, [...(parts.get(kind) ?? []), [rule, asked]]);
  return { parts, circuits: rules.filter(({ circuit }) => circuit), systems: rules.filter(({ system }) => system) };
}

/** All rules, or those alone that have a margin. */
export type Asked = "all" | "margins";
const RULES_OF = { all: rulesOf(ALL), margins: rulesOf(ALL.filter(({ ofThings }) => !ofThings)) };

const judged = (rules: Rule[], asked: (rule: Rule) => Finding[]): Check[] =>
  rules.flatMap((rule) => asked(rule).map((finding) => judge(rule, finding)));

/** Every part of a circuit against its load, and the circuit as a whole. */
export function checksOfCircuit({ system, circuit, load, shared }: CheckedCircuit, which: Asked = "all"): Check[] {
  const { parts, circuits } = RULES_OF[which];
  const each = { current: shareOfLane(circuit, load.current), design: shareOfLane(circuit, load.design) };
  const ofParts = circuit.parts.flatMap((one, index) => {
    const joined = shared && index <= shared.upTo ? shared : null;
    // The parts of circuits side by side stand in each of them, before the busbar as well.
    const carried = joined && circuit.lanes < 2 ? joined.load : each;
    const at = { system, circuit, one, index, load: carried, beside: joined?.beside ?? null };
    return (parts.get(one.part.kind) ?? []).flatMap(([rule, asked]) =>
      asked(at).map((finding) => judge(rule, finding)),
    );
  });
  return [...ofParts, ...judged(circuits, (rule) => rule.circuit!({ system, circuit, load }))];
}

/** The system as a whole, with everything on. */
export const checksOfSystem = (carrying: Carrying, which: Asked = "all"): Check[] =>
  judged(RULES_OF[which].systems, (rule) => rule.system!(carrying));

/** Each limit at the moment at which a start comes nearest to it. */
export const checksOfStart = (start: JudgedStart): Check[] => judged(OF_STARTS, (rule) => rule.start!(start));

/** What has to be so before anything starts. */
export const checksBeforeStart = (system: System): Check[] =>
  judged(BEFORE_STARTS, (rule) => rule.beforeStart!(system));
