import knex, { type Knex } from "knex";
import { connectionOf } from "./connection-of";
import { forgetAnswers } from "./database-answers";
import { hideValues, type Asked } from "./hidden-values";

const held = globalThis as { chillbankDatabase?: { url: string; pool: Knex } };

/** Every connection counts in UTC and strictly; no statement runs for longer than some seconds (0: none is ended), or waits longer than 10 s for a lock. */
const session = (longestStatementS: number) =>
  `SET time_zone = '+00:00', sql_mode = 'STRICT_ALL_TABLES,NO_ENGINE_SUBSTITUTION', max_statement_time = ${longestStatementS}, innodb_lock_wait_timeout = 10`;

type Done = (error: (Error & { code?: string }) | null, ...rest: unknown[]) => void;
interface Connection extends Asked {
  destroy(): void;
}

/** How much longer than its longest statement a server may be silent, ms: it stands still, or the line to it is cut. */
const SILENT_MS = 3000;

/**
 * Ends the wait for a server that does not answer at all: the statement fails, and its connection with it, since the answer
 * might still come. What is read as a stream is not timed: its pace is its reader's.
 */
function endSilence(connection: Connection, longestStatementS: number): void {
  const query = connection.query.bind(connection) as Connection["query"];
  const timeout = 1000 * longestStatementS + SILENT_MS;
  connection.query = (what, values, done) => {
    if (typeof done !== "function" || typeof what !== "object" || what === null) return query(what, values, done);
    const answered: Done = (error, ...rest) => {
      if (error?.code === "PROTOCOL_SEQUENCE_TIMEOUT") connection.destroy();
      (done as Done)(error, ...rest);
    };
    return query({ timeout, ...what }, values, answered);
  };
}

/** Longest that a statement of the application takes, s: each is answered in milliseconds but for a large import's. */
const LONGEST_STATEMENT_S = 15;

/** Connects to the MariaDB server of a `mysql://` address: UTC throughout, utf8mb4. */
export function connect(url: string, { longestStatementS = LONGEST_STATEMENT_S } = {}): Knex {
  return knex({
    client: "mysql2",
    connection: { ...connectionOf(url), supportBigNumbers: true },
    // An error's message has the statement with marks where its values were.
    compileSqlOnError: false,
    log: { warn: sayWarning },
    // Who waits longer than this for a connection is told that the server is busy.
    acquireConnectionTimeout: 10_000,
    pool: {
      min: 0,
      max: 8,
      afterCreate: (connection: Connection, done: (error: Error | null, c: unknown) => void) => {
        connection.query(session(longestStatementS), (error: Error | null) => {
          hideValues(connection);
          if (longestStatementS > 0) endSilence(connection, longestStatementS);
          done(error, connection);
        });
      },
    },
  });
}

/** A warning of the library. That no connection came it throws as well, to whoever has to say it in one line. */
function sayWarning(text: string): void {
  if (!text.startsWith("Acquire connection error")) process.stderr.write(`${text}\n`);
}

/** Codes of MariaDB for work that another's was in the way of: undone whole, it may be done again. */
const IN_THE_WAY = ["ER_LOCK_DEADLOCK", "ER_CHECKREAD"];
/** Where two machines write to the same row all the time, each try is as likely to come too late as the last. */
const MOST_TRIES = 12;
const LONGEST_WAIT_MS = 400;

/** Work in one transaction, all of it or nothing; done again where it came into the way of another's. */
export async function transaction<T>(db: Knex, work: (tx: Knex.Transaction) => Promise<T>): Promise<T> {
  // Within another it is a part of that one, which is undone and done again as a whole.
  if (db.isTransaction) return work(db as Knex.Transaction);
  for (let tried = 1; ; tried++) {
    try {
      return await db.transaction(work);
    } catch (error) {
      if (tried >= MOST_TRIES || !IN_THE_WAY.includes((error as { code?: string }).code ?? "")) throw error;
      await new Promise((resolve) => setTimeout(resolve, Math.min(LONGEST_WAIT_MS, 10 * 2 ** tried) * Math.random()));
    }
  }
}

/** The one pool of this process, made anew where `DATABASE_URL` changed. It is kept on globalThis because development reloads modules. */
export function database(): Knex {
  const url = process.env.DATABASE_URL;
  if (!url) throw new Error("DATABASE_URL is not set: start Chillbank with bin/demo");
  if (held.chillbankDatabase?.url !== url) held.chillbankDatabase = { url, pool: connect(url) };
  return held.chillbankDatabase.pool;
}

/** Closes the pool of this process, if there is one; who asks for it later gets a new one. */
export async function closeDatabase(): Promise<void> {
  const pool = held.chillbankDatabase?.pool;
  delete held.chillbankDatabase;
  forgetAnswers();
  await pool?.destroy();
}
