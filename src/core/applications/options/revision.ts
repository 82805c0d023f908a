import type { Summary } from "../../assessment/verdicts/summary";

/** A state of a job's document that was given a name, and what was promised with it. */
export interface ListedRevision {
  id: string;
  name: string;
  promise: string;
  summary: Summary;
  createdMs: number;
}
