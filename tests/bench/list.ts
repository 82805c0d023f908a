/** The list of jobs with 2,000 of them: one page out of the database, and the whole page as the browser gets it. */
import { Bench } from "tinybench";
import { v4 as uuid } from "uuid";
import { connect } from "../../src/server/database";
import { createJob, listJobs } from "../../src/server/jobs";
import { emptyJob } from "../../src/core/document/schema";
import { packReadings } from "../../src/core/applications/test-run/log/packed";
import { emptyReadings } from "../../src/core/applications/test-run/log/readings";
import { demoCookie } from "../../tools/demo-session";
import { longLog } from "./long-log";

const url = process.env.DATABASE_URL;
const base = process.env.BASE_URL;
if (!url || !base) throw new Error("run by npm run bench:list");

const db = connect(url);
const { id: workshopId } = (await db("workshops").first("id")) as { id: string };
const author = { workshopId, personId: null, name: "Bench" };
const cookie = await demoCookie(base);
const PART = 4 * 1024 * 1024;
const json = (body: unknown): RequestInit => ({
  method: "POST",
  body: JSON.stringify(body),
  headers: { "content-type": "application/json", cookie },
});
async function put(address: string, bytes: Uint8Array<ArrayBuffer>): Promise<void> {
  const answer = await fetch(address, {
    method: "PUT",
    body: bytes,
    headers: { "content-type": "application/octet-stream", cookie },
  });
  if (!answer.ok) throw new Error(await answer.text());
}
const places = ["Tavira", "Lagos", "Alte", "Olhão", "Sagres", "Faro"];
for (let i = 0; i < 2000; i++) {
  const job = emptyJob(`Job number ${i}`);
  await createJob(db, author, {
    ...job,
    brief: {
      ...job.brief,
      place: places[i % places.length]!,
      wording: "Dinner to breakfast without a plug, as last year. ".repeat(8),
    },
  });
}
const bench = new Bench({ time: 1500, warmupTime: 300 });
bench
  .add("first page from the database", async () => void (await listJobs(db, workshopId, { query: "", page: 1 })))
  .add("last page from the database", async () => void (await listJobs(db, workshopId, { query: "", page: 80 })))
  .add("search of two words", async () => void (await listJobs(db, workshopId, { query: "lagos 1999", page: 1 })))
  .add("first page over HTTP", async () => void (await (await fetch(`${base}/`, { headers: { cookie } })).text()))
  .add("search over HTTP", async () => void (await (await fetch(`${base}/?q=sagres`, { headers: { cookie } })).text()));
// The server's part of an import: 500,000 rows in ten pieces, the original file in pieces of 4 MB, and the closing.
const { id: jobId } = await createJob(db, author, emptyJob("Imports"));
const begun = await fetch(`${base}/api/jobs/${jobId}/test-runs`, json({ name: "Imports", id: uuid() }));
const { testRun } = (await begun.json()) as { testRun: { id: string } };
const file = Buffer.from(longLog(500_000));
const piece = emptyReadings(50_000);
piece.timeMs.forEach((_, i) => {
  piece.timeMs[i] = Date.UTC(2026, 7, 14) + i * 1000;
  piece.values.battery_current_a[i] = -20;
});
const packed = packReadings(piece);
bench.add("500,000 rows and their file taken in by the server", async () => {
  const opened = await fetch(`${base}/api/test-runs/${testRun.id}/imports`, json({ fileName: "long.csv" }));
  const place = `${base}/api/test-runs/${testRun.id}/imports/${((await opened.json()) as { id: string }).id}`;
  for (let i = 0; i < 10; i++) await put(`${place}/readings/${i}`, packed);
  const parts = Math.ceil(file.length / PART);
  for (let i = 0; i < parts; i++) await put(`${place}/file/${i}`, file.subarray(i * PART, (i + 1) * PART));
  const closed = await fetch(place, json({ readings: 10, file: parts, rows: 500_000 }));
  if (!closed.ok) throw new Error(await closed.text());
  await fetch(place, { method: "DELETE" });
});
await bench.run();
console.table(
  bench.tasks.map(({ name, result }) =>
    result.state === "completed"
      ? {
          what: name,
          "median ms": Number(result.latency.p50.toFixed(2)),
          "p99 ms": Number(result.latency.p99.toFixed(2)),
        }
      : { what: name, "median ms": result.state },
  ),
);
await db.destroy();
