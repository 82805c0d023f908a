import type { Knex } from "knex";
import type { Reading } from "../../core/applications/test-run/log/readings";
import { getTestRun, newestReading, readingsAfter } from "../test-runs";

/*
 * What an instrument tells, for those who watch: read from the database, so that any server can show what another attends, and
 * so that nothing is shown that is not kept. However many watch a test run on this server, it is read once.
 */

export type LiveEvent = { kind: "readings"; readings: Reading[] } | { kind: "ended" };
type Watcher = (event: LiveEvent) => void;

/** How often the database is asked, ms. */
const LOOK_MS = 500;
/** Most readings to an event. */
const MOST = 500;

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

async function follow(db: Knex, testRunId: string, watchers: Set<Watcher>): Promise<void> {
  const tell = (event: LiveEvent) => {
    for (const watcher of watchers) watcher(event);
  };
  let lastMs: number | null = null;
  while (watchers.size > 0) {
    try {
      // Asked first: what was told before the end is told before it.
      const run = await getTestRun(db, testRunId);
      if (lastMs === null) lastMs = (await newestReading(db, testRunId)) ?? -Infinity;
      const readings = await readingsAfter(db, testRunId, Number.isFinite(lastMs) ? lastMs : 0, MOST);
      if (readings.length > 0) {
        lastMs = readings.at(-1)!.timeMs;
        tell({ kind: "readings", readings });
      }
      if (readings.length === MOST) continue;
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
