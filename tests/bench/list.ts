/** The list of jobs with 2,000 of them: one page out of the database, and the whole page as the browser gets it. */
import { Bench } from "tinybench";
import { connect } from "../../src/server/database";
import { createRig, listRigs } from "../../src/server/rigs";
import { emptyRig } from "../../src/core/rig/document";

const url = process.env.DATABASE_URL;
const base = process.env.BASE_URL;
if (!url || !base) throw new Error("run by npm run bench:list");

const db = connect(url);
const places = ["Tavira", "Lagos", "Alte", "Olhão", "Sagres", "Faro"];
for (let i = 0; i < 2000; i++) {
  const rig = emptyRig(`Job number ${i}`);
  await createRig(db, {
    ...rig,
    brief: {
      ...rig.brief,
      place: places[i % places.length]!,
      wording: "Dinner to breakfast without a plug, as last year. ".repeat(8),
    },
  });
}
const bench = new Bench({ time: 1500, warmupTime: 300 });
bench
  .add("first page from the database", async () => void (await listRigs(db, "", 1)))
  .add("last page from the database", async () => void (await listRigs(db, "", 80)))
  .add("search of two words", async () => void (await listRigs(db, "lagos 1999", 1)))
  .add("first page over HTTP", async () => void (await (await fetch(`${base}/`)).text()))
  .add("search over HTTP", async () => void (await (await fetch(`${base}/?q=sagres`)).text()));
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
