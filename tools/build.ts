import { spawnSync } from "node:child_process";
import { createHash } from "node:crypto";
import { existsSync, mkdirSync, readdirSync, readFileSync, writeFileSync } from "node:fs";
import { join } from "node:path";

const ROOT = join(import.meta.dirname, "..");
const MARK = join(ROOT, ".next", "chillbank-sources");

function filesUnder(folder: string): string[] {
  return readdirSync(folder, { withFileTypes: true })
    .sort((a, b) => (a.name < b.name ? -1 : 1))
    .flatMap((entry) => (entry.isDirectory() ? filesUnder(join(folder, entry.name)) : [join(folder, entry.name)]));
}

/** Hash of everything a build depends on. */
function sourcesHash(): string {
  const hash = createHash("sha256");
  const files = [
    ...filesUnder(join(ROOT, "src")),
    // What the server takes from there is in the build too.
    ...filesUnder(join(ROOT, "db")).filter((f) => f.endsWith(".ts")),
    ...["package-lock.json", "next.config.ts", "tsconfig.json", "tools/service-worker.vite.ts"].map((f) =>
      join(ROOT, f),
    ),
  ];
  for (const file of files.filter((f) => existsSync(f) && !f.endsWith(".test.ts")))
    hash.update(file.slice(ROOT.length)).update(readFileSync(file));
  return hash.digest("hex");
}

/** The service worker is a file of its own, served from the root: that is what it may watch over. */
function buildServiceWorker(): void {
  const vite = join(ROOT, "node_modules/vite/bin/vite.js");
  const built = spawnSync(process.execPath, [vite, "build", "--config", join(ROOT, "tools/service-worker.vite.ts")], {
    cwd: ROOT,
    env: { ...process.env, NODE_ENV: "production" },
    encoding: "utf8",
  });
  if (built.status !== 0) throw new Error(`The service worker was not built:\n${built.stdout}\n${built.stderr}`);
}

/** Builds the application unless what was built last came from the same sources. */
export function buildIfChanged(): void {
  const hash = sourcesHash();
  if (existsSync(MARK) && readFileSync(MARK, "utf8") === hash && existsSync(join(ROOT, ".next/BUILD_ID"))) return;
  console.log("Building the application (about a minute, once) …");
  buildServiceWorker();
  const built = spawnSync(process.execPath, [join(ROOT, "node_modules/next/dist/bin/next"), "build"], {
    cwd: ROOT,
    env: { ...process.env, NODE_ENV: "production", NEXT_TELEMETRY_DISABLED: "1" },
    encoding: "utf8",
  });
  if (built.status !== 0) throw new Error(`The build failed:\n${built.stdout}\n${built.stderr}`);
  mkdirSync(join(ROOT, ".next"), { recursive: true });
  writeFileSync(MARK, hash);
}

if (process.argv[1] === import.meta.filename) buildIfChanged();
