/* Runs in a thread of its own: the summary of one job's document. It is JavaScript so that Node can load it and it can load the rest. */
import { setPriority } from "node:os";
import "../node/typescript.mjs";

try {
  // On Linux this is the calling thread's alone: whoever waits for an answer goes before what nobody waits for.
  setPriority(10);
} catch {
  // Not allowed here: it competes as any other.
}
const { summaryOf } = await import("../core/assessment/verdicts/summary.ts");

export default summaryOf;
