import { readdirSync, readFileSync } from "node:fs";
import { join } from "node:path";
import { migrationSource } from "../db/migrations";
import { connect } from "../src/server/database";
import { readRigText } from "../src/core/rig/document";
import { createRig, refreshSummaries } from "../src/server/rigs";

const ROOT = join(import.meta.dirname, "..");

/** Brings the schema of a database up to date and stored verdicts with it. */
export async function migrate(url: string): Promise<void> {
  const db = connect(url);
  try {
    await db.migrate.latest({ migrationSource });
    await refreshSummaries(db);
  } finally {
    await db.destroy();
  }
}

/** Puts the demo's jobs into a database that has never held a job. */
export async function seedDemo(url: string): Promise<void> {
  const db = connect(url);
  try {
    if (await db("rigs").first("id")) return;
    const folder = join(ROOT, "db/demo");
    const files = readdirSync(folder)
      .filter((file) => file.endsWith(".json"))
      .sort()
      .reverse();
    for (const [index, file] of files.entries()) {
      const read = readRigText(readFileSync(join(folder, file), "utf8"));
      if (!read.ok) throw new Error(`${file}: ${read.faults[0]?.path} ${read.faults[0]?.message}`);
      // A minute between them gives the list a settled order.
      await createRig(db, read.rig, new Date(Date.now() - (files.length - index) * 60_000));
    }
  } finally {
    await db.destroy();
  }
}
