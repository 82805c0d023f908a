import type { RunPath } from "@/core/document/path";
/// <reference lib="webworker" />
import { expose } from "comlink";
import { packOf, packSource, type MeasuredRun } from "@/core/applications/handover/document";
import type { Job } from "@/core/document/schema";
import { startWays } from "@/core/assessment/starts/start-conditions";
import { sizeJob } from "@/core/applications/sizing/size-system";
import { sizeCircuit } from "@/core/applications/sizing/size-circuit";
import { compareCures } from "@/core/applications/start-aids/start-aids";
import { startSupplies } from "@/core/assessment/starts/supplies";
import { answersOf } from "@/core/assessment/verdicts/answers";
import { measureNext } from "@/core/assessment/verdicts/measure-next";

/** What takes longer than a keystroke may: asked for from the page, computed beside it. */
const insight = {
  answers: (job: Job) => answersOf(job),
  cures: (job: Job) => compareCures(job),
  supplies: (job: Job) => startSupplies(job),
  ways: (job: Job) => startWays(job),
  measureNext: (job: Job) => measureNext(job),
  /** Sections of the pack as it would be made today. */
  pack: (job: Job, runs: readonly MeasuredRun[] = []) =>
    packOf(packSource(job, runs), { revision: 0, date: new Date().toISOString().slice(0, 10) }).sections,
  choose: (job: Job, path: RunPath) => sizeCircuit(job, path),
  size: (job: Job) => sizeJob(job),
};

export type Insight = typeof insight;
expose(insight);
