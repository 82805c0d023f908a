import { spawn, type ChildProcess } from "node:child_process";
import { join } from "node:path";

const ROOT = join(import.meta.dirname, "..");

/** Starts the built application on loopback and waits until it answers. */
export async function serve(port: number, databaseUrl: string): Promise<ChildProcess> {
  const next = join(ROOT, "node_modules/next/dist/bin/next");
  const child = spawn(process.execPath, [next, "start", "--hostname", "127.0.0.1", "--port", String(port)], {
    cwd: ROOT,
    env: { ...process.env, NODE_ENV: "production", NEXT_TELEMETRY_DISABLED: "1", DATABASE_URL: databaseUrl },
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
  const deadline = Date.now() + 60_000;
  for (;;) {
    if (child.exitCode !== null) throw new Error(`The application did not start:\n${said}`);
    try {
      const answer = await fetch(`http://127.0.0.1:${port}/`, { signal: AbortSignal.timeout(5000) });
      if (answer.ok) return child;
      if (Date.now() > deadline) throw new Error(`it answers ${answer.status}`);
    } catch (error) {
      if (Date.now() > deadline)
        throw new Error(`The application does not answer: ${(error as Error).message}\n${said}`, { cause: error });
    }
    await new Promise((resolve) => setTimeout(resolve, 150));
  }
}
