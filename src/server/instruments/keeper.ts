import type { Reading } from "../../core/applications/test-run/log/readings";
import { say } from "@/core/messages/say";
import { Refusal } from "../refusal";

/** Readings to a call of the database. */
const BATCH = 500;
/** Waits between tries while the database does not answer, ms: twice as long each time. */
const FIRST_WAIT_MS = 250;
const LONGEST_WAIT_MS = 10_000;
/** Readings that wait at most: a day at one a second, and more than that at none that anybody has. */
const MOST_WAITING = 200_000;

export interface Keeper {
  /** Takes readings; does not wait until they are stored. */
  take(readings: Reading[]): void;
  /** Resolves once all that was taken is stored, or was refused. */
  settled(): Promise<void>;
}

/**
 * Keeps readings in the order they come. While the database is away they wait and are tried again; a refusal ends it, with
 * its reason: none of what waits will ever be taken.
 */
export function keeper(
  store: (readings: Reading[]) => Promise<unknown>,
  refused: (reason: string) => void,
  firstWaitMs = FIRST_WAIT_MS,
): Keeper {
  const waiting: Reading[] = [];
  let keeping: Promise<void> | null = null;
  let ended = false;
  const end = (reason: string) => {
    ended = true;
    waiting.length = 0;
    refused(reason);
  };
  const keepAll = async () => {
    let wait = firstWaitMs;
    while (waiting.length > 0 && !ended) {
      const batch = waiting.slice(0, BATCH);
      try {
        await store(batch);
        waiting.splice(0, batch.length);
        wait = firstWaitMs;
      } catch (error) {
        if (error instanceof Refusal) end(error.message);
        else {
          await new Promise((resolve) => setTimeout(resolve, wait));
          wait = Math.min(LONGEST_WAIT_MS, 2 * wait);
        }
      }
    }
    keeping = null;
  };
  return {
    take(readings) {
      if (ended) return;
      if (waiting.length + readings.length > MOST_WAITING) return end(say("server.instrument.tooManyWait"));
      waiting.push(...readings);
      keeping ??= keepAll();
    },
    settled: () => keeping ?? Promise.resolve(),
  };
}
