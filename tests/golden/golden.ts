/*
 * What the core says of many systems, as one line each: a digest of the sheet with its working, of two days of the plan a
 * minute at a time, of the handover document and of a small search of options. A change of structure leaves every line as
 * it was; a change of meaning is seen in the lines that it touches.
 *
 *   npm run golden            compares with figures.txt and names the lines that differ
 *   npm run golden -- write   writes figures.txt anew
 */
import { spawn } from "node:child_process";
import { createHash } from "node:crypto";
import { readFileSync, writeFileSync } from "node:fs";
import fc from "fast-check";
import { dayOutput } from "../../src/cli/day";
import { handoverOf, handoverSource } from "../../src/core/applications/handover/document";
import { designsOf } from "../../src/core/applications/options/design";
import { Evaluator } from "../../src/core/applications/options/evaluate";
import { usualRequirement } from "../../src/core/applications/options/target";
import { readJob, type Job } from "../../src/core/document/schema";
import { assess } from "../../src/core/assessment/verdicts/assess";
import { assessDay } from "../../src/core/assessment/verdicts/day";
import { assessmentAsText } from "../../src/core/assessment/verdicts/report";
import { randomJob } from "../random-jobs";
import { demoJob } from "../jobs";

const FILE = new URL("figures.txt", import.meta.url);
const DEMO = ["1-folio", "2-marionette", "3-shearwater", "4-skep", "5-lora", "6-levain"];
const RANDOM = 200;
const PROCESSES = 2;
/** Of the random systems every tenth also makes its document: a card is many runs. */
const DOCUMENT_EVERY = 10;

const digest = (text: string) => createHash("sha256").update(text).digest("hex").slice(0, 16);

function smallSearch(job: Job): string {
  const requirement = usualRequirement(job);
  requirement.weeks = 2;
  requirement.vary = {
    ...requirement.vary,
    batteries: requirement.vary.batteries.slice(0, 2),
    parallel: [1, 2],
    panels: [0, 2],
    inverters: requirement.vary.inverters.slice(0, 1),
    starts: ["as-is"],
    cabins: ["as-is"],
    engine: [0],
  };
  const designs = designsOf(job, requirement);
  const evaluator = new Evaluator(job, requirement, designs);
  return JSON.stringify(designs.map((_, index) => evaluator.evaluate(index, "search")));
}

function* linesOf(name: string, job: Job, { document, options }: { document: boolean; options: boolean }) {
  yield `${name} assess ${digest(assessmentAsText(job, assess(job), assessDay(job)))}`;
  yield `${name} day ${digest(dayOutput(job, { days: 2, seed: null, summary: false }))}`;
  if (document)
    yield `${name} pack ${digest(JSON.stringify(handoverOf(handoverSource(job), { revision: 1, date: "2026-07-15" }).sections))}`;
  if (options) yield `${name} options ${digest(smallSearch(job))}`;
}

function* allLines(part: number): Generator<string> {
  for (const [index, file] of DEMO.entries())
    if (index % PROCESSES === part) yield* linesOf(file, demoJob(file), { document: true, options: true });
  const random = fc.sample(randomJob(false), { numRuns: RANDOM, seed: 2026 });
  for (const [index, one] of random.entries()) {
    if (index % PROCESSES !== part) continue;
    const read = readJob(JSON.parse(JSON.stringify(one)));
    if (read.ok)
      yield* linesOf(`random-${index}`, read.job, { document: index % DOCUMENT_EVERY === 0, options: false });
  }
}

/** The lines of one part, made in a process of its own. */
function linesOfPart(part: number): Promise<string[]> {
  return new Promise((done, failed) => {
    const child = spawn(process.execPath, [...process.execArgv, import.meta.filename, `part=${part}`], {
      stdio: ["ignore", "pipe", "inherit"],
    });
    let text = "";
    child.stdout.on("data", (chunk: Buffer) => (text += chunk.toString()));
    child.on("exit", (code) => (code === 0 ? done(text.trim().split("\n")) : failed(new Error(`part ${part} failed`))));
  });
}

const own = process.argv.find((word) => word.startsWith("part="));
if (own) for (const line of allLines(Number(own.slice(5)))) console.log(line);
else {
  const lines = (await Promise.all(Array.from({ length: PROCESSES }, (_, part) => linesOfPart(part)))).flat().sort();
  if (process.argv.includes("write")) {
    writeFileSync(FILE, `${lines.join("\n")}\n`);
    console.log(`${lines.length} lines written.`);
  } else {
    const before = new Set(readFileSync(FILE, "utf8").trim().split("\n"));
    const changed = lines.filter((line) => !before.has(line));
    for (const line of changed) console.log(`differs: ${line}`);
    console.log(`${lines.length - changed.length} of ${before.size} lines are as they were.`);
    process.exitCode = changed.length > 0 || lines.length !== before.size ? 1 : 0;
  }
}
