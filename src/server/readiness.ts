import { stat } from "node:fs/promises";
import { database, transaction } from "./database";

/* Whether a visitor would be served: by the ways that their requests take through this server and its database. */

/** Longest that either may take, ms: whoever asks has others to send people to. */
const LONGEST_MS = 2000;

export interface Readiness {
  /** Threads that read files, make hashes and pack have a turn. */
  server: boolean;
  /** A session is looked up and a job read, by a connection of the pool that requests take theirs from. */
  database: boolean;
}

const within = (work: Promise<unknown>): Promise<boolean> =>
  Promise.race([
    work.then(
      () => true,
      () => false,
    ),
    new Promise<false>((resolve) => setTimeout(() => resolve(false), LONGEST_MS).unref()),
  ]);

/** The way of a visitor: who they are by their session, and a job, in a transaction as one that saves. */
const visit = () =>
  transaction(database(), async (tx) => {
    await tx("sessions")
      .join("people", "people.id", "sessions.person_id")
      .where({ token: "nobody's" })
      .first("people.id");
    await tx("jobs").first("id");
  });

const held = globalThis as { chillbankReadiness?: Promise<Readiness> };

/** Asks both ways at once. However many ask, one looks: the question must not be what stops a server. */
export function readiness(): Promise<Readiness> {
  return (held.chillbankReadiness ??= Promise.all([within(stat(process.cwd())), within(visit())])
    .then(([server, reached]) => ({ server, database: reached }))
    .finally(() => delete held.chillbankReadiness));
}
