import type { JobPath, RunPath } from "../../document/path";
import type { Dimension } from "../../units/dimension";
import type { RuleId } from "../rules/catalogue";
import type { TracedValue } from "../../units/trace";
import type { PairForm } from "../../units/format";

export type Word = "Holds" | "Tight" | "Fails" | "Stop";
/** "Choose a place" is the word of a verdict that cannot be judged before the weather is known. */
export const VERDICT_WORDS = ["Holds", "Tight", "Fails", "Stop", "Choose a place"] as const;
export type VerdictWord = (typeof VERDICT_WORDS)[number];

/** Spare that a demand must leave under its limit to be called more than tight. */
export const TIGHT_BELOW = 1.15;
/** Margin given where nothing is asked of a part. */
const AMPLE = 99;

/** Where a rule that is Tight at worst stands among its like: behind what was computed to be near its limit. */
const UNSAID_RANK = 10;

/** What is asked of a wiring part or a circuit, where a choice of cable, fuse or breaker can answer it. */
export type CheckTopic =
  | "ampacity"
  | "fullDraw"
  | "guarded"
  | "least"
  | "size"
  | "output"
  | "volts"
  | "interrupting"
  | "short"
  | "voltsLost";

/** One demand against one limit, each with its working. */
export interface Check {
  key: string;
  /** The part or rule that decides, as the weakest link is named. */
  name: string;
  need: number;
  has: number;
  /** True where there is more than `has`: a run that was not followed to its end. */
  hasMore: boolean;
  /** What `need` and `has` are to each other. */
  form: PairForm;
  dimension: Dimension;
  /** has / need, from 0 to 99. */
  margin: number;
  word: Word;
  /** Plain words: when it happens, or what the rule is for. */
  remark: string;
  demand: TracedValue;
  limit: TracedValue;
  /** Path in the document of the part it is about, where there is one. */
  part: JobPath | undefined;
  /** The run that it is about as a whole, where no one part of it is. */
  run: RunPath | undefined;
  /** What is asked of the part, where sizing reads it. */
  topic: CheckTopic | undefined;
  /** The rule that it comes from. */
  by: RuleId | "lasts" | "recovers";
  /** Orders the checks: the smaller, the nearer to failing. */
  rank: number;
}

/** What a check is made from. */
export interface CheckSource extends Pick<Check, "by" | "key" | "name" | "demand" | "limit"> {
  part?: JobPath | undefined;
  run?: RunPath;
  topic?: CheckTopic | undefined;
  remark: Remark;
  form?: PairForm;
  /** True where there is more than the limit says: a run that was not followed to its end. */
  hasMore?: boolean;
  /** Rules with spare of their own count as holding from 1. */
  tightBelow?: number;
  /** Touches fire, shock or crushed life: failing it is a stop. */
  stop?: boolean;
  /** A rule that is met or not: met, it holds and is never the weakest link. */
  rule?: boolean;
  /** Margin down to which a broken rule is Tight only: what is safe but less than it should be, or not said yet. */
  soft?: number;
  /** Allowed by the rule, but at its edge: Tight where it passes. */
  tight?: boolean;
}

/** What is said beside a check: the same in every state, or what meeting it means and what breaking it leads to. */
export type Remark = string | { met: string; broken: string };

/** Judges a demand by its limit. */
export function check(source: CheckSource): Check {
  const { by, key, name, demand, limit, part, run, topic, remark } = source;
  const margin = demand.value <= 0 ? AMPLE : Math.min(AMPLE, Math.max(0, limit.value / demand.value));
  // Made whole and in one order: thousands are made where one value after another is varied.
  return {
    part,
    run,
    topic,
    by,
    rank: source.rule && margin >= 1 ? AMPLE + 1 : source.soft === 0 ? UNSAID_RANK : margin,
    key,
    name,
    remark: typeof remark === "string" ? remark : margin < 1 ? remark.broken : remark.met,
    margin,
    word: wordOf(margin, source),
    need: demand.value,
    has: limit.value,
    hasMore: source.hasMore ?? false,
    form: source.form ?? (topic === "voltsLost" ? "drops" : "needs"),
    dimension: demand.dimension,
    demand,
    limit,
  };
}

function wordOf(margin: number, { tightBelow = TIGHT_BELOW, stop, rule, soft, tight }: CheckSource): Word {
  if (margin >= 1) return tight || (!rule && margin < tightBelow) ? "Tight" : "Holds";
  if (soft !== undefined && margin >= soft) return "Tight";
  return stop ? "Stop" : "Fails";
}

const GRAVITY: Record<Word, number> = { Holds: 0, Tight: 1, Fails: 2, Stop: 3 };

export interface Verdict<W extends VerdictWord = Word> {
  name: "Starts" | "Carries" | "Lasts" | "Recovers";
  word: W;
  /** The weakest link. */
  decides: Check;
  checks: Check[];
}

/** Orders checks for a list: the gravest word first, then the nearest to failing. */
export const gravestFirst = (a: Check, b: Check): number => GRAVITY[b.word] - GRAVITY[a.word] || a.rank - b.rank;

/** The verdict over some checks (at least one): the gravest word, then the nearest to failing. */
export function verdictOf(name: Verdict["name"], checks: Check[]): Verdict {
  const decides = checks.reduce((worst, one) => (gravestFirst(one, worst) < 0 ? one : worst));
  return { name, word: decides.word, decides, checks };
}

/** The demands and limits of some checks, with their working. */
export const figuresOfChecks = (checks: Check[]): TracedValue[] =>
  checks.flatMap(({ demand, limit }) => [demand, limit]);
