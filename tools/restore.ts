/*
 * A backup is brought back into a database of another name. Only when all of it stands there are its tables renamed to where
 * they belong, all at once: one that was cut short has changed nothing. It is read here, not by a client program: tables are
 * made and rows put into them, and nothing else that a file may ask for is done.
 */
import { createReadStream } from "node:fs";
import { createInterface } from "node:readline";
import { createGunzip } from "node:zlib";
import { createConnection, type Connection, type ResultSetHeader, type RowDataPacket } from "mysql2/promise";
import { connectionOf } from "../src/server/connection-of";
import { checkBackup, HEAD_BYTES, NotRestored } from "./backup";

/** What is made of the tables of a dump, and what of its lines is passed over: how it sets up a client, and locks. */
const MAKES = /^CREATE TABLE `(\w+)` \(/;
const FILLS = /^INSERT INTO `(\w+)` VALUES\b/;
const PASSED = /^(\/\*M?!|--|SET |DROP TABLE |LOCK TABLES |UNLOCK TABLES;|commit;|COMMIT;)/;

/** Statements of a dump. No text in it has a line's end of its own, so that a line that ends with a semicolon ends a statement. */
async function* statementsOf(file: string): AsyncGenerator<string> {
  const lines = createInterface({ input: createReadStream(file, { start: HEAD_BYTES }).pipe(createGunzip()) });
  let statement = "";
  for await (const line of lines) {
    if (statement === "" && (line === "" || (PASSED.test(line) && !line.endsWith(";")))) continue;
    statement += statement ? `\n${line}` : line;
    if (!line.endsWith(";")) continue;
    yield statement;
    statement = "";
  }
  if (statement) throw new NotRestored(`${file} ends within a statement.`);
}

const quoted = (name: string) => `\`${name.replaceAll("`", "``")}\``;

/** Makes and fills the tables of a dump in a database. Returns how many rows each was given. */
async function fill(db: Connection, file: string): Promise<Map<string, number>> {
  await db.query("SET NAMES utf8mb4, foreign_key_checks = 0, unique_checks = 0, sql_mode = 'NO_AUTO_VALUE_ON_ZERO'");
  const rows = new Map<string, number>();
  for await (const statement of statementsOf(file)) {
    const [made, filled] = [MAKES.exec(statement)?.[1], FILLS.exec(statement)?.[1]];
    if (made) rows.set(made, 0);
    else if (filled === undefined || !rows.has(filled)) {
      if (PASSED.test(statement)) continue;
      throw new NotRestored(`${file} asks for something that no backup does: ${statement.slice(0, 60)}`);
    }
    const [{ affectedRows }] = await db.query<ResultSetHeader>(statement);
    if (filled) rows.set(filled, rows.get(filled)! + affectedRows);
  }
  return rows;
}

/** Tables of a database. */
async function tablesOf(db: Connection, name: string): Promise<string[]> {
  const [found] = await db.query<RowDataPacket[]>("SHOW TABLES FROM ??", [name]);
  return found.map((row) => String(Object.values(row)[0]));
}

/** Throws unless what stands in a database is what was put into it. */
async function needsAll(db: Connection, name: string, rows: ReadonlyMap<string, number>): Promise<void> {
  if ((await tablesOf(db, name)).length !== rows.size || rows.size === 0)
    throw new NotRestored("Not every table came back. Nothing was changed.");
  for (const [table, expected] of rows) {
    const [[found]] = await db.query<RowDataPacket[]>("SELECT COUNT(*) AS n FROM ??.??", [name, table]);
    if (Number(found!.n) !== expected)
      throw new NotRestored(`Of ${table} ${found!.n} rows came back, and not ${expected}. Nothing was changed.`);
  }
}

/** Makes an empty database, without what a restore that was cut short left in it. */
async function emptyDatabase(db: Connection, name: string): Promise<void> {
  try {
    await db.query("DROP DATABASE IF EXISTS ??", [name]);
    await db.query("CREATE DATABASE ?? CHARACTER SET utf8mb4 COLLATE utf8mb4_unicode_ci", [name]);
  } catch (error) {
    if (!["ER_DBACCESS_DENIED_ERROR", "ER_ACCESS_DENIED_ERROR"].includes((error as { code?: string }).code ?? ""))
      throw error;
    throw new NotRestored(
      `A backup is first brought back into a database of its own. Let the user make it: GRANT ALL ON ${quoted(name)}.* TO …; see docs/operating.md.`,
    );
  }
}

export interface Restoring {
  /** Whether tables that stand there give way to those of the backup; else there must be no job. */
  replace?: boolean;
  /** Whether a backup of before they were signed is taken. */
  unsigned?: boolean;
}

/**
 * Restores a backup into the database of an address: into one that holds no job, or in place of what stands there. All of it
 * is there afterwards, or nothing was changed. Throws `NotRestored`.
 */
export async function restore(
  url: string,
  file: string,
  { replace = false, unsigned = false }: Restoring = {},
): Promise<void> {
  await checkBackup(file, { unsigned });
  const { database: name, ...server } = connectionOf(url);
  const [beside, gone] = [`${name}_restoring`, `${name}_gone`];
  const db = await createConnection({ ...server, database: name });
  try {
    const standing = await tablesOf(db, name);
    const jobs = ["jobs", "rigs"].filter((table) => standing.includes(table));
    for (const table of replace ? [] : jobs) {
      const [found] = await db.query<RowDataPacket[]>("SELECT id FROM ??.?? LIMIT 1", [name, table]);
      if (found.length > 0) throw new NotRestored("The database holds jobs already: restore into an empty one.");
    }
    await emptyDatabase(db, beside);
    const into = await createConnection({ ...server, database: beside });
    const rows = await fill(into, file).finally(() => into.end());
    await needsAll(db, beside, rows);
    await emptyDatabase(db, gone);
    const moves = [
      ...standing.map((table) => [name, table, gone] as const),
      ...[...rows.keys()].map((table) => [beside, table, name] as const),
    ].map(([from, table, to]) => `${quoted(from)}.${quoted(table)} TO ${quoted(to)}.${quoted(table)}`);
    // Who had a turn when the backup was written has none any more.
    if (rows.has("turns")) await db.query("DELETE FROM ??.turns", [beside]);
    await db.query(`RENAME TABLE ${moves.join(", ")}`);
    for (const one of [gone, beside]) await db.query("DROP DATABASE ??", [one]);
  } finally {
    await db.end();
  }
}

/** Connections to a database beside the asking one: of servers that were not stopped. */
export async function othersAt(url: string): Promise<number> {
  const db = await createConnection(connectionOf(url));
  try {
    const [[found]] = await db.query<RowDataPacket[]>(
      "SELECT COUNT(*) AS n FROM information_schema.PROCESSLIST WHERE DB = DATABASE() AND ID <> CONNECTION_ID()",
    );
    return Number(found!.n);
  } finally {
    await db.end();
  }
}
