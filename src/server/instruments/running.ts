import { createHash } from "node:crypto";
import type { Knex } from "knex";
import { timeZoneOfJob } from "../../core/document/place";
import type { Job } from "../../core/document/schema";
import { makeSimulator, type Probes, type Simulator } from "../../core/applications/test-run/simulator/simulator";
import type { Reading } from "../../core/applications/test-run/log/readings";
import { addReadings, setSource } from "../test-runs";
import { keeper } from "./keeper";
import { type SentReading, type Source } from "@/contract/test-runs";
import { fileInLogs, fileTailInstrument } from "./file-tail";
import type { Instrument } from "./instrument";
import { signalKInstrument } from "./signal-k";
import { standInInstrument } from "./stand-in";
import { say } from "@/core/messages/say";

interface Running {
  instrument: Instrument;
  source: Source;
  standIn: Simulator | null;
  told: number;
  watchers: Set<(event: LiveEvent) => void>;
}

export type LiveEvent = { kind: "readings"; readings: Reading[] } | { kind: "ended"; reason: string };

const held = globalThis as { chillbankInstruments?: Map<string, Running> };
/** Instruments that are running, by test run. Kept on globalThis because development reloads modules. */
const running = (held.chillbankInstruments ??= new Map());

/** An id of a reading's own that is the same whenever the same reading is told: so it is kept once. */
function idOf(testRunId: string, { timeMs, values }: Reading): string {
  const hash = createHash("sha256")
    .update(`${testRunId} ${timeMs} ${JSON.stringify(values)}`)
    .digest("hex");
  return `${hash.slice(0, 8)}-${hash.slice(8, 12)}-8${hash.slice(13, 16)}-8${hash.slice(17, 20)}-${hash.slice(20, 32)}`;
}

export const sourceOf = (testRunId: string): Source | null => running.get(testRunId)?.source ?? null;

/** What the probes of a simulator show now, or null where none runs. */
export function probesOf(testRunId: string): Probes | null {
  const own = running.get(testRunId);
  return own?.standIn ? own.standIn.probesAt(own.told - 1) : null;
}

/** Starts and stops of one test run's instrument come one after the other: two at once would leave one that nobody stops. */
const turns = new Map<string, Promise<unknown>>();
function inTurn<T>(testRunId: string, work: () => Promise<T>): Promise<T> {
  const before = turns.get(testRunId) ?? Promise.resolve();
  const own = before.then(work, work);
  turns.set(testRunId, own);
  const over = () => {
    if (turns.get(testRunId) === own) turns.delete(testRunId);
  };
  own.then(over, over);
  return own;
}

/** Starts an instrument on a test run, in place of the one that runs; readings are kept before they are told to anyone. */
export function startInstrument(
  db: Knex,
  testRun: { id: string; startedMs: number },
  job: Job,
  source: Source,
  told = 0,
): Promise<{ ok: true } | { ok: false; message: string }> {
  return inTurn(testRun.id, () => start(db, testRun, job, { source, told }));
}

/** Takes up an instrument that ran when the server went down; one that runs is left as it is. */
export function resumeInstrument(
  db: Knex,
  testRun: { id: string; startedMs: number },
  job: Job,
  source: Source,
  told: number,
): Promise<unknown> {
  return inTurn(testRun.id, async () => {
    if (!running.has(testRun.id)) await start(db, testRun, job, { source, told });
  });
}

async function start(
  db: Knex,
  testRun: { id: string; startedMs: number },
  job: Job,
  { source, told }: { source: Source; told: number },
): Promise<{ ok: true } | { ok: false; message: string }> {
  stopInstrument(testRun.id);
  let simulator: Simulator | null = null;
  let instrument: Instrument;
  if (source.kind === "stand-in") {
    simulator = makeSimulator(job, source, testRun.startedMs);
    instrument = standInInstrument(simulator, source.speed, told);
  } else if (source.kind === "file") {
    const file = fileInLogs(source.path);
    if (!file) return { ok: false, message: say("server.logFolder") };
    instrument = fileTailInstrument(file, timeZoneOfJob(job));
  } else instrument = signalKInstrument(source.url);
  await setSource(db, testRun.id, source, simulator?.truth);
  const own: Running = { instrument, source, standIn: simulator, told, watchers: new Set() };
  running.set(testRun.id, own);
  const tell = (event: LiveEvent) => {
    for (const watcher of own.watchers) watcher(event);
  };
  const end = (reason: string) => {
    if (running.get(testRun.id) === own) running.delete(testRun.id);
    instrument.stop();
    tell({ kind: "ended", reason });
  };
  const keep = keeper(
    (readings) =>
      addReadings(
        db,
        testRun.id,
        readings.map((reading): SentReading => ({ id: idOf(testRun.id, reading), ...reading })),
      ),
    { kept: (readings) => tell({ kind: "readings", readings }), refused: end },
  );
  instrument.start({
    readings(list) {
      own.told += list.length;
      keep(list);
    },
    ended(reason) {
      running.delete(testRun.id);
      void setSource(db, testRun.id, null).catch(() => undefined);
      tell({ kind: "ended", reason });
    },
  });
  return { ok: true };
}

/** Stops a test run's instrument. Returns whether one ran. */
export function stopInstrument(testRunId: string): boolean {
  const own = running.get(testRunId);
  if (!own) return false;
  own.instrument.stop();
  running.delete(testRunId);
  for (const watcher of own.watchers) watcher({ kind: "ended", reason: "stopped" });
  return true;
}

/** Watches a test run's instrument; the answer ends the watching. Null where none runs. */
export function watch(testRunId: string, watcher: (event: LiveEvent) => void): (() => void) | null {
  const own = running.get(testRunId);
  if (!own) return null;
  own.watchers.add(watcher);
  return () => own.watchers.delete(watcher);
}
