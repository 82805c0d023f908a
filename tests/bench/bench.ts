/** Numbers that an issue names, as medians: `npm run bench`. */
import { readFileSync, readdirSync } from "node:fs";
import { join } from "node:path";
import { Bench } from "tinybench";
import { parseQuantity } from "../../src/core/units/parse";
import { METRIC } from "../../src/core/units/dimension";
import { emptyJob, readJob, readJobText, type Job } from "../../src/core/document/schema";
import { compareStartAids } from "../../src/core/applications/start-aids/start-aids";
import { coupledRun } from "../../src/core/simulation/day/run";
import { inputOf, simulate } from "../../src/core/simulation/day/simulate";
import { assessDay } from "../../src/core/assessment/verdicts/day";
import { odeRun } from "../ode";
import { assess } from "../../src/core/assessment/verdicts/assess";
import { measureNext } from "../../src/core/assessment/verdicts/measure-next";

const folder = join(process.cwd(), "db/demo");
const demo = readdirSync(folder).map((file) => {
  const read = readJobText(readFileSync(join(folder, file), "utf8"));
  if (!read.ok) throw new Error(file);
  return read.job;
});

/** Two soft-started units, eight loads and everything the sheet can hold: the largest system in ordinary use. */
function fullJob(): Job {
  const base = structuredClone(demo.find(({ name }) => name.startsWith("Marionette"))!);
  base.units = base.units.map((unit) => ({ ...unit, startAid: "soft-starter" as const }));
  const load = base.brief.loads[0]!;
  base.brief.loads = Array.from({ length: 8 }, (_, i) => ({
    ...load,
    id: `l${i}`,
    side: i % 2 ? ("dc" as const) : ("mains" as const),
  }));
  return base;
}

const full = fullJob();
const text = JSON.stringify(full);
const bench = new Bench({ time: 1500, warmupTime: 500 });
bench
  .add("assess, empty job", () => void assess(emptyJob("bench")))
  .add("assess, full job (limit 4 ms)", () => void assess(full))
  .add("assess, full job, its working written out", () => void assess(full).figures)
  .add("assess, the demo's six", () => demo.forEach((job) => assess(job)))
  .add("measure next, full job (limit 60 ms)", () => void measureNext(full))
  .add("startAids compared, full job", () => void compareStartAids(full))
  .add("read and check a full document", () => void readJob(JSON.parse(text)))
  .add("parse a quantity", () => void parseQuantity("12 ft 6 in", "length", METRIC));

// A fortnight at one-minute steps, everything on: Folio has cycling, sun, engine, doors and people.
const folio = demo.find(({ name }) => name.startsWith("Folio"))!;
const fortnight = { days: 14, minuteOfDay: 720, noOverload: true };
simulate(folio, fortnight);
/*
 * The same equations by odex, for a day of a system that both can run (one fixed-speed unit, battery neither full nor empty). Its
 * tolerance is the loosest at which the level after the day lies as near to a tight solution as the core's does.
 */
const plain = structuredClone(folio);
plain.bank.capacityAh = { value: 600, origin: "plate" };
plain.bank.startSoc = { value: 0.8, origin: "plate" };
plain.sources.panels = plain.sources.panels.slice(0, 1);
plain.plan.patterns[0]!.spans = plain.plan.patterns[0]!.spans.filter(
  ({ kind }) => kind === "unit" || kind === "people",
);
plain.plan.patterns[0]!.spans.forEach((span) => span.kind === "unit" && (span.mode = "auto"));
const { input } = inputOf(plain, { days: 1, minuteOfDay: 720, noOverload: true });
const end = (share: ArrayLike<number>) => share[share.length - 1]!;
const tight = end(odeRun(input, 1e-6).share);
const own = Math.abs(end(coupledRun(input).stateOfCharge) - tight);
const tolerances = [10, 1, 0.1, 0.01, 1e-3, 1e-4, 1e-5];
const tolerance = tolerances.find((t) => Math.abs(end(odeRun(input, t).share) - tight) <= Math.max(own, 1e-5)) ?? 1e-5;
bench
  .add("coupled run, 14 days at 60 s, weather kept (limit 25 ms)", () => void simulate(folio, fortnight))
  .add("day assessed: both verdicts, mild and hot beside", () => void assessDay(folio))
  .add("coupled run, one day", () => void coupledRun(input))
  .add("the same day by odex, as near", () => void odeRun(input, tolerance));
await bench.run();
console.table(
  bench.tasks.map(({ name, result }) => {
    if (result.state !== "completed") return { what: name, "median ms": result.state };
    const { latency } = result;
    return {
      what: name,
      "median ms": Number(latency.p50.toFixed(4)),
      "p99 ms": Number(latency.p99.toFixed(4)),
      samples: latency.samplesCount,
    };
  }),
);

const medianOf = (name: string) => {
  const result = bench.tasks.find((task) => task.name === name)!.result;
  return result.state === "completed" ? result.latency.p50 : NaN;
};
console.log(
  `odex over the core at equal accuracy (level after a day within ${Math.max(own, 1e-5).toExponential(1)}, tolerance ${tolerance}): ${(medianOf("the same day by odex, as near") / medianOf("coupled run, one day")).toFixed(0)} times (limit 20)`,
);
