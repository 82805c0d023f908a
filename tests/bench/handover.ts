import { readFileSync } from "node:fs";
import { Bench } from "tinybench";
import { handoverOf, handoverSource, type MeasuredRun } from "../../src/core/applications/handover/document";
import { runSheet } from "../../src/core/applications/handover/commissioning";
import { partsList } from "../../src/core/applications/handover/parts-list";
import { singleLineDiagram } from "../../src/core/applications/diagram/single-line-diagram";
import { emptyBranch, readJobText } from "../../src/core/document/schema";
import { assess } from "../../src/core/assessment/verdicts/assess";
import { pagesOf } from "../../src/server/papers/handover-making";
import { handoverPdf, DIAGRAM_FONT } from "../../src/server/papers/handover-pdf";
import { partsXlsx } from "../../src/server/papers/parts-table";
import { diagramSvg } from "../../src/ui/pictures/diagram-svg";

/** A handover document of twelve pages and more: every branch twice, every step gone through, six findings, eight test runs. */
const read = readJobText(readFileSync("db/demo/1-folio.json", "utf8"));
if (!read.ok) throw new Error("demo");
const job = read.job;
for (const role of ["solar", "engine", "charger", "loads", "solar", "loads", "engine", "charger"] as const)
  job.wiring.branches.push(emptyBranch(role, `${role}-${job.wiring.branches.length}`));
const bench = { job, assessment: assess(job) };
job.handover.steps = runSheet(bench).map((step) => ({
  step: step.key,
  fields: step.fields.map((_, i) =>
    step.target ? step.target.value + (step.fields.length > 1 && i === 0 ? 1 : 0) : 0,
  ),
  passed: true,
  reason: "as it should be, looked at twice by two people on two days",
  by: "MT",
  at: "2026-05-04T10:00:00.000Z",
}));
job.handover.findings = Array.from({ length: 12 }, (_, i) => ({
  id: `finding-${i}`,
  at: `2026-05-${10 + i}T10:00:00.000Z`,
  cause: "bad-lug",
  symptoms: [],
  note: "Crimped anew, torque set, looked at again after an hour at full draw and found as cool as its cable.",
  by: "MT",
  before: [{ reading: "lugRise", fields: [71, 35] }],
  after: [{ reading: "lugRise", fields: [38, 35] }],
})) as typeof job.handover.findings;
const hours = { p10: 3.1, p50: 4.4, p90: 6.2 };
const runs: MeasuredRun[] = Array.from({ length: 10 }, (_, i) => ({
  name: `Run ${i + 1}`,
  kind: "fixed speed, lithium",
  startedMs: Date.UTC(2026, 5, 1 + i, 20),
  finishedMs: Date.UTC(2026, 5, 2 + i, 2),
  snapshots: [15, 30, 60, 120].map((minutes) => ({
    minutes,
    toReserve: hours,
    toCutoff: hours,
    hand: { now: 4, average: 5, halfHour: 4.5 },
  })),
  outcome: { reserveH: 4.5, cutoffH: null, endSoc: 0.2 },
}));

const of = { revision: 7, date: "2026-06-20" };
const source = handoverSource(job, runs);
const handover = handoverOf(source, of);
const plan = diagramSvg(singleLineDiagram(job, source.assessment), DIAGRAM_FONT);
const first = performance.now();
const pdf = await handoverPdf(handover, { plan }, "a4");
console.log(
  `handover of ${pagesOf(pdf)} pages, ${Math.round(pdf.length / 1000)} kB; its fonts read the first time: ${Math.round(performance.now() - first)} ms`,
);
const lines = partsList(job, source.assessment);
const timed = new Bench({ iterations: 7, time: 0, warmupIterations: 2, warmupTime: 0 });
timed
  .add("handover worked out", () => {
    handoverSource(job, runs);
  })
  .add("pages set", async () => {
    await handoverPdf(handover, { plan }, "a4");
  })
  .add("handover whole (limit 3000 ms)", async () => {
    await handoverPdf(handoverOf(handoverSource(job, runs), of), { plan }, "a4");
  })
  .add("parts list as a workbook", async () => {
    await partsXlsx(lines);
  });
await timed.run();
for (const { name, result } of timed.tasks) {
  const latency = (result as { latency?: { p50: number } } | undefined)?.latency;
  console.log(`${name.padEnd(28)} ${latency ? latency.p50.toFixed(0) : "failed"} ms`);
}
