import type { Reading } from "../../core/applications/test-run/log/readings";
import { Refusal } from "../refusal";

/** Readings to a call of the database. */
const BATCH = 500;
/** Waits between tries while the database does not answer, ms: twice as long each time. */
const FIRST_WAIT_MS = 250;
const LONGEST_WAIT_MS = 10_000;
/** Readings that wait at most: a day at one a second, and more than that at none that anybody has. */
const MOST_WAITING = 200_000;

interface Told {
  /** These are stored now. */
  kept(readings: Reading[]): void;
  /** None of them will ever be taken. */
  refused(reason: string): void;
}

/**
 * Keeps readings in the order they come. While the database is away they wait and are tried again; a refusal ends it. What
 * is returned takes readings and does not wait.
 */
export function keeper(
  store: (readings: Reading[]) => Promise<unknown>,
  { kept, refused }: Told,
  firstWaitMs = FIRST_WAIT_MS,
): (readings: Reading[]) => void {
  const waiting: Reading[] = [];
  let busy = false;
  let ended = false;
  const keepAll = async () => {
    busy = true;
    let wait = firstWaitMs;
    while (waiting.length > 0 && !ended) {
      const batch = waiting.slice(0, BATCH);
      try {
        await store(batch);
        waiting.splice(0, batch.length);
        wait = firstWaitMs;
        kept(batch);
      } catch (error) {
        if (error instanceof Refusal) {
          ended = true;
          refused(error.message);
        } else {
          await new Promise((resolve) => setTimeout(resolve, wait));
          wait = Math.min(LONGEST_WAIT_MS, 2 * wait);
        }
      }
    }
    busy = false;
  };
  return (readings) => {
    if (ended) return;
    if (waiting.length + readings.length > MOST_WAITING) {
      ended = true;
      refused("too many readings wait for the database");
      return;
    }
    waiting.push(...readings);
    if (!busy) void keepAll();
  };
}
