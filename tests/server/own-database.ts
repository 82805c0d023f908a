import { inject } from "vitest";
import { connect } from "@/server/database";
import { createWorkshop } from "@/server/people";

/** The workshop of every test's database, and an owner of it who changes things there. */
export const WORKSHOP = "0190aaaa-0000-7000-8000-000000000001";
/** An owner whom requests of most tests come from. */
export const OWNER_ID = "0190aaaa-0000-7000-8000-000000000002";
export const AUTHOR = { workshopId: WORKSHOP, personId: null, name: "Somebody" };

/** The gazetteer has a hundred thousand rows that few tests ask for. */
const GAZETTEER = "places";

/**
 * A fresh database of the calling test file's own, with the schema and the generic parts, by its address; with the gazetteer
 * where it is asked for. Files that share one would pass or fail by the order in which they run. Each is a copy of one that
 * was migrated before any test: tables, keys and rows as they stand there.
 */
export async function ownDatabase({ gazetteer = false } = {}): Promise<string> {
  const server = inject("databaseUrl");
  const migrated = new URL(server).pathname.slice(1);
  const name = `test_${crypto.randomUUID().replaceAll("-", "")}`;
  const admin = connect(server);
  await admin.raw("CREATE DATABASE ?? CHARACTER SET utf8mb4 COLLATE utf8mb4_unicode_ci", [name]);
  const [tables] = (await admin.raw("SHOW TABLES FROM ??", [migrated])) as [Record<string, string>[]];
  const url = server.replace(/[^/]+$/, name);
  const db = connect(url);
  await db.transaction(async (one) => {
    // One connection for all of it: tables come before those that they refer to.
    await one.raw("SET foreign_key_checks = 0");
    for (const [table] of tables.map((row) => Object.values(row) as [string])) {
      const [[shown]] = (await one.raw("SHOW CREATE TABLE ??.??", [migrated, table])) as [[Record<string, string>]];
      await one.raw(shown["Create Table"]!);
      if (table !== GAZETTEER || gazetteer)
        await one.raw("INSERT INTO ?? SELECT * FROM ??.??", [table, migrated, table]);
    }
    await one.raw("SET foreign_key_checks = 1");
  });
  await createWorkshop(db, "Own", { id: WORKSHOP });
  const stamps = { created_at: new Date(), updated_at: new Date() };
  const owner = {
    id: OWNER_ID,
    workshop_id: WORKSHOP,
    role: "owner",
    name: AUTHOR.name,
    email: "stand-in@tests.invalid",
  };
  await db("people").insert({ ...owner, ...stamps });
  await Promise.all([db.destroy(), admin.destroy()]);
  return url;
}

/** Every row of every table, in an order of its own. */
export async function everything(url: string): Promise<Record<string, string[]>> {
  const db = connect(url);
  const [tables] = (await db.raw("SHOW TABLES")) as [Record<string, string>[]];
  const out: Record<string, string[]> = {};
  for (const name of tables.map((row) => Object.values(row)[0]!)) {
    const rows = (await db(name)) as object[];
    out[name] = rows.map((row) => JSON.stringify(row)).sort();
  }
  await db.destroy();
  return out;
}
