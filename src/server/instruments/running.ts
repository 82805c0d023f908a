import { createHash } from "node:crypto";
import type { Knex } from "knex";
import { timeZoneOfJob } from "../../core/document/place";
import type { Job } from "../../core/document/schema";
import { makeSimulator, type Probes, type Simulator } from "../../core/applications/test-run/simulator/simulator";
import type { Reading } from "../../core/applications/test-run/log/readings";
import { addReadings, isStored } from "../test-runs";
import { keeper } from "./keeper";
import { type ListedTestRun, type SentReading, type Source } from "@/contract/test-runs";
import { fileInLogs, fileTailInstrument } from "./file-tail";
import type { Instrument } from "./instrument";
import { dropLease, endLease, leaseAnew } from "./leases";
import { signalKInstrument } from "./signal-k";
import { simulatedInstrument } from "./simulated";
import { say } from "@/core/messages/say";

interface Running {
  startId: string;
  instrument: Instrument;
}

const held = globalThis as { chillbankInstruments?: Map<string, Running> };
/** Instruments that this server attends, by test run. Kept on globalThis because development reloads modules. */
const running = (held.chillbankInstruments ??= new Map());

/** An id of a reading's own that is the same whenever the same reading is told: so it is kept once. */
export function idOfTold(testRunId: string, { timeMs, values }: Reading): string {
  const hash = createHash("sha256")
    .update(`${testRunId} ${timeMs} ${JSON.stringify(values)}`)
    .digest("hex");
  return `${hash.slice(0, 8)}-${hash.slice(8, 12)}-8${hash.slice(13, 16)}-8${hash.slice(17, 20)}-${hash.slice(20, 32)}`;
}

/** Simulators that were made last: each takes a tenth of a second and is the same for the same source. */
const KEPT = 8;
const made = new Map<string, Simulator>();

type SimulatorSource = Extract<Source, { kind: "simulator" }>;
function simulatorOf(testRun: RunUnderWay, job: Job, source: SimulatorSource): Simulator {
  const key = JSON.stringify([testRun.id, source, job]);
  const simulator = made.get(key) ?? makeSimulator(job, source, testRun.startedMs);
  made.delete(key);
  made.set(key, simulator);
  for (const old of [...made.keys()].slice(0, Math.max(0, made.size - KEPT))) made.delete(old);
  return simulator;
}

type RunUnderWay = Pick<ListedTestRun, "id" | "startedMs">;

/**
 * How many readings of a simulator are stored: they are told in order, so the first that is not is found by halving. Not by
 * the time of the newest: one by hand may be of any.
 */
async function toldOf(db: Knex, testRunId: string, { readings }: Simulator): Promise<number> {
  let [told, most] = [0, readings.length];
  while (told < most) {
    const middle = (told + most) >> 1;
    if (await isStored(db, idOfTold(testRunId, readings[middle]!))) told = middle + 1;
    else most = middle;
  }
  return told;
}

/** What the probes of a test run's simulator show now, or null where none runs. */
export async function probesOf(db: Knex, testRun: ListedTestRun, job: Job): Promise<Probes | null> {
  const { source } = testRun;
  if (source?.kind !== "simulator") return null;
  const simulator = simulatorOf(testRun, job, source);
  return simulator.probesAt(Math.max(0, (await toldOf(db, testRun.id, simulator)) - 1));
}

/** Starts an instrument on a test run, in place of the one that runs, wherever that is. */
export async function startInstrument(
  db: Knex,
  testRun: RunUnderWay,
  job: Job,
  source: Source,
): Promise<{ ok: true } | { ok: false; message: string }> {
  if (source.kind === "file" && !fileInLogs(source.path)) return { ok: false, message: say("server.logFolder") };
  const truth = source.kind === "simulator" ? simulatorOf(testRun, job, source).truth : undefined;
  const startId = await leaseAnew(db, testRun.id, source, truth);
  await attend(db, testRun, job, { source, startId });
  return { ok: true };
}

/** Stops a test run's instrument for good, whichever server attends it. */
export async function stopInstrument(db: Knex, testRunId: string): Promise<void> {
  await dropLease(db, testRunId);
  leave(testRunId);
}

/** Ids of the test runs whose instruments this server attends, with the start that each is of. */
export const attendedHere = (): [testRunId: string, startId: string][] =>
  [...running].map(([id, { startId }]) => [id, startId]);

/** Attends a test run's instrument from this server, whose lease it has. */
export async function attend(
  db: Knex,
  testRun: RunUnderWay,
  job: Job,
  { source, startId }: { source: Source; startId: string },
): Promise<void> {
  const instrument = await instrumentOf(db, testRun, job, source);
  leave(testRun.id);
  const own: Running = { startId, instrument };
  running.set(testRun.id, own);
  const end = (reason: string) => {
    if (running.get(testRun.id) === own) leave(testRun.id);
    // Not noted where the database is away: whichever server looks next finds the same end.
    endLease(db, testRun.id, startId, reason).catch(() => undefined);
  };
  const keep = keeper(
    (readings) =>
      addReadings(
        db,
        testRun.id,
        readings.map((reading): SentReading => ({ id: idOfTold(testRun.id, reading), ...reading })),
        startId,
      ),
    end,
  );
  instrument.start({
    readings: keep.take,
    ended: (reason) => void keep.settled().then(() => end(reason)),
  });
}

/** Leaves a test run's instrument; what it told already is kept all the same. */
export function leave(testRunId: string): void {
  running.get(testRunId)?.instrument.stop();
  running.delete(testRunId);
}

async function instrumentOf(db: Knex, testRun: RunUnderWay, job: Job, source: Source): Promise<Instrument> {
  if (source.kind === "signal-k") return signalKInstrument(source.url);
  if (source.kind === "simulator") {
    const simulator = simulatorOf(testRun, job, source);
    return simulatedInstrument(simulator, source.speed, await toldOf(db, testRun.id, simulator));
  }
  const file = fileInLogs(source.path);
  if (!file) throw new Error(say("server.logFolder"));
  return fileTailInstrument(file, timeZoneOfJob(job));
}
