import { spawn, type ChildProcess } from "node:child_process";
import { readFileSync, writeFileSync } from "node:fs";
import { join } from "node:path";
import { isAlive } from "./mariadb";

const ROOT = join(import.meta.dirname, "..");

/** Notes who started which application, for `endOrphan`. */
export function noteOwner(pidFile: string, application: ChildProcess): void {
  writeFileSync(pidFile, `${process.pid} ${application.pid}`);
}

/** Ends an application whose Chillbank was killed before it could: the one in the file, if it still is one. */
export function endOrphan(pidFile: string): void {
  try {
    const [owner, pid] = readFileSync(pidFile, "utf8").split(" ").map(Number) as [number, number];
    if (isAlive(owner)) return;
    if (readFileSync(`/proc/${pid}/comm`, "utf8").startsWith("next-server")) process.kill(pid, "SIGTERM");
  } catch {
    // No file, or no such process any more.
  }
}

/**
 * How long a connection without a request stays open, ms. By itself a server closes it after five seconds, at times just as a
 * proxy or a program sends the next request on it, which is then lost with the connection; a proxy's own wait is shorter than this.
 */
const KEEP_ALIVE_MS = 75_000;

/** Starts the built application on loopback and waits until it answers. */
export async function serve(
  port: number,
  databaseUrl: string,
  secrets: { CHILLBANK_SECRET: string; CHILLBANK_DEMO?: string },
): Promise<ChildProcess> {
  const next = join(ROOT, "node_modules/next/dist/bin/next");
  const listen = ["--hostname", "127.0.0.1", "--port", String(port), "--keepAliveTimeout", String(KEEP_ALIVE_MS)];
  const child = spawn(process.execPath, [next, "start", ...listen], {
    cwd: ROOT,
    env: {
      ...process.env,
      NODE_ENV: "production",
      NEXT_TELEMETRY_DISABLED: "1",
      DATABASE_URL: databaseUrl,
      ...secrets,
    },
    stdio: ["ignore", "pipe", "pipe"],
    detached: true,
  });
  let said = "";
  const keep = (chunk: Buffer) => (said = (said + chunk.toString()).slice(-4000));
  child.stdout?.on("data", keep);
  child.stderr?.on("data", (chunk: Buffer) => {
    keep(chunk);
    process.stderr.write(chunk);
  });
  const deadline = Date.now() + 240_000;
  for (;;) {
    if (child.exitCode !== null) throw new Error(`The application did not start:\n${said}`);
    try {
      const answer = await fetch(`http://127.0.0.1:${port}/`, { signal: AbortSignal.timeout(30_000) });
      if (answer.ok) return child;
      if (Date.now() > deadline) throw new Error(`it answers ${answer.status}`);
    } catch (error) {
      if (Date.now() > deadline)
        throw new Error(`The application does not answer: ${(error as Error).message}\n${said}`, { cause: error });
    }
    await new Promise((resolve) => setTimeout(resolve, 150));
  }
}
