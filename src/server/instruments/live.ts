import type { Knex } from "knex";
import type { Reading } from "../../core/applications/test-run/log/readings";
import { getTestRun, lastStored, readingsStoredSince } from "../test-runs";

/*
 * What an instrument tells, for those who watch: read from the database, so that any server can show what another attends, and
 * so that nothing is shown that is not kept. However many watch a test run on this server, it is read once.
 */

export type LiveEvent = { kind: "readings"; readings: Reading[] } | { kind: "ended" };
type Watcher = (event: LiveEvent) => void;

/** How often the database is asked, ms. */
const LOOK_MS = 500;
/** Most readings to an event. */
const MOST = 5000;
/** How far back is asked again, ms: servers that store by turns have clocks that differ. */
const BACK_MS = 2000;

const held = globalThis as { chillbankWatched?: Map<string, Set<Watcher>> };
const watched = (held.chillbankWatched ??= new Map());

/** Watches a test run's instrument from now on; what is returned ends the watching. */
export function watch(db: Knex, testRunId: string, watcher: Watcher): () => void {
  const there = watched.get(testRunId);
  const watchers = there ?? new Set<Watcher>();
  watchers.add(watcher);
  if (!there) {
    watched.set(testRunId, watchers);
    void follow(db, testRunId, watchers);
  }
  return () => watchers.delete(watcher);
}

/**
 * Tells what is stored from now on, in the order it is stored: a reading by hand may be of another time than those that an
 * instrument tells beside it.
 */
async function follow(db: Knex, testRunId: string, watchers: Set<Watcher>): Promise<void> {
  const tell = (event: LiveEvent) => {
    for (const watcher of watchers) watcher(event);
  };
  /** Ids that were told, or were there before, as far back as is asked again. */
  const known = new Map<string, number>();
  let lastMs: number | null = null;
  while (watchers.size > 0) {
    try {
      // Asked first: what was told before the end is told before it.
      const run = await getTestRun(db, testRunId);
      const first = lastMs === null;
      lastMs ??= (await lastStored(db, testRunId))?.getTime() ?? BACK_MS;
      const stored = await readingsStoredSince(db, testRunId, new Date(lastMs - BACK_MS), MOST);
      const fresh = stored.filter(({ id }) => !known.has(id));
      for (const { id, storedMs } of fresh) {
        known.set(id, storedMs);
        lastMs = Math.max(lastMs, storedMs);
      }
      for (const [id, storedMs] of known) if (storedMs < lastMs - BACK_MS) known.delete(id);
      if (fresh.length > 0 && !first) tell({ kind: "readings", readings: fresh.map(({ reading }) => reading) });
      if (!run?.source || run.finishedMs !== null) {
        tell({ kind: "ended" });
        break;
      }
    } catch {
      // The database is away: whoever watches goes on watching, and is told when it is back.
    }
    await new Promise((resolve) => setTimeout(resolve, LOOK_MS));
  }
  watched.delete(testRunId);
}
