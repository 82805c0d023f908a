import { z } from "zod";
import { DIMENSIONS, type Dimension } from "../../units/dimension";
import type { Job } from "../../document/schema";
import { assess } from "./assess";
import { assessDay } from "./day";
import { VERDICT_WORDS, type VerdictWord } from "../checks/check";

/** Raised when the core would give other verdicts for the same document, so that stored summaries are made anew. */
export const CORE_VERSION = 8;

const lineSchema = z.object({
  word: z.enum(VERDICT_WORDS),
  need: z.number(),
  has: z.number(),
  dimension: z.enum(Object.keys(DIMENSIONS) as [Dimension, ...Dimension[]]),
  decides: z.string(),
});

/** What the list of jobs shows of an assessment. */
export const summarySchema = z.object({
  starts: lineSchema,
  carries: lineSchema,
  lasts: lineSchema,
  recovers: lineSchema,
});

export interface SummaryLine {
  word: VerdictWord;
  need: number;
  has: number;
  dimension: Dimension;
  decides: string;
}
export type Summary = Record<"starts" | "carries" | "lasts" | "recovers", SummaryLine>;

/** Starts and Carries of the assessment, Lasts and Recovers of the coupled run. */
export function summaryOf(job: Job): Summary {
  const verdicts = { ...assess(job).verdicts, ...assessDay(job, { range: false }).verdicts };
  const line = (key: keyof Summary): SummaryLine => {
    const { word, decides } = verdicts[key];
    return { word, need: decides.need, has: decides.has, dimension: decides.dimension, decides: decides.name };
  };
  return { starts: line("starts"), carries: line("carries"), lasts: line("lasts"), recovers: line("recovers") };
}
