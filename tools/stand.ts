/** Runs a command against the built application on a fresh database with the demo's jobs: `stand.ts NAME COMMAND…`. */
import { spawn } from "node:child_process";
import { mkdirSync, rmSync } from "node:fs";
import { join } from "node:path";
import { buildIfChanged } from "./build";
import { ended, freePort, startMariaDb } from "./mariadb";
import { migrate, seedDemo } from "./schema";
import { keptSecret } from "./secrets";
import { serve } from "./serve";

const ROOT = join(import.meta.dirname, "..");
const [name, command, ...args] = process.argv.slice(2);
if (!name || !command) throw new Error("usage: stand.ts NAME COMMAND…");

const folder = join(ROOT, ".local", name);
rmSync(folder, { recursive: true, force: true });
mkdirSync(folder, { recursive: true });
buildIfChanged();
const database = await startMariaDb(folder);
let status: number;
try {
  await migrate(database.url);
  const password = keptSecret(join(folder, "demo.secret"));
  await seedDemo(database.url, password);
  const port = await freePort();
  const secrets = { CHILLBANK_SECRET: keptSecret(join(folder, "session.secret")), CHILLBANK_DEMO: password };
  const application = await serve(port, database.url, secrets);
  try {
    const child = spawn(command, args, {
      cwd: ROOT,
      stdio: "inherit",
      env: {
        ...process.env,
        BASE_URL: `http://127.0.0.1:${port}`,
        DATABASE_URL: database.url,
        SERVER_PID: String(application.pid),
        DATABASE_PID: String(database.process.pid),
        ...secrets,
      },
    });
    status = await new Promise<number>((resolve) => child.once("exit", (code) => resolve(code ?? 1)));
  } finally {
    await ended(application, "SIGTERM", 5000);
  }
} finally {
  await database.stop();
}
process.exit(status);
