import type { StepDone } from "../../document/schema";
import { progressOf, type Step } from "./commissioning";

/** What a handover document is: it is named and worded by what is true of the work. */
export type DocumentState = "Design" | "Being fitted" | "Commissioned" | "Commissioned with faults";

/** Steps on which lives hang: one that failed stops the run, the document and the customer's page until it is put right. */
const SAFETY_STEPS: ReadonlySet<string> = new Set([
  "isolated",
  "dead",
  "earths",
  "polarity",
  "leakage",
  "change-over",
  "bond",
  "hottest",
]);

/** Safety steps that failed, in the order of the sheet. */
export const failedSafety = (steps: readonly Step[], done: readonly StepDone[]): Step[] =>
  steps.filter(({ key }) => SAFETY_STEPS.has(key) && done.find(({ step }) => step === key)?.passed === false);

/** What a job's document is, by its run sheet, and by whether anything is a stop. */
export function documentState(steps: readonly Step[], done: readonly StepDone[], stopped: boolean): DocumentState {
  const { passed, failed, open } = progressOf(steps, done);
  if (passed + failed === 0) return "Design";
  if (failed > 0 && open === 0) return "Commissioned with faults";
  if (open > 0) return "Being fitted";
  return stopped ? "Commissioned with faults" : "Commissioned";
}
