/* One answer: the same question has the same number wherever it is answered. */
import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { demoJob } from "../../../tests/jobs";
import { randomJob } from "../../../tests/random-jobs";
import { runTimeMap } from "../assessment/run-time-map/run-time-map";
import { handoverOf, handoverSource, type Block } from "./handover/document";
import { formatNeedsHas, formatQuantity } from "../units/format";
import { readJob, type Job } from "../document/schema";
import { assess } from "../assessment/verdicts/assess";
import { assessDay } from "../assessment/verdicts/day";
import { assessmentAsJson, assessmentAsText } from "../assessment/verdicts/report";
import { summaryOf } from "../assessment/verdicts/summary";
import { chargeAfter } from "../assessment/use/use";
import { cases } from "../../../tests/cases";

const NAMES = ["starts", "carries", "lasts", "recovers"] as const;
const DEMO = ["1-folio", "2-marionette", "3-shearwater", "4-skep", "5-lora", "6-levain"];

/** What every surface says of a system: the head band's words and pair are the measure. */
function surfaces(job: Job) {
  const assessment = assess(job);
  const day = assessDay(job, { range: false });
  const verdicts = { ...assessment.verdicts, ...day.verdicts };
  return { assessment, day, verdicts };
}

const words = (blocks: Block[]): string =>
  blocks
    .map((block) =>
      block.kind === "table"
        ? [...(block.head ?? []), ...block.rows.flat()].join(" | ")
        : block.kind === "list"
          ? block.items.join(" | ")
          : "text" in block
            ? block.text
            : "",
    )
    .join("\n");

/** Head band, list of jobs, command line as text and as JSON, the bars and the document agree. */
function agree(job: Job): void {
  const { assessment, day, verdicts } = surfaces(job);
  const summary = summaryOf(job);
  const text = assessmentAsText(job, assessment, day);
  const json = JSON.parse(JSON.stringify(assessmentAsJson(job, assessment, day))) as {
    verdicts: typeof verdicts;
    hours: { mode: string; toReserve: number }[];
    holding: typeof day.holding;
  };
  for (const name of NAMES) {
    const { word, decides } = verdicts[name];
    const pair = formatNeedsHas(decides, job.notation);
    expect(summary[name]).toMatchObject({ word, need: decides.need, has: decides.has, decides: decides.name });
    expect(json.verdicts[name].word).toBe(word);
    expect(json.verdicts[name].decides.has).toBeCloseTo(decides.has, 9);
    const line = text.split("\n").find((one) => one.toLowerCase().startsWith(name));
    expect(line).toContain(word);
    if (word !== "Choose a place") expect(line).toContain(`${pair}: ${decides.name}`);
  }
  const paper = handoverOf(handoverSource(job), { revision: 1, date: "2026-07-15" })
    .sections.map(({ blocks }) => words(blocks))
    .join("\n");
  for (const name of NAMES) {
    const { word, decides } = verdicts[name];
    expect(paper).toContain(word);
    if (word !== "Choose a place") expect(paper).toContain(formatNeedsHas(decides, job.notation));
  }
  const { lasts, recovers } = day.words;
  for (const said of [text, paper]) {
    expect(said).toContain(lasts.long);
    expect(said).toContain(recovers.long);
  }
  if (!day.conditions.known || !day.useRun) return;
  const span = formatQuantity(day.useRun.lasts, "duration", job.notation);
  expect(day.verdicts.lasts.decides.has).toBe(day.useRun.lasts);
  if (day.useRun.reached) expect(lasts.long).toContain(`${span} after switching on`);
  // The charge left at the moment of the reserve is the reserve.
  const { reserve } = assessment.values.bank;
  if (day.useRun.reached && day.useRun.cause === "reserve" && day.useRun.lasts > 7200) {
    const left = chargeAfter(day.useRun.left, day.useRun.lasts);
    if (left !== null) expect(left).toBeCloseTo(reserve.value, 1);
  }
  // The state list, the hand method and the command line take the same draw for holding the set point.
  if (day.holding && day.handHolding) {
    expect(json.hours.find(({ mode }) => mode === "holding")!.toReserve).toBe(day.handHolding.toReserve);
    expect(day.figures["lasts.holding.current"]!.value).toBe(day.handHolding.meanCurrent);
  }
  // What is missing is in the verdict's own pair.
  if (day.missing !== null && day.missing > 0)
    expect(day.verdicts.recovers.decides.need - day.verdicts.recovers.decides.has).toBeCloseTo(day.missing, 6);
}

/** Two hundred jobs under soak, five otherwise. */
const JOBS_A_LOT = cases(5, 12);
const LOTS = Array.from({ length: cases(1, 17) }, (_, lot) => lot + 1);

describe("the same question has the same number", () => {
  it.each(DEMO)("of %s, on every stage, list, command line and in the document", (file) => {
    agree(demoJob(file));
  });
  // In lots: the simulations of all of them take longer than one test may.
  it.each(LOTS)("of random jobs, lot %i", (lot) => {
    fc.assert(
      fc.property(randomJob(false), (random) => {
        const read = readJob(JSON.parse(JSON.stringify(random)));
        if (read.ok) agree(read.job);
      }),
      { numRuns: JOBS_A_LOT, seed: lot },
    );
  });
  it.each(["2-marionette", "4-skep"])(
    "of %s, in the run-time map at the design day's own temperature and set point",
    async (file) => {
      const job = demoJob(file);
      const { day } = surfaces(job);
      const map = (await runTimeMap(job))!;
      const plain = job.plan.patterns.flatMap(({ spans }) => spans).find((span) => span.kind === "unit");
      const setPoint =
        (plain?.kind === "unit" ? plain.setPointC?.value : undefined) ?? assess(job).values.brief.setPointC.value;
      const column = map.setPointC.indexOf(setPoint);
      expect(column).toBeGreaterThanOrEqual(0);
      expect(map.seconds[4]![column]! / day.useRun!.lasts).toBeCloseTo(1, 2);
    },
  );
});

it("nobody reads that a value is from memory", () => {
  for (const file of DEMO) {
    const job = demoJob(file);
    const { assessment, day } = surfaces(job);
    const text = assessmentAsText(job, assessment, day);
    const figures = JSON.stringify({ ...assessment.figures, ...day.figures });
    for (const shown of [text, figures, JSON.stringify(assessment.values)]) expect(shown).not.toMatch(/\bmemory\b/i);
  }
});
