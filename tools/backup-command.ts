/** `bin/backup FILE` and `bin/restore FILE`: of the database at DATABASE_URL, or of that of bin/demo. */
import { mkdirSync } from "node:fs";
import { join, resolve } from "node:path";
import { backup, NotRestored } from "./backup";
import { addressOfRunning, startMariaDb } from "./mariadb";
import { restore } from "./restore";
import { migrate } from "./schema";

const unsigned = process.argv.includes("--unsigned");
const [what, named] = process.argv.slice(2).filter((one) => one !== "--unsigned");
if (!named || (what !== "backup" && what !== "restore")) {
  console.error(`Usage: bin/${what ?? "backup"} FILE`);
  process.exit(2);
}
const file = resolve(process.env.CHILLBANK_CWD ?? ".", named);
const folder = join(import.meta.dirname, "../.local");
mkdirSync(folder, { recursive: true });
const running = process.env.DATABASE_URL ?? addressOfRunning(folder);
const own = running ? null : await startMariaDb(folder);
const url = running ?? own!.url;
try {
  if (what === "backup") {
    console.log(`${file}: ${Math.ceil((await backup(url, file)) / 1024)} kB, signed.`);
  } else {
    await restore(url, file, { unsigned });
    // A backup of an earlier Chillbank is brought up to date.
    await migrate(url);
    console.log(`${file} is restored.`);
  }
} catch (error) {
  if (!(error instanceof NotRestored)) throw error;
  console.error(error.message);
  process.exitCode = 2;
} finally {
  await own?.stop();
}
