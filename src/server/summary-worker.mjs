/* Runs in a thread of its own: the summary of one job's document. It is JavaScript so that Node can load it and it can load the rest. */
import { register } from "tsx/esm/api";

register();
const { summaryOf } = await import("../core/assessment/verdicts/summary.ts");

export default summaryOf;
