import type { Knex } from "knex";
import { CORE_VERSION } from "../core/assessment/verdicts/summary";
import { readJob } from "../core/document/schema";
import { parsed } from "./json-column";
import { summaryInThread } from "./summaries";

/*
 * Verdicts of the list of jobs. Working them out takes a tenth of a second to a second of a processor, so nobody who saves or
 * makes a job waits for it: they are marked as out of date (core_version 0), and follow once nobody types any more, or at
 * once where somebody looks at the list. What a server that ended left undone is found by that mark.
 */

/** A job whose last save is so long ago is worked out; one that is saved again and again after the longest wait. */
const QUIET_MS = 10_000;
const LONGEST_MS = 60_000;

interface Waiting {
  since: number;
  timer: NodeJS.Timeout;
}
const held = globalThis as { chillbankVerdicts?: { waiting: Map<string, Waiting>; line: Promise<void> } };
const queue = () => (held.chillbankVerdicts ??= { waiting: new Map(), line: Promise.resolve() });

/** Jobs that wait in this server. */
export const verdictsWaiting = (): number => queue().waiting.size;

/** Works out the verdicts of a job where they are out of date, and stores them unless it was saved meanwhile. */
export async function workOut(db: Knex, id: string): Promise<void> {
  const row = (await db("jobs").where({ id }).whereNot("core_version", CORE_VERSION).first("revision", "document")) as
    | { revision: number; document: unknown }
    | undefined;
  const read = row ? readJob(parsed(row.document)) : null;
  if (!row || !read?.ok) return;
  const summary = JSON.stringify(await summaryInThread(read.job));
  await db("jobs").where({ id, revision: row.revision }).update({ summary, core_version: CORE_VERSION });
}

/** Whether a pool has been ended: the server was told to end. */
const isEnded = (db: Knex) => !(db.client as { pool?: unknown }).pool;

/** Puts a job at the end of the line: one at a time, so that those who save are not kept waiting. */
function enqueue(db: Knex, id: string): void {
  const own = queue();
  own.waiting.delete(id);
  own.line = own.line
    // Whose connections were ended meanwhile has nobody to work for.
    .then(() => (isEnded(db) ? undefined : workOut(db, id)))
    .catch((error: unknown) => {
      // The mark stays: they are worked out when somebody looks, or at the next start.
      if (isEnded(db)) return;
      // oxlint-disable-next-line no-console
      console.error(`verdicts of job ${id}`, (error as { code?: string }).code ?? (error as Error).message);
    });
}

/** Has the verdicts of a job worked out once it has not been saved for a while. */
export function workOutLater(db: Knex, id: string): void {
  const { waiting } = queue();
  const before = waiting.get(id);
  if (before) clearTimeout(before.timer);
  const since = before?.since ?? Date.now();
  const timer = setTimeout(() => enqueue(db, id), Math.max(0, Math.min(QUIET_MS, since + LONGEST_MS - Date.now())));
  // A server that is told to end does not wait for it.
  timer.unref();
  waiting.set(id, { since, timer });
}

/** Has the verdicts of jobs worked out now: somebody is looking at them. */
export function workOutSoon(db: Knex, ids: readonly string[]): void {
  const own = queue();
  for (const id of ids) {
    const before = own.waiting.get(id);
    // In the line already.
    if (before?.since === 0) continue;
    if (before) clearTimeout(before.timer);
    own.waiting.set(id, { since: 0, timer: setTimeout(() => enqueue(db, id), 0) });
  }
}
