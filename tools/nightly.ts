/** `bin/nightly`: erases what was deleted a month ago, drops what has run out, and writes a backup. One server a night is enough. */
import { mkdirSync, readdirSync, rmSync } from "node:fs";
import { join } from "node:path";
import { connect } from "../src/server/database";
import { purgeJobs, purgePhotos, sweepPeople } from "../src/server/erasure";
import { sweepImports } from "../src/server/test-runs";
import { backup } from "./backup";
import { addressOfRunning } from "./mariadb";
import { inTurn } from "./turn";

/** Nights that are kept. */
const KEPT = 14;
const NAME = /^chillbank-\d{4}-\d{2}-\d{2}\.backup$/;

/** Writes tonight's backup into a folder and drops all but the last fourteen. Returns its file. */
export async function backupOfTonight(url: string, folder: string, now = new Date()): Promise<string> {
  mkdirSync(folder, { recursive: true, mode: 0o700 });
  const file = join(folder, `chillbank-${now.toISOString().slice(0, 10)}.backup`);
  await backup(url, file);
  const nights = readdirSync(folder)
    .filter((name) => NAME.test(name))
    .sort();
  for (const name of nights.slice(0, -KEPT)) rmSync(join(folder, name));
  return file;
}

/** The night's work on a database; a second server that comes at the same time leaves it to the first. */
export async function nightly(url: string, folder: string | null): Promise<string> {
  const db = connect(url, { longestStatementS: 0 });
  try {
    const done = await inTurn(db, "nightly", 0, async () => {
      const purged = await purgeJobs(db);
      await purgePhotos(db);
      await sweepImports(db);
      await sweepPeople(db);
      const file = folder && (await backupOfTonight(url, folder));
      return `${purged} deleted jobs erased; ${file ? `backup in ${file}` : "no backup: CHILLBANK_BACKUPS names no folder"}.`;
    });
    return done ?? "Another server does the night's work.";
  } finally {
    await db.destroy();
  }
}

if (process.argv[1]?.endsWith("nightly.ts")) {
  const url = process.env.DATABASE_URL ?? addressOfRunning(join(import.meta.dirname, "../.local"));
  if (!url) {
    console.error("DATABASE_URL is not set, and no bin/demo runs.");
    process.exit(2);
  }
  console.log(await nightly(url, process.env.CHILLBANK_BACKUPS ?? null));
}
