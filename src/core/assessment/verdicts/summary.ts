import { z } from "zod";
import { DIMENSIONS, type Dimension } from "../../units/dimension";
import { PAIR_FORMS } from "../../units/format";
import type { Job } from "../../document/schema";
import { assess } from "./assess";
import { assessDay } from "./day";
import { VERDICT_WORDS } from "../judge/word";

/** Raised when the core would give other verdicts for the same document, so that stored summaries are made anew. */
export const CORE_VERSION = 15;

const lineSchema = z
  .object({
    word: z.enum(VERDICT_WORDS),
    need: z.number(),
    has: z.number(),
    hasMore: z.boolean().default(false),
    form: z.enum(PAIR_FORMS).optional(),
    /** What revisions were kept with before there was a third form. */
    drop: z.boolean().optional(),
    dimension: z.enum(Object.keys(DIMENSIONS) as [Dimension, ...Dimension[]]),
    decides: z.string(),
  })
  .transform(({ drop, form, ...line }) => {
    const said = form ?? (drop ? "drops" : "needs");
    return { ...line, form: said === "needs" ? thereOr(line) : said };
  });

/** Of what was kept before there was a form for things that are there or not: one wanted, and one or none there. */
const thereOr = ({ dimension, need, has }: { dimension: Dimension; need: number; has: number }): "there" | "needs" =>
  dimension === "count" && need === 1 && has <= 1 ? "there" : "needs";

/** What the list of jobs shows of an assessment. */
export const summarySchema = z.object({
  starts: lineSchema,
  carries: lineSchema,
  lasts: lineSchema,
  recovers: lineSchema,
});

export type SummaryLine = z.output<typeof lineSchema>;
export type Summary = Record<"starts" | "carries" | "lasts" | "recovers", SummaryLine>;

/** Starts and Carries of the assessment, Lasts and Recovers of the coupled run. */
export function summaryOf(job: Job): Summary {
  const verdicts = { ...assess(job).verdicts, ...assessDay(job, { range: false }).verdicts };
  const line = (key: keyof Summary): SummaryLine => {
    const { word, decides } = verdicts[key];
    const { need, has, hasMore, form, dimension, name } = decides;
    return { word, need, has, hasMore, form, dimension, decides: name };
  };
  return { starts: line("starts"), carries: line("carries"), lasts: line("lasts"), recovers: line("recovers") };
}
