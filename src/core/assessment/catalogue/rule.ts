import type { RuleSetKey } from "../../reference/standards/rule-set";
import type { System } from "../../models/system/system";
import type { Job } from "../../document/schema";
import type { PartKind } from "../../document/fields";
import type { Finding } from "../judge/finding";
import type { JudgedBy } from "../judge/judge";
import type { RuleId } from "../judge/rule-ids";
import type { Word } from "../judge/word";
import type { CheckedCircuit, CheckedPart } from "../needs/checked";
import type { Carrying } from "../needs/everything-on";
import type { JudgedStart } from "../needs/start-moment";

export const GROUPS = [
  "AC wiring",
  "DC wiring",
  "Batteries",
  "Charging",
  "Solar",
  "Inverter and sources",
  "Start",
] as const;

/**
 * A rule: what it asks, by which clause, and what it finds in a system. It looks at each part of a kind, at each circuit, at
 * the system with everything on, or at the hardest start, and judges nothing itself.
 */
export interface Rule extends JudgedBy {
  id: RuleId;
  group: (typeof GROUPS)[number];
  /** In words for a list: "Cable protected by its fuse or breaker". */
  title: string;
  /** What it asks, in one sentence. */
  asks: string;
  /** Standard and clause, by rule set; one for all where it is the same. */
  clause: string | Record<RuleSetKey, string>;
  /** Finds only whether something is there: there is no margin of it. */
  ofThings?: true;
  /** By the kind of part. */
  part?: Partial<Record<PartKind, (at: CheckedPart) => Finding[]>>;
  circuit?(at: CheckedCircuit): Finding[];
  system?(at: Carrying): Finding[];
  start?(at: JudgedStart): Finding[];
  /** What has to be so before anything starts, part of Starts as well. */
  beforeStart?(system: System): Finding[];
}

/** A system that breaks a rule, in a few words, and one that meets it. */
export interface Example {
  what: string;
  breaks(): Job;
  /** What the broken one is called. */
  word: Exclude<Word, "Holds">;
  meets(): Job;
}
