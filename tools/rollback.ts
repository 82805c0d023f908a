/** `bin/rollback [FILE]`: the database as it was before the last upgrade, or as in the backup that is named. */
import { mkdirSync, readdirSync } from "node:fs";
import { join, resolve } from "node:path";
import { backup, NotRestored } from "./backup";
import { addressOfRunning, startMariaDb } from "./mariadb";
import { othersAt, restore } from "./restore";
import { BACKUPS, BEFORE_UPGRADE, stamped } from "./schema";

/** The backup of before the last upgrade in a folder. */
export function lastBeforeUpgrade(folder: string): string | null {
  const found = readdirSync(folder)
    .filter((name) => name.startsWith(BEFORE_UPGRADE) && name.endsWith(".backup"))
    .sort()
    .at(-1);
  return found === undefined ? null : join(folder, found);
}

/**
 * Brings a database back to how it stood in a backup. What stands there now is written into the folder first. Returns that
 * file. Throws `NotRestored`: then nothing was changed.
 */
export async function rollback(url: string, { file, folder }: { file: string; folder: string }): Promise<string> {
  if ((await othersAt(url)) > 0)
    throw new NotRestored("Something is still connected to the database: stop every server of this Chillbank first.");
  const saved = join(folder, stamped("before-rollback"));
  await backup(url, saved);
  await restore(url, file, { replace: true });
  return saved;
}

async function main(): Promise<void> {
  const folder = BACKUPS();
  mkdirSync(folder, { recursive: true, mode: 0o700 });
  const named = process.argv[2];
  const file = named ? resolve(process.env.CHILLBANK_CWD ?? ".", named) : lastBeforeUpgrade(folder);
  if (!file) throw new NotRestored(`There is no backup of before an upgrade in ${folder}.`);
  const data = join(import.meta.dirname, "../.local");
  const running = process.env.DATABASE_URL ?? addressOfRunning(data);
  const own = running ? null : await startMariaDb(data);
  try {
    const saved = await rollback(running ?? own!.url, { file, folder });
    console.log(`The database is as in ${file}. As it was a moment ago: ${saved}`);
    console.log("Start the Chillbank of before the upgrade now: a newer one upgrades the database again.");
  } finally {
    await own?.stop();
  }
}

if (process.argv[1]?.endsWith("rollback.ts"))
  await main().catch((error: unknown) => {
    if (!(error instanceof NotRestored)) throw error;
    console.error(error.message);
    process.exitCode = 2;
  });
