/** A test run's figures: `npm run bench`. A forecast from 5,000 rows, and 500,000 rows read and packed for the server. */
import { readFileSync } from "node:fs";
import { Bench } from "tinybench";
import { readLog } from "../../src/csv/log";
import { readJobText } from "../../src/core/document/schema";
import { packReadings } from "../../src/core/applications/test-run/log/packed";
import { fromList } from "../../src/core/applications/test-run/log/readings";
import { makeSimulator } from "../../src/core/applications/test-run/simulator/simulator";
import { EFFORTS } from "../../src/core/applications/test-run/inference/test-run";
import { viewOf } from "../../src/core/applications/test-run/report/view";
import { longLog } from "./long-log";

const read = readJobText(readFileSync("db/demo/1-folio.json", "utf8"));
if (!read.ok) throw new Error("demo");
const { job } = read;
const startMs = Date.UTC(2026, 6, 14, 18);
// Fourteen hours at ten seconds: a night and a morning.
const night = makeSimulator(job, { seed: 3, faults: [], startSoc: 1, every: 10 }, startMs).readings.slice(0, 5000);
const log = fromList(night);
const earlier = fromList(night.slice(0, -1));
if (night.length < 5000) throw new Error(`the simulator gave ${night.length} readings`);
const text = longLog(500_000);
const before = viewOf(job, earlier, EFFORTS.settled)?.session?.population ?? null;
if (!before) throw new Error("no forecast of the earlier log");

const bench = new Bench({ time: 4000, warmupTime: 0, warmupIterations: 1, iterations: 3 });
bench
  .add("first forecast from 5,000 rows (limit 1000 ms)", () => void viewOf(job, log, EFFORTS.first))
  .add("settled forecast from them (limit 6000 ms)", () => void viewOf(job, log, EFFORTS.settled))
  .add("after one more reading, from where it was (limit 300 ms)", () => {
    viewOf(job, log, { ...EFFORTS.next, from: before });
  })
  .add("500,000 rows read and packed (with their sending: limit 10 s)", () => {
    const long = readLog(text, "Europe/Lisbon");
    if (!long.ok) throw new Error(long.message);
    packReadings(long.log.readings);
  });
await bench.run();
console.table(
  bench.tasks.map(({ name, result }) => ({
    what: name,
    "median ms": result.state === "completed" ? Math.round(result.latency.p50) : result.state,
  })),
);
