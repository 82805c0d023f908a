/** Starts Chillbank with its own database and the demo's jobs; Ctrl-C ends both. */
import type { ChildProcess } from "node:child_process";
import { mkdirSync } from "node:fs";
import { join } from "node:path";
import { buildIfChanged } from "./build";
import { ended, freePort, startMariaDb, type RunningDatabase } from "./mariadb";
import { migrate, seedDemo } from "./schema";
import { keptSecret } from "./secrets";
import { endOrphan, noteOwner, serve } from "./serve";

const ROOT = join(import.meta.dirname, "..");
const appFile = join(ROOT, ".local/application.pid");
const wanted = Number(process.env.PORT || 3210);

const closers: (() => Promise<void>)[] = [];
let closing = false;
async function close(status: number): Promise<void> {
  if (closing) return;
  closing = true;
  for (const closer of closers.reverse()) await closer().catch((error: Error) => console.error(error.message));
  process.exit(status);
}
/** Times that a server is started again within a minute before it is given up on. */
const MOST_STARTS = 5;

/** Starts the server, and starts it again where it ends by itself. */
async function supervise(port: number, url: string, secrets: Parameters<typeof serve>[2]): Promise<void> {
  const starts: number[] = [];
  let application: ChildProcess;
  const start = async () => {
    starts.push(Date.now());
    application = await serve(port, url, secrets);
    noteOwner(appFile, application);
    application.once("exit", (code, signal) => {
      if (closing) return;
      if (starts.filter((at) => at > Date.now() - 60_000).length >= MOST_STARTS) return void close(code ?? 1);
      console.log(`The server ended (${signal ?? code}): starting it again.`);
      start().catch((error: Error) => {
        console.error(error.message);
        void close(1);
      });
    });
  };
  await start();
  closers.push(() => ended(application, "SIGTERM", 5000));
}

for (const signal of ["SIGINT", "SIGTERM", "SIGHUP"] as const) process.on(signal, () => void close(0));

try {
  let url = process.env.DATABASE_URL;
  const folder = join(ROOT, ".local");
  mkdirSync(folder, { recursive: true });
  if (!url) {
    const own: RunningDatabase = await startMariaDb(folder);
    closers.push(own.stop);
    url = own.url;
  }
  endOrphan(appFile);
  await migrate(url);
  const password = keptSecret(join(folder, "demo.secret"));
  await seedDemo(url, password);
  buildIfChanged();
  const port = await freePort(wanted);
  if (port !== wanted) console.log(`Port ${wanted} is taken; using ${port}.`);
  if (!closing) {
    await supervise(port, url, {
      CHILLBANK_SECRET: process.env.CHILLBANK_SECRET ?? keptSecret(join(folder, "session.secret")),
      CHILLBANK_DEMO: password,
    });
    console.log(`Chillbank: http://127.0.0.1:${port}/  (Ctrl-C ends it)`);
  }
} catch (error) {
  console.error((error as Error).message);
  await close(1);
}
