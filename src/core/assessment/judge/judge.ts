import type { JobPath, RunPath } from "../../document/path";
import type { Dimension } from "../../units/dimension";
import type { PairForm } from "../../units/format";
import type { TracedValue } from "../../units/trace";
import type { Aspect, CheckTopic, Finding } from "./finding";
import type { RuleId } from "./rule-ids";
import { GRAVITY, wordOf, type Gravity, type VerdictWord, type Word } from "./word";

/** Margin given where nothing is asked of a part. */
const AMPLE = 99;

/** Where a rule that is Tight at worst stands among its like: behind what was computed to be near its limit. */
const UNSAID_RANK = 10;

/** What a check comes from: a rule, or one of the two verdicts of the day. */
export type CheckedBy = RuleId | "lasts" | "recovers";

/** Identifies a check: its rule, the place that it is about, and which of several it is. */
export type CheckKey = `${CheckedBy} ${string}`;

/** The key of a check: made here alone, so that no two of them are alike by chance. */
function keyOf(by: CheckedBy, place: JobPath | "job", aspect: Aspect | undefined): CheckKey {
  const at: string = place;
  const which: string = aspect === undefined ? "" : ` ${aspect}`;
  return `${by} ${at}${which}`;
}

/** One demand against one limit, each with its working, and its word. */
export interface Check {
  key: CheckKey;
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
  /** Whether the limit is at least the demand. */
  met: boolean;
  word: Word;
  /** Plain words: when it happens, or what the rule is for. */
  remark: string;
  /** What to do about it. */
  fix: string;
  demand: TracedValue;
  limit: TracedValue;
  /** Path in the document of the part it is about, where there is one. */
  part: JobPath | undefined;
  /** The circuit that it is about as a whole, where no one part of it is. */
  run: RunPath | undefined;
  /** What is asked of the part, where sizing reads it. */
  topic: CheckTopic | undefined;
  by: CheckedBy;
  /** Orders the checks: the smaller, the nearer to failing. */
  rank: number;
}

/** By what a finding is judged: a rule, with its gravest word and what to do about it. */
export interface JudgedBy {
  id: CheckedBy;
  broken: Gravity;
  fix: string;
}

/** Judges a finding by its rule: margin, word and place among the others. */
export function judge(rule: JudgedBy, finding: Finding): Check {
  const { name, demand, limit, part, run, topic, remark, aspect, holdsFrom } = finding;
  const gravity = finding.gravity ?? rule.broken;
  const margin = demand.value <= 0 ? AMPLE : Math.min(AMPLE, Math.max(0, limit.value / demand.value));
  const tightFrom = finding.tightFrom ?? 1;
  const word = wordOf(margin, { holdsFrom: holdsFrom ?? 1, tightFrom, gravity });
  // Made whole and in one order: thousands are made where one value after another is varied.
  return {
    part,
    run,
    topic,
    by: rule.id,
    rank: holdsFrom === undefined && margin >= 1 ? AMPLE + 1 : gravity === "Tight" ? UNSAID_RANK : margin,
    key: keyOf(rule.id, part ?? run ?? "job", aspect),
    name,
    remark: typeof remark === "string" ? remark : margin < 1 ? remark.broken : remark.met,
    fix: finding.fix ?? rule.fix,
    margin,
    met: margin >= 1,
    word: word === "Holds" && finding.edge ? "Tight" : word,
    need: demand.value,
    has: limit.value,
    hasMore: finding.hasMore ?? false,
    form: finding.form ?? (topic === "voltsLost" ? "drops" : "needs"),
    dimension: demand.dimension,
    demand,
    limit,
  };
}

/** The gravest of the checks that are about one place of the document. */
export const gravestAt = (checks: readonly Check[], at: JobPath): Check | undefined =>
  checks.filter(({ part }) => part === at).sort(gravestFirst)[0];

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

/** Whether a change breaks a check: met before, or not asked, and not met after; or missed before and by more after. */
export const isNewlyBroken = (before: Check | undefined, after: Check): boolean =>
  !after.met && (before === undefined || before.met || after.margin < 0.97 * before.margin);

/** The demands and limits of some checks, with their working. */
export const figuresOfChecks = (checks: Check[]): TracedValue[] =>
  checks.flatMap(({ demand, limit }) => [demand, limit]);
