import knex, { type Knex } from "knex";

const held = globalThis as { chillbankDatabase?: Knex };

/** Connects to the MariaDB server of a `mysql://` address: UTC throughout, utf8mb4. */
export function connect(url: string): Knex {
  const { hostname, port, username, password, pathname } = new URL(url);
  return knex({
    client: "mysql2",
    connection: {
      host: hostname,
      port: Number(port || 3306),
      user: decodeURIComponent(username),
      password: decodeURIComponent(password),
      database: decodeURIComponent(pathname.slice(1)),
      charset: "utf8mb4",
      timezone: "Z",
      supportBigNumbers: true,
    },
    pool: {
      min: 0,
      max: 8,
      afterCreate: (
        connection: { query: (sql: string, done: (error: Error | null) => void) => void },
        done: (error: Error | null, c: unknown) => void,
      ) =>
        connection.query("SET time_zone = '+00:00', sql_mode = 'STRICT_ALL_TABLES,NO_ENGINE_SUBSTITUTION'", (error) =>
          done(error, connection),
        ),
    },
  });
}

/** The one pool of this process. It is kept on globalThis because development reloads modules. */
export function database(): Knex {
  const url = process.env.DATABASE_URL;
  if (!url) throw new Error("DATABASE_URL is not set: start Chillbank with bin/demo");
  return (held.chillbankDatabase ??= connect(url));
}
