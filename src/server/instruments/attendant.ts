import type { Knex } from "knex";
import { say } from "@/core/messages/say";
import { getJob } from "../jobs";
import { needRoomFor } from "../quotas";
import { Refusal } from "../refusal";
import { getTestRun } from "../test-runs";
import { fileInLogs } from "./file-tail";
import { endLease, renewLeases, takeLease, unattended } from "./leases";
import { attend, attendedHere, leave } from "./running";

/** Pause between looks, ms. */
const LOOK_MS = 3000;
/** How often an instrument's workshop is asked whether it has room for more readings, ms: it adds up what is kept. */
const ROOM_MS = 60_000;
/** When that was last asked, by test run. */
const roomAsked = new Map<string, number>();

/**
 * One look: says that this server still attends its instruments, leaves those that another has, and takes up those that
 * nobody attends: their server went down, or this one was just started.
 */
export async function lookAfterInstruments(db: Knex): Promise<void> {
  const own = await renewLeases(db);
  for (const [testRunId, startId] of attendedHere()) if (own.get(testRunId) !== startId) leave(testRunId);
  for (const testRunId of await unattended(db)) {
    const startId = await takeLease(db, testRunId);
    if (startId) own.set(testRunId, startId);
  }
  for (const testRunId of roomAsked.keys()) if (!own.has(testRunId)) roomAsked.delete(testRunId);
  const attended = new Map(attendedHere());
  for (const [testRunId, startId] of own) {
    try {
      if (await endedForWantOfRoom(db, testRunId, startId)) continue;
      if (attended.get(testRunId) !== startId) await takeUp(db, testRunId, startId);
    } catch {
      // One that cannot be taken up now keeps no other waiting; it is tried again at the next look.
    }
  }
}

/** Ends an instrument whose workshop may keep no more readings, and says so; true where it did. */
async function endedForWantOfRoom(db: Knex, testRunId: string, startId: string): Promise<boolean> {
  if (Date.now() - (roomAsked.get(testRunId) ?? 0) < ROOM_MS) return false;
  roomAsked.set(testRunId, Date.now());
  try {
    await needRoomFor(db, { testRunId }, "readings");
    return false;
  } catch (error) {
    if (!(error instanceof Refusal)) throw error;
    await endLease(db, testRunId, startId, error.message);
    leave(testRunId);
    return true;
  }
}

async function takeUp(db: Knex, testRunId: string, startId: string): Promise<void> {
  const testRun = await getTestRun(db, testRunId);
  const job = testRun && (await getJob(db, testRun.jobId));
  const source = testRun?.source;
  if (!source || testRun.finishedMs !== null || !job) return;
  // The folder of logs may be another since it was started.
  if (source.kind === "file" && !fileInLogs(source.path))
    return endLease(db, testRunId, startId, say("server.instrument.fileUnreadable"));
  await attend(db, testRun, job.job, { source, startId });
}

const held = globalThis as { chillbankAttendant?: NodeJS.Timeout | "looking" };

/** Looks after the instruments of test runs for as long as this server runs. */
export function startAttendant(db: () => Knex): void {
  if (held.chillbankAttendant) return;
  const look = async () => {
    held.chillbankAttendant = "looking";
    try {
      await lookAfterInstruments(db());
    } catch {
      // A database that is away is asked again at the next look.
    }
    held.chillbankAttendant = setTimeout(() => void look(), LOOK_MS);
    held.chillbankAttendant.unref();
  };
  void look();
}
