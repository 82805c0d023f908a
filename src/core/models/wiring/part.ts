import type { PartPath } from "../../document/path";
import type { PartKind } from "../../document/fields";
import type { Part, PartOf } from "../../document/schema";
import { FUSE_KINDS } from "../../reference/conductors/fuse";
import type { RuleSet } from "../../reference/standards/rule-set";
import type { PartValues } from "../../document/resolved";

/** A part of a circuit with its resolved values, where it stands in the document and what the plan calls it. */
export interface NamedPart<P extends Part = Part> {
  part: P;
  values: PartValues;
  /** Path of the part in the document. */
  path: PartPath;
  /** "fuse F1", or its own name with the mark. */
  name: string;
}

export const PART_NAMES: Record<PartKind, string> = {
  cable: "cable",
  fuse: "fuse",
  isolator: "isolator",
  shunt: "shunt",
  busbar: "busbar",
  joints: "terminations",
  breaker: "breaker",
  changeover: "transfer switch",
  rcd: "RCD",
  inlet: "inlet",
  connector: "connector",
};

/** Letters of designations after IEC 81346-2: F protects, Q switches, W conducts, X joins, B senses. */
export const LETTERS: Record<PartKind, string> = {
  cable: "W",
  fuse: "F",
  breaker: "F",
  rcd: "F",
  isolator: "Q",
  changeover: "Q",
  busbar: "X",
  joints: "X",
  inlet: "X",
  connector: "X",
  shunt: "B",
};

/** Whether a part's kind is the one asked for, for the compiler too. */
export const isKind = <K extends PartKind>(part: Part, kind: K): part is PartOf<K> => part.kind === kind;

/** In lower case, but for a letter that stands by itself: "class T fuse". */
const lowered = (name: string) => name.replace(/[A-Z](?=[a-z])/g, (letter) => letter.toLowerCase());

/** A part in words, without its mark. */
export function partWords(part: Part, rules?: RuleSet): string {
  if (part.kind === "rcd" && rules) return rules.residualName;
  return isKind(part, "fuse") ? lowered(FUSE_KINDS[part.fuseKind].name) : PART_NAMES[part.kind];
}
