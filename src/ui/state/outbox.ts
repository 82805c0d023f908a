import { openDB, type DBSchema, type IDBPDatabase } from "idb";
import { sendPhoto, sendReadings, type SentReading } from "./trial-calls";

/*
 * Readings that are written where there is no reception: kept in the browser in the order they were written, and sent in
 * that order. Each carries its own id, so a sending whose answer was lost is sent again and kept once.
 */

interface Kept {
  trialId: string;
  reading: SentReading;
  photo: Blob | null;
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

/** Readings of a trial that wait, in the order they were written. */
export async function waiting(trialId: string): Promise<SentReading[]> {
  return (await (await box()).getAllFromIndex("outbox", "trial", trialId)).map(({ reading }) => reading);
}

let flushing: Promise<number> | null = null;

/** Sends what waits, oldest first; stops at the first that cannot be sent. Returns how many are left. Refused ones are set aside. */
export function flush(onRefused: (message: string) => void): Promise<number> {
  flushing ??= (async () => {
    const db = await box();
    for (;;) {
      const cursor = await db.transaction("outbox").store.openCursor();
      if (!cursor) return 0;
      const { key, value } = cursor;
      try {
        if (value.photo && value.reading.photoId) await sendPhoto(value.trialId, value.reading.photoId, value.photo);
        await sendReadings(value.trialId, [value.reading]);
        await db.delete("outbox", key);
      } catch (error) {
        // No reception: it stays. A refusal will be a refusal the next time, too.
        if (error instanceof TypeError || /answered 5\d\d/.test((error as Error).message)) return db.count("outbox");
        onRefused((error as Error).message);
        await db.delete("outbox", key);
      }
    }
  })().finally(() => {
    flushing = null;
  });
  return flushing;
}
