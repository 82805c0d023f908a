import { join } from "node:path";
import { pathToFileURL } from "node:url";
import Tinypool from "tinypool";
import type { Job } from "../core/document/schema";
import type { Summary } from "../core/assessment/verdicts/summary";

const held = globalThis as { chillbankSummaries?: Tinypool };

/** Threads that may compute at once: one is left to answer requests. */
const MAX_THREADS = 2;
/** A thread that has had nothing to do for this long ends, ms. */
const IDLE_MS = 60_000;

/** The one pool of this process. It is kept on globalThis because development reloads modules. */
function pool(): Tinypool {
  return (held.chillbankSummaries ??= new Tinypool({
    filename: pathToFileURL(join(process.cwd(), "src/server/summary-worker.mjs")).href,
    runtime: "worker_threads",
    minThreads: 1,
    maxThreads: MAX_THREADS,
    idleTimeout: IDLE_MS,
  }));
}

/**
 * What the list of jobs shows of a document. It runs a fortnight of the plan, some 40 ms, so it is computed in a thread of
 * its own while the server goes on answering.
 */
export async function summaryInThread(job: Job): Promise<Summary> {
  return (await pool().run(job)) as Summary;
}
