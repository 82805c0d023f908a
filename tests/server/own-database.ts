import { inject } from "vitest";
import { connect } from "@/server/database";
import { createWorkshop } from "@/server/people";
import { migrate } from "../../tools/schema";

/** The workshop of every test's database, and an owner of it who changes things there. */
export const WORKSHOP = "0190aaaa-0000-7000-8000-000000000001";
export const AUTHOR = { workshopId: WORKSHOP, personId: null, name: "Somebody" };

/**
 * A fresh database of the calling test file's own, with the schema and the generic parts, by its address.
 * Files that share one would pass or fail by the order in which they run.
 */
export async function ownDatabase(): Promise<string> {
  const server = inject("databaseUrl");
  const name = `test_${crypto.randomUUID().replaceAll("-", "")}`;
  const admin = connect(server);
  await admin.raw("CREATE DATABASE ?? CHARACTER SET utf8mb4 COLLATE utf8mb4_unicode_ci", [name]);
  await admin.destroy();
  const url = server.replace(/[^/]+$/, name);
  await migrate(url);
  const db = connect(url);
  await createWorkshop(db, "Own", { id: WORKSHOP });
  await db.destroy();
  return url;
}
