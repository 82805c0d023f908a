/** A search's figures: `npm run bench`. Designs a second in one lane, and the share of the time that the coupled runs take. */
import { readFileSync } from "node:fs";
import { readJobText } from "../../src/core/document/schema";
import { designsOf, jobOf } from "../../src/core/applications/options/design";
import { Evaluator } from "../../src/core/applications/options/evaluate";
import { evenOrder } from "../../src/core/applications/options/search";
import { tally, tripsOf } from "../../src/core/applications/options/trips";
import { usualRequirement } from "../../src/core/applications/options/target";
import { Bench } from "tinybench";

const read = readJobText(readFileSync("db/demo/1-folio.json", "utf8"));
if (!read.ok) throw new Error("demo");
const { job } = read;
const requirement = usualRequirement(job);
const designs = designsOf(job, requirement);
const some = evenOrder(designs.length).slice(0, 324);
const trips = tripsOf(job, requirement, "search");
const jobs = some.slice(0, 60).map((index) => jobOf(job, requirement, designs[index]!));

const bench = new Bench({ time: 100, warmupTime: 0, warmupIterations: 1, iterations: 3 });
bench
  .add(`${some.length} of ${designs.length} designs × ${requirement.weeks} weeks, one lane`, () => {
    const evaluator = new Evaluator(job, requirement, designs);
    for (const index of some) evaluator.evaluate(index);
  })
  .add(`${jobs.length} jobs through their weeks alone`, () => {
    for (const one of jobs) tally(one, trips, requirement.tripDays);
  });
await bench.run();
const ms = bench.tasks.map(({ result }) => (result.state === "completed" ? result.latency.p50 : NaN));
const each = ms[0]! / some.length;
// A soft starter has the days of the unit as it is: they are run once for both.
const runs = new Set(
  some.map((index) => JSON.stringify({ ...designs[index]!, start: designs[index]!.start === "variable-unit" })),
);
const core = ((ms[1]! / jobs.length) * runs.size) / some.length;
console.table([
  { what: "a design, ms", median: Number(each.toFixed(1)) },
  { what: "of it its weeks, ms", median: Number(core.toFixed(1)) },
  { what: "designs a second, one lane", median: Math.round(1000 / each) },
  { what: "2,000 designs, two lanes, s (limit 60)", median: Number(((each * 2000) / 2 / 1000).toFixed(1)) },
  { what: "share of the time in the weeks, %", median: Math.round((100 * core) / each) },
]);
