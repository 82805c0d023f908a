import { mkdirSync, rmSync } from "node:fs";
import { join } from "node:path";
import type { TestProject } from "vitest/node";
import { startMariaDb } from "../../tools/mariadb";
import { migrate } from "../../tools/schema";

declare module "vitest" {
  interface ProvidedContext {
    databaseUrl: string;
  }
}

/** The server that both projects of the server's tests share: each reads this module for itself. */
const held = globalThis as { testDatabase?: ReturnType<typeof start>; stopped?: Promise<void> };

async function start() {
  const folder = join(import.meta.dirname, "../../.local/unit-tests");
  rmSync(folder, { recursive: true, force: true });
  mkdirSync(folder, { recursive: true });
  const database = await startMariaDb(folder);
  await migrate(database.url);
  return database;
}

/** A fresh MariaDB of the tests' own, migrated, for as long as they run. Each test file has a copy in it: `own-database.ts`. */
export default async function setup(project: TestProject) {
  const database = await (held.testDatabase ??= start());
  project.provide("databaseUrl", database.url);
  return () => (held.stopped ??= database.stop());
}
