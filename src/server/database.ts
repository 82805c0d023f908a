import knex, { type Knex } from "knex";

const held = globalThis as { chillbankDatabase?: Knex };

/** Every connection counts in UTC and strictly; no statement runs for longer than some seconds (0: none is ended), or waits longer than 10 s for a lock. */
const session = (longestStatementS: number) =>
  `SET time_zone = '+00:00', sql_mode = 'STRICT_ALL_TABLES,NO_ENGINE_SUBSTITUTION', max_statement_time = ${longestStatementS}, innodb_lock_wait_timeout = 10`;

/** What a driver needs to connect by a `mysql://` address: UTC throughout, utf8mb4. */
export function connectionOf(url: string) {
  const { hostname, port, username, password, pathname } = new URL(url);
  return {
    host: hostname,
    port: Number(port || 3306),
    user: decodeURIComponent(username),
    password: decodeURIComponent(password),
    database: decodeURIComponent(pathname.slice(1)),
    charset: "utf8mb4",
    timezone: "Z",
    connectTimeout: 10_000,
  };
}

/** Connects to the MariaDB server of a `mysql://` address: UTC throughout, utf8mb4. */
export function connect(url: string, { longestStatementS = 30 } = {}): Knex {
  return knex({
    client: "mysql2",
    connection: { ...connectionOf(url), supportBigNumbers: true },
    // Who waits longer than this for a connection is told that the server is busy.
    acquireConnectionTimeout: 10_000,
    pool: {
      min: 0,
      max: 8,
      afterCreate: (
        connection: { query: (sql: string, done: (error: Error | null) => void) => void },
        done: (error: Error | null, c: unknown) => void,
      ) => connection.query(session(longestStatementS), (error) => done(error, connection)),
    },
  });
}

/** Codes of MariaDB for work that another's was in the way of: undone whole, it may be done again. */
const IN_THE_WAY = ["ER_LOCK_DEADLOCK", "ER_CHECKREAD"];
/** Where two machines write to the same row all the time, each try is as likely to come too late as the last. */
const MOST_TRIES = 12;
const LONGEST_WAIT_MS = 400;

/** Work in one transaction, all of it or nothing; done again where it came into the way of another's. */
export async function transaction<T>(db: Knex, work: (tx: Knex.Transaction) => Promise<T>): Promise<T> {
  for (let tried = 1; ; tried++) {
    try {
      return await db.transaction(work);
    } catch (error) {
      if (tried >= MOST_TRIES || !IN_THE_WAY.includes((error as { code?: string }).code ?? "")) throw error;
      await new Promise((resolve) => setTimeout(resolve, Math.min(LONGEST_WAIT_MS, 10 * 2 ** tried) * Math.random()));
    }
  }
}

/** The one pool of this process. It is kept on globalThis because development reloads modules. */
export function database(): Knex {
  const url = process.env.DATABASE_URL;
  if (!url) throw new Error("DATABASE_URL is not set: start Chillbank with bin/demo");
  return (held.chillbankDatabase ??= connect(url));
}
