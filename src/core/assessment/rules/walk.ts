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
const OF_CIRCUITS = ALL.filter(({ circuit }) => circuit);
const OF_SYSTEMS = ALL.filter(({ system }) => system);
const OF_STARTS = ALL.filter(({ start }) => start);
const BEFORE_STARTS = ALL.filter(({ beforeStart }) => beforeStart);

/** The rules that look at a part, by its kind. */
const OF_PARTS = new Map<PartKind, [Rule, (at: CheckedPart) => Finding[]][]>();
for (const rule of ALL)
  for (const [kind, asked] of Object.entries(rule.part ?? {}) as [PartKind, (at: CheckedPart) => Finding[]][])
    OF_PARTS.set(kind, [...(OF_PARTS.get(kind) ?? []), [rule, asked]]);

const judged = (rules: Rule[], asked: (rule: Rule) => Finding[]): Check[] =>
  rules.flatMap((rule) => asked(rule).map((finding) => judge(rule, finding)));

/** Every part of a circuit against its load, and the circuit as a whole. */
export function checksOfCircuit({ system, circuit, load }: CheckedCircuit): Check[] {
  const each = { current: shareOfLane(circuit, load.current), design: shareOfLane(circuit, load.design) };
  const ofParts = circuit.parts.flatMap((one, index) =>
    (OF_PARTS.get(one.part.kind) ?? []).flatMap(([rule, asked]) =>
      asked({ system, circuit, one, index, load: each }).map((finding) => judge(rule, finding)),
    ),
  );
  return [...ofParts, ...judged(OF_CIRCUITS, (rule) => rule.circuit!({ system, circuit, load }))];
}

/** The system as a whole, with everything on. */
export const checksOfSystem = (carrying: Carrying): Check[] => judged(OF_SYSTEMS, (rule) => rule.system!(carrying));

/** Each limit at the moment at which a start comes nearest to it. */
export const checksOfStart = (start: JudgedStart): Check[] => judged(OF_STARTS, (rule) => rule.start!(start));

/** What has to be so before anything starts. */
export const checksBeforeStart = (system: System): Check[] =>
  judged(BEFORE_STARTS, (rule) => rule.beforeStart!(system));
