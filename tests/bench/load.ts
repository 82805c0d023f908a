/**
 * Many people at once on one server: `npm run load -- [seconds] [editors] [test runs] [s to warm up]` prints how long saves, readings and
 * pages take while editors save every seven seconds, test runs write a reading a second and logs of 500,000 rows come in;
 * and whether everything that was acknowledged is there afterwards.
 */
import { createHash } from "node:crypto";
import { cpus, loadavg } from "node:os";
import { quantile } from "d3-array";
import { v4 as uuid } from "uuid";
import { packReadings } from "../../src/core/applications/test-run/log/packed";
import { emptyReadings } from "../../src/core/applications/test-run/log/readings";
import { emptyJob, type Job } from "../../src/core/document/schema";
import { demoCookie } from "../../tools/demo-session";
import { longLog } from "./long-log";

const base = process.env.BASE_URL;
if (!base) throw new Error("run by npm run load");
/**
 * Everybody but the logs is at work for `warmUp` s before anything counts: what a server does for the first dozens of times
 * it compiles meanwhile. What those seconds took is printed by itself.
 */
const [seconds = 60, editors = 50, testRuns = 20, warmUp = 30] = process.argv.slice(2).map(Number);
const SAVE_EVERY_MS = 7000;
/** How long after its end what is under way is asked again, ms. */
const PATIENCE_MS = 20_000;
const PART = 4 * 1024 * 1024;
const cookie = await demoCookie(base);

interface Answered {
  /** When it was asked, and how long it took, ms. */
  at: number;
  took: number;
}
const times: Record<string, Answered[]> = { save: [], reading: [], page: [], import: [] };
const failed: string[] = [];
const lost: string[] = [];
const wait = (ms: number) => new Promise((resolve) => setTimeout(resolve, Math.max(0, ms)));
let until = 0;

/** Asks the server and notes how long that took under `kind`; what is not answered well is noted too, and null. */
async function ask(kind: string, path: string, init: RequestInit = {}): Promise<Response | null> {
  const from = performance.now();
  try {
    const answer = await fetch(base + path, {
      ...init,
      headers: {
        cookie,
        ...(typeof init.body === "string" ? { "content-type": "application/json" } : {}),
        ...init.headers,
      },
    });
    // All of it: a server that ends half way has not answered.
    const body = await answer.arrayBuffer();
    times[kind]?.push({ at: from, took: performance.now() - from });
    if (answer.ok) return new Response(body.byteLength > 0 ? body : null, { status: answer.status });
    failed.push(`${kind} ${answer.status}`);
  } catch (error) {
    failed.push(`${kind} ${(error as Error).message}`);
  }
  return null;
}
/** Asks until it is answered well, as a browser does that goes on by itself; null once the time is over. */
async function insisted(kind: string, path: string, init: RequestInit): Promise<Response | null> {
  for (const last = until + PATIENCE_MS; ; await wait(1000)) {
    const answer = await ask(kind, path, init);
    if (answer || Date.now() > last) return answer;
  }
}
const json = (method: string, body: unknown): RequestInit => ({ method, body: JSON.stringify(body) });
const made = async (name: string): Promise<string> =>
  ((await (await insisted("made", "/api/jobs", json("POST", { job: jobNamed(name) })))!.json()) as { id: string }).id;
function jobNamed(name: string): Job {
  const job = emptyJob(name);
  job.place.listed = "faro";
  job.weather.kind = "usual";
  return job;
}

/**
 * Until the time is over: a moment every `everyMs`, each early or late by up to `loose` of that, from a first one by chance.
 * Whoever had to wait goes on at his own moments, so that a server that stood still is not asked by all at once ever after.
 */
async function* beats(everyMs: number, loose: number): AsyncGenerator<number> {
  let n = 0;
  for (let beat = Date.now() + Math.random() * everyMs; ; beat += everyMs) {
    const at = beat + (Math.random() - 0.5) * 2 * loose * everyMs;
    // A beat that came and went during the last answer is left out.
    if (at < Date.now() - everyMs) continue;
    await wait(at - Date.now());
    if (Date.now() >= until) return;
    yield n++;
  }
}

/** Somebody who types: saves every seven seconds, and looks at the list now and then. Returns what has to stand at the end. */
async function editor(id: string, number: number): Promise<{ id: string; revision: number; name: string }> {
  let revision = 1;
  let name = `Load ${number}`;
  for await (const beat of beats(SAVE_EVERY_MS, 0.5)) {
    const next = `Load ${number}, ${revision}`;
    const answer = await ask("save", `/api/jobs/${id}`, json("PUT", { revision, job: jobNamed(next) }));
    if (answer) {
      ({ revision } = (await answer.json()) as { revision: number });
      name = next;
    } else {
      // A save that was not answered may be stored all the same: what stands is asked for before the next.
      const stands = await ask("check", `/api/jobs/${id}`);
      const stored = stands && ((await stands.json()) as { revision: number; job: { name: string } });
      if (stored && stored.revision < revision) lost.push(`${name}: revision ${stored.revision} for ${revision}`);
      if (stored) [revision, name] = [stored.revision, stored.job.name];
    }
    if ((beat + number) % 3 === 0) await (await ask("page", `/jobs/${id}/unit`))?.text();
  }
  return { id, revision, name };
}

async function begunRun(name: string): Promise<string> {
  const job = await made(name);
  const id = uuid();
  await insisted("made", `/api/jobs/${job}/test-runs`, json("POST", { name, id, startedAt: Date.UTC(2026, 7, 14) }));
  return id;
}

/** A test run that writes a reading a second. Returns how many were acknowledged. */
async function measured(id: string): Promise<{ id: string; readings: number }> {
  let readings = 0;
  for await (const i of beats(1000, 0)) {
    const reading = {
      id: uuid(),
      timeMs: Date.UTC(2026, 7, 14) + i * 1000,
      values: { battery_current_a: -40 - (i % 7) },
    };
    const sent = json("POST", { readings: [reading] });
    if (await insisted("reading", `/api/test-runs/${id}/readings`, sent)) readings++;
  }
  return { id, readings };
}

const LOG_ROWS = 500_000;
const LOG_PIECES = 10;

/** Logs of 500,000 rows with their files, one after another, as a browser sends them: in ten pieces, the file in pieces of 4 MB. */
async function imported(file: Buffer): Promise<{ id: string; readings: number }[]> {
  const piece = emptyReadings(LOG_ROWS / LOG_PIECES);
  piece.timeMs.forEach((_, i) => {
    piece.timeMs[i] = Date.UTC(2026, 7, 14) + i * 1000;
    piece.values.battery_current_a[i] = -20;
  });
  const packed = packReadings(piece);
  const logs: { id: string; readings: number }[] = [];
  await wait(counted - performance.now());
  while (Date.now() < until) {
    const id = await begunRun(`Log ${logs.length}`);
    logs.push({ id, readings: (await importedInto(id, file, packed)) ? LOG_ROWS : 0 });
  }
  return logs;
}

async function importedInto(id: string, file: Buffer, packed: Uint8Array<ArrayBuffer>): Promise<boolean> {
  const from = performance.now();
  const begin = await insisted("piece", `/api/test-runs/${id}/imports`, json("POST", { fileName: "long.csv" }));
  if (!begin) return false;
  const place = `/api/test-runs/${id}/imports/${((await begin.json()) as { id: string }).id}`;
  const put = (part: string, body: Uint8Array<ArrayBuffer>) =>
    insisted("piece", `${place}/${part}`, {
      method: "PUT",
      body,
      headers: { "content-type": "application/octet-stream" },
    });
  for (let n = 0; n < LOG_PIECES; n++) await put(`readings/${n}`, packed);
  const parts = Math.ceil(file.length / PART);
  for (let n = 0; n < parts; n++) await put(`file/${n}`, new Uint8Array(file.subarray(n * PART, (n + 1) * PART)));
  const closed = await insisted("piece", place, json("POST", { readings: LOG_PIECES, file: parts, rows: LOG_ROWS }));
  times.import!.push({ at: from, took: performance.now() - from });
  return closed !== null;
}

const numbered = <T>(list: string[], one: (id: string, number: number) => Promise<T>) => Promise.all(list.map(one));
const jobs: string[] = [];
for (let i = 0; i < editors; i++) jobs.push(await made(`Load ${i}`));
const begun: string[] = [];
for (let i = 0; i < testRuns; i++) begun.push(await begunRun(`Run ${i}`));
// What everybody has opened once is loaded: a server that has just started is not what is measured.
for (const kind of ["", "quick", `jobs/${jobs[0]}/unit`]) await (await ask("warm", `/${kind}`))?.text();
const longFile = process.env.BARE ? null : Buffer.from(longLog(LOG_ROWS));
const counted = performance.now() + warmUp * 1000;
until = Date.now() + (warmUp + seconds) * 1000;
const [edited, runs, logs] = await Promise.all([
  numbered(jobs, editor),
  numbered(begun, measured),
  longFile ? imported(longFile) : [],
]);

for (const { id, revision, name } of edited) {
  const stored = (await (await insisted("check", `/api/jobs/${id}`, {}))!.json()) as {
    revision: number;
    job: { name: string };
  };
  if (stored.revision < revision || (stored.revision === revision && stored.job.name !== name))
    lost.push(`${name}: revision ${stored.revision} for ${revision}`);
}
for (const { id, readings } of [...runs, ...logs]) {
  const { testRun } = (await (await insisted("check", `/api/test-runs/${id}`, {}))!.json()) as {
    testRun: { readings: number };
  };
  if (testRun.readings < readings) lost.push(`test run ${id}: ${testRun.readings} readings for ${readings}`);
}

const ms = (list: number[], share: number) => `${Math.round(quantile(list, share) ?? NaN)} ms`;
function print(within: (answered: Answered) => boolean): void {
  for (const [kind, all] of Object.entries(times)) {
    const list = all.filter(within).map(({ took }) => took);
    if (list.length === 0) continue;
    console.log(
      `${kind.padEnd(8)} n ${String(list.length).padStart(5)}  median ${ms(list, 0.5)}  p95 ${ms(list, 0.95)}  worst ${ms(list, 1)}`,
    );
  }
}
/** ms of one processor for a work that is always the same: what other machines' tables are compared by. */
function calibration(): number {
  const block = Buffer.alloc(1024, 7);
  const rounds = Array.from({ length: 9 }, () => {
    const from = performance.now();
    for (let i = 0; i < 20_000; i++) createHash("sha256").update(block).digest();
    return performance.now() - from;
  }).sort((a, b) => a - b);
  return rounds[4]!;
}
console.log(
  `This machine: ${cpus().length} processors, ${calibration().toFixed(0)} ms for 20,000 hashes of 1 kB (median of nine); load ${loadavg()
    .map((one) => one.toFixed(1))
    .join(", ")} over 1, 5 and 15 minutes, its own included.`,
);
console.log(`${editors} editors, ${testRuns} test runs, the first ${warmUp} s of a server:`);
print(({ at }) => at < counted);
console.log(
  `after that, ${longFile === null ? "" : "logs of 500,000 rows coming in one after another, "}${seconds} s:`,
);
print(({ at }) => at >= counted);
const kinds = new Map<string, number>();
for (const kind of failed) kinds.set(kind, (kinds.get(kind) ?? 0) + 1);
console.log(
  failed.length === 0
    ? "all were answered"
    : `not answered at the first try: ${[...kinds].map(([kind, times]) => `${kind}, ${times} times`).join("; ")}`,
);
console.log(lost.length === 0 ? "nothing acknowledged was lost" : lost.join("\n"));
process.exitCode = lost.length === 0 ? 0 : 1;
