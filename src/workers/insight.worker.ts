import type { RunPath } from "@/core/document/path";
/// <reference lib="webworker" />
import { expose } from "comlink";
import { handoverOf, handoverSource, type MeasuredRun } from "@/core/applications/handover/document";
import type { Job } from "@/core/document/schema";
import { startConditions } from "@/core/assessment/starts/start-conditions";
import { sizeJob } from "@/core/applications/sizing/size-system";
import { sizeCircuit } from "@/core/applications/sizing/size-circuit";
import { compareStartAids } from "@/core/applications/start-aids/start-aids";
import { startSupplies } from "@/core/assessment/starts/supplies";
import { answersOf } from "@/core/assessment/verdicts/answers";
import { measureNext } from "@/core/assessment/verdicts/measure-next";

/** What takes longer than a keystroke may: asked for from the page, computed beside it. */
const insight = {
  answers: (job: Job) => answersOf(job),
  startAids: (job: Job) => compareStartAids(job),
  supplies: (job: Job) => startSupplies(job),
  conditions: (job: Job) => startConditions(job),
  measureNext: (job: Job) => measureNext(job),
  /** Sections of the handover document as it would be made today. */
  handover: (job: Job, runs: readonly MeasuredRun[] = []) =>
    handoverOf(handoverSource(job, runs), { revision: 0, date: new Date().toISOString().slice(0, 10) }).sections,
  choose: (job: Job, path: RunPath) => sizeCircuit(job, path),
  size: (job: Job) => sizeJob(job),
};

export type Insight = typeof insight;
expose(insight);
