import { openDB, type DBSchema, type IDBPDatabase } from "idb";
import { sendPhoto, sendReadings } from "./trial-calls";
import { ApiError } from "@/contract/client";
import type { SentReading } from "@/contract/test-runs";

/*
 * Readings that are written where there is no reception: kept in the browser in the order they were written, and sent in
 * that order. Each carries its own id, so a sending whose answer was lost is sent again and kept once.
 */

interface Kept {
  trialId: string;
  reading: SentReading;
  photo: Blob | null;
  /** Why the server would not have it: it is set aside until somebody says what to do with it. */
  refused?: string;
}
interface Boxes extends DBSchema {
  outbox: { key: number; value: Kept; indexes: { trial: string } };
}

let held: Promise<IDBPDatabase<Boxes>> | null = null;
const box = () =>
  (held ??= openDB<Boxes>("chillbank-outbox", 1, {
    upgrade(db) {
      db.createObjectStore("outbox", { autoIncrement: true }).createIndex("trial", "trialId");
    },
  }));

/** Keeps a reading until it is sent. */
export async function post(trialId: string, reading: SentReading, photo: Blob | null = null): Promise<void> {
  await (await box()).add("outbox", { trialId, reading, photo });
}

/** Readings of a test run that wait, in the order they were written. */
export async function waiting(trialId: string): Promise<SentReading[]> {
  return (await (await box()).getAllFromIndex("outbox", "trial", trialId))
    .filter(({ refused }) => refused === undefined)
    .map(({ reading }) => reading);
}

/** A reading that the server refused, and why. */
export interface SetAside {
  key: number;
  reading: SentReading;
  why: string;
}

/** Readings of a test run that were refused, in the order they were written. */
export async function setAside(trialId: string): Promise<SetAside[]> {
  const found: SetAside[] = [];
  let cursor = await (await box()).transaction("outbox").store.openCursor();
  while (cursor) {
    const { key, value } = cursor;
    if (value.trialId === trialId && value.refused !== undefined)
      found.push({ key, reading: value.reading, why: value.refused });
    cursor = await cursor.continue();
  }
  return found;
}

/** Puts a refused reading back among those to be sent, or drops it. */
export async function decide(key: number, what: "send" | "drop"): Promise<void> {
  const db = await box();
  const kept = await db.get("outbox", key);
  if (!kept) return;
  if (what === "drop") await db.delete("outbox", key);
  else await db.put("outbox", { trialId: kept.trialId, reading: kept.reading, photo: kept.photo }, key);
}

let flushing: Promise<void> | null = null;

/** Sends what waits, oldest first; stops at the first that cannot be sent. A refused one is set aside, and the rest go on. */
export function flush(): Promise<void> {
  flushing ??= sendAll().finally(() => {
    flushing = null;
  });
  return flushing;
}

async function sendAll(): Promise<void> {
  const db = await box();
  for (;;) {
    let cursor = await db.transaction("outbox").store.openCursor();
    while (cursor && cursor.value.refused !== undefined) cursor = await cursor.continue();
    if (!cursor) return;
    const { key, value } = cursor;
    try {
      if (value.photo && value.reading.photoId) await sendPhoto(value.trialId, value.reading.photoId, value.photo);
      await sendReadings(value.trialId, [value.reading]);
      await db.delete("outbox", key);
    } catch (error) {
      // No reception, or a server that is down: it stays. A refusal will be a refusal the next time, too.
      if (!(error instanceof ApiError) || error.status >= 500) return;
      await db.put("outbox", { ...value, refused: error.message }, key);
    }
  }
}
