/** What a save, a page and a reading cost: `npm run cost` prints the processor time of server and database for one of each. */
import { execFileSync } from "node:child_process";
import { readFileSync } from "node:fs";
import { v4 as uuid } from "uuid";
import { emptyJob } from "../../src/core/document/schema";
import { demoCookie } from "../../tools/demo-session";

const base = process.env.BASE_URL;
const pids = [process.env.SERVER_PID, process.env.DATABASE_PID].map(Number);
if (!base) throw new Error("run by npm run cost");
const TIMES = 200;
const TICKS_A_SECOND = Number(execFileSync("getconf", ["CLK_TCK"], { encoding: "utf8" }));
const cookie = await demoCookie(base);

/** Seconds that a process has used so far, its threads too: user and system, fields 14 and 15 of /proc/PID/stat. */
function usedBy(pid: number): number {
  const fields = readFileSync(`/proc/${pid}/stat`, "utf8").split(") ")[1]!.split(" ");
  return (Number(fields[11]) + Number(fields[12])) / TICKS_A_SECOND;
}

async function ask(method: string, path: string, body?: unknown): Promise<string> {
  const answer = await fetch(base + path, {
    method,
    headers: { cookie, "content-type": "application/json" },
    ...(body === undefined ? {} : { body: JSON.stringify(body) }),
  });
  if (!answer.ok) throw new Error(`${method} ${path}: ${answer.status}`);
  return answer.text();
}
const idOf = (text: string) => (JSON.parse(text) as { id: string }).id;

/** Milliseconds of server and database for one of what `work` does `TIMES` times, one after another. */
async function cost(what: string, work: (n: number) => Promise<unknown>): Promise<void> {
  for (let n = 0; n < 20; n++) await work(-1 - n);
  const before = pids.map(usedBy);
  for (let n = 0; n < TIMES; n++) await work(n);
  const [server, database] = pids.map((pid, i) => (1000 * (usedBy(pid) - before[i]!)) / TIMES);
  console.log(`${what.padEnd(28)} server ${server!.toFixed(1)} ms, database ${database!.toFixed(1)} ms`);
}

const job = emptyJob("Cost");
job.place.listed = "faro";
job.weather.kind = "usual";
const id = idOf(await ask("POST", "/api/jobs", { job }));
let revision = 1;
await cost("a save, with its verdicts", async (n) => {
  const saved = await ask("PUT", `/api/jobs/${id}`, { revision, job: { ...job, name: `Cost ${n}` } });
  ({ revision } = JSON.parse(saved) as { revision: number });
});
await cost("a page of a job", () => ask("GET", `/jobs/${id}/unit`));
const run = uuid();
await ask("POST", `/api/jobs/${id}/test-runs`, { name: "Cost", id: run, startedAt: Date.UTC(2026, 7, 14) });
await cost("a reading", (n) =>
  ask("POST", `/api/test-runs/${run}/readings`, {
    readings: [{ id: uuid(), timeMs: Date.UTC(2026, 7, 15) + 1000 * n, values: { battery_current_a: -40 } }],
  }),
);
