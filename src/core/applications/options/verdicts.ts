import type { Job } from "../../document/schema";
import type { VerdictWord } from "../../assessment/judge/word";
import { summaryOf } from "../../assessment/verdicts/summary";
import type { Design } from "./design";
import { fittedJob } from "./evaluate";
import type { Requirement } from "./target";

export type DesignVerdicts = Record<"starts" | "carries" | "lasts" | "recovers", VerdictWord>;

/** The four verdicts of the job once a design is applied to it: the same answer that the job's own head band shows. */
export function verdictsOfDesign(job: Job, requirement: Requirement, design: Design): DesignVerdicts {
  const { starts, carries, lasts, recovers } = summaryOf(fittedJob(job, requirement, design));
  return { starts: starts.word, carries: carries.word, lasts: lasts.word, recovers: recovers.word };
}
