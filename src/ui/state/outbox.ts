import { openDB, type DBSchema, type IDBPDatabase } from "idb";
import { sendPhoto, sendReadings } from "./test-run-calls";
import { ApiError } from "@/contract/client";
import { CLOCK_PATH, type SentReading } from "@/contract/test-runs";
import { moment } from "../words";

/*
 * Readings that are written where there is no reception: kept in the browser in the order they were written, and sent in
 * that order. Each carries its own id, so a sending whose answer was lost is sent again and kept once.
 */

interface Kept {
  testRunId: string;
  reading: SentReading;
  photo: Blob | null;
  /** Why the server would not have it: it is set aside until somebody says what to do with it. */
  refused?: string;
  /** By how much the server's clock was ahead of this device's, ms, where it was refused for that. */
  clockAheadMs?: number;
  /** Somebody said what its time is: it is not asked about again. */
  clockSettled?: boolean;
}
interface Boxes extends DBSchema {
  outbox: { key: number; value: Kept; indexes: { testRun: string } };
}

let held: Promise<IDBPDatabase<Boxes>> | null = null;
const box = () =>
  (held ??= openDB<Boxes>("chillbank-outbox", 2, {
    async upgrade(db, version, _, { objectStore }) {
      if (version === 0)
        return void db.createObjectStore("outbox", { autoIncrement: true }).createIndex("testRun", "testRunId");
      // Version 1 called a test run a trial. What waits in it still has to be sent.
      const store = objectStore("outbox");
      store.createIndex("testRun", "testRunId");
      for (let cursor = await store.openCursor(); cursor; cursor = await cursor.continue()) {
        const { trialId, ...rest } = cursor.value as Kept & { trialId: string };
        await cursor.update({ ...rest, testRunId: trialId });
      }
    },
  }));

/** Keeps a reading until it is sent. */
export async function post(testRunId: string, reading: SentReading, photo: Blob | null = null): Promise<void> {
  await (await box()).add("outbox", { testRunId, reading, photo });
}

/** Readings of a test run that wait, in the order they were written. */
export async function waiting(testRunId: string): Promise<SentReading[]> {
  return (await (await box()).getAllFromIndex("outbox", "testRun", testRunId))
    .filter(({ refused }) => refused === undefined)
    .map(({ reading }) => reading);
}

/** How many readings of all test runs are still here, sent by nobody. */
export async function unsent(): Promise<number> {
  return (await box()).count("outbox");
}

/** A reading that the server refused, and why. */
export interface SetAside {
  key: number;
  reading: SentReading;
  why: string;
  /** Where this device's clock is why: by how much the server's is ahead, ms. */
  clockAheadMs: number | null;
}

/** What is done with a reading that was refused: sent again, as it is or with its time put right by the server's clock, or dropped. */
export type Decision = "send" | "move" | "drop";

/** Readings of a test run that were refused, in the order they were written. */
export async function setAside(testRunId: string): Promise<SetAside[]> {
  const found: SetAside[] = [];
  let cursor = await (await box()).transaction("outbox").store.openCursor();
  while (cursor) {
    const { key, value } = cursor;
    if (value.testRunId === testRunId && value.refused !== undefined)
      found.push({ key, reading: value.reading, why: value.refused, clockAheadMs: value.clockAheadMs ?? null });
    cursor = await cursor.continue();
  }
  return found;
}

/** Puts a refused reading back among those to be sent, or drops it. */
export async function decide(key: number, what: Decision): Promise<void> {
  const db = await box();
  const kept = await db.get("outbox", key);
  if (!kept) return;
  if (what === "drop") await db.delete("outbox", key);
  else {
    const { testRunId, reading, photo, clockAheadMs } = kept;
    const moved = what === "move" ? { ...reading, timeMs: reading.timeMs + (clockAheadMs ?? 0) } : reading;
    await db.put("outbox", { testRunId, reading: moved, photo, clockSettled: clockAheadMs !== undefined }, key);
  }
}

let flushing: Promise<void> | null = null;
let askedAgain = false;

/**
 * Sends what waits, oldest first; stops where there is no reception or no server. One that is refused is set aside, one that
 * the server broke down at stays for the next time, and the rest go on.
 */
export function flush(): Promise<void> {
  askedAgain = true;
  flushing ??= sendWhileAsked();
  return flushing;
}

/** What is written while the last of the others is on its way is sent after it, and not only at the next time. */
async function sendWhileAsked(): Promise<void> {
  try {
    while (askedAgain) {
      askedAgain = false;
      await sendAll();
    }
  } finally {
    flushing = null;
  }
}

/** Answers after which a sending is tried again as it is. */
export const WAITS = [401, 429, 502, 503];

async function sendAll(): Promise<void> {
  const db = await box();
  const broke = new Set<number>();
  for (;;) {
    let cursor = await db.transaction("outbox").store.openCursor();
    while (cursor && (cursor.value.refused !== undefined || broke.has(cursor.key))) cursor = await cursor.continue();
    if (!cursor) return;
    const { key, value } = cursor;
    try {
      if (value.photo && value.reading.photoId) await sendPhoto(value.testRunId, value.reading.photoId, value.photo);
      await sendReadings(value.testRunId, [value.reading], value.clockSettled ? undefined : moment());
      await db.delete("outbox", key);
    } catch (error) {
      // No reception, nobody signed in, or a server that is down or busy: all stay.
      if (!(error instanceof ApiError) || WAITS.includes(error.status)) return;
      if (error.status >= 500) {
        broke.add(key);
        continue;
      }
      // A refusal will be a refusal the next time, too.
      const clock = error.issues.find(({ path }) => path === CLOCK_PATH);
      await db.put(
        "outbox",
        { ...value, refused: error.message, ...(clock ? { clockAheadMs: Number(clock.message) } : {}) },
        key,
      );
    }
  }
}
