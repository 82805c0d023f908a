/**
 * Runs a command against the built application on a fresh database with the demo's jobs: `stand.ts NAME COMMAND…`. With
 * `--meanwhile` before NAME the command begins while all that is still being made, and itself waits for the file STAND_READY.
 */
import { spawn, type ChildProcess } from "node:child_process";
import { mkdirSync, rmSync, writeFileSync } from "node:fs";
import { join } from "node:path";
import { buildIfChanged } from "./build";
import { ended, freePort, startMariaDb, type RunningDatabase } from "./mariadb";
import { migrate, seedDemo } from "./schema";
import { keptSecret } from "./secrets";
import { serve } from "./serve";

const ROOT = join(import.meta.dirname, "..");
const given = process.argv.slice(2);
const meanwhile = given[0] === "--meanwhile";
const [name, command, ...args] = meanwhile ? given.slice(1) : given;
if (!name || !command) throw new Error("usage: stand.ts [--meanwhile] NAME COMMAND…");

const folder = join(ROOT, ".local", name);
const ready = join(folder, "ready");
rmSync(folder, { recursive: true, force: true });
mkdirSync(folder, { recursive: true });
buildIfChanged();
const password = keptSecret(join(folder, "demo.secret"));
const secrets = { CHILLBANK_SECRET: keptSecret(join(folder, "session.secret")), CHILLBANK_DEMO: password };

/** The demo's jobs and the application at the same time: the one keeps a processor busy, the other reads its files. */
async function made(database: RunningDatabase, port: number): Promise<ChildProcess> {
  const [seeded, served] = await Promise.allSettled([
    seedDemo(database.url, password),
    serve(port, database.url, secrets),
  ]);
  if (seeded.status === "rejected") {
    if (served.status === "fulfilled") await ended(served.value, "SIGTERM", 5000);
    throw seeded.reason;
  }
  if (served.status === "rejected") throw served.reason;
  writeFileSync(ready, "");
  return served.value;
}

const begun = (database: RunningDatabase, port: number, application?: ChildProcess): ChildProcess =>
  spawn(command, args, {
    cwd: ROOT,
    stdio: "inherit",
    env: {
      ...process.env,
      BASE_URL: `http://127.0.0.1:${port}`,
      DATABASE_URL: database.url,
      DATABASE_PID: String(database.process.pid),
      STAND_READY: ready,
      ...(application ? { SERVER_PID: String(application.pid) } : {}),
      ...secrets,
    },
  });

const database = await startMariaDb(folder);
let status: number;
try {
  await migrate(database.url);
  const port = await freePort();
  let child = meanwhile ? begun(database, port) : null;
  try {
    const application = await made(database, port);
    try {
      child ??= begun(database, port, application);
      const running = child;
      status =
        running.exitCode ??
        (await new Promise<number>((resolve) => running.once("exit", (code) => resolve(code ?? 1))));
    } finally {
      await ended(application, "SIGTERM", 5000);
    }
  } finally {
    // Whoever waits for what could not be made would wait for ever.
    if (child && child.exitCode === null) child.kill("SIGTERM");
  }
} finally {
  await database.stop();
}
process.exit(status);
