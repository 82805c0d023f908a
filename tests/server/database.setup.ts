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

/** A fresh MariaDB of the tests' own, migrated, for as long as they run. Each test file has a copy in it: `own-database.ts`. */
export default async function setup(project: TestProject) {
  const folder = join(import.meta.dirname, "../../.local/unit-tests");
  rmSync(folder, { recursive: true, force: true });
  mkdirSync(folder, { recursive: true });
  const database = await startMariaDb(folder);
  await migrate(database.url);
  project.provide("databaseUrl", database.url);
  return database.stop;
}
