import { assess } from "@/core/assessment/verdicts/assess";
import type { Check } from "@/core/assessment/judge/judge";
import type { RuleId } from "@/core/assessment/judge/rule-ids";
import { GRAVITY, type Word } from "@/core/assessment/judge/word";
import type { Job } from "@/core/document/schema";

export * from "@/core/assessment/examples/systems";

/** The gravest check of a rule in Starts and Carries; undefined where the rule is not asked. */
export function worst(job: Job, by: RuleId): Check | undefined {
  const { starts, carries } = assess(job).verdicts;
  return [...starts.checks, ...carries.checks]
    .filter((one) => one.by === by)
    .reduce<Check | undefined>((a, b) => (!a || GRAVITY[b.word] > GRAVITY[a.word] ? b : a), undefined);
}

export type Row = [name: string, by: RuleId, broken: Job, word: Word, met: Job];
