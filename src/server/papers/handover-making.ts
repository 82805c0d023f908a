import { createHash } from "node:crypto";
import type { Knex } from "knex";
import type { MeasuredRun } from "@/core/applications/handover/document";
import { singleLineDiagram, type SingleLineDiagram } from "@/core/applications/diagram/single-line-diagram";
import { assess } from "@/core/assessment/verdicts/assess";
import type { Job } from "@/core/document/schema";
import { handoverInThread, type Tell } from "./in-thread";
import type { StoredJob } from "../jobs";
import { listTestRuns } from "../test-runs";

export type Paper = "a4" | "letter";
/** Packs that were made last, so that one that was made with progress is there when it is opened. */
const KEPT = 8;
const made = new Map<string, Buffer>();

/** What a handover document tells of a job's test runs. */
export async function runsOfJob(db: Knex, jobId: string): Promise<MeasuredRun[]> {
  const testRuns = await listTestRuns(db, jobId);
  return testRuns.map(({ name, kind, startedMs, finishedMs, snapshots, outcome }) => ({
    name,
    kind,
    startedMs,
    finishedMs,
    snapshots,
    outcome,
  }));
}

interface Making {
  /** Who it is made for. */
  personId: string;
  /** Photos of the job's steps: which there are, and the small one of each. */
  photos?: { ids: readonly string[]; read(id: string): Promise<Buffer | null> };
  /** Draws the one-line plan as SVG text, set in `DIAGRAM_FONT`. */
  draw: (diagram: SingleLineDiagram) => string;
  tell?: Tell;
  signal?: AbortSignal;
}

/**
 * The handover document of a stored system as PDF, of its revision and the day it was stored on, made in a thread beside the
 * server. Throws an AbortError where `signal` says stop.
 */
export async function makeHandover(
  { job, revision, updatedAt }: StoredJob,
  runs: readonly MeasuredRun[],
  paper: Paper,
  { personId, draw, photos, tell, signal }: Making,
): Promise<Buffer> {
  const date = updatedAt.toISOString().slice(0, 10);
  const ids = photos?.ids ?? [];
  const key = createHash("sha256")
    .update(JSON.stringify({ job, revision, date, runs, paper, photos: ids }))
    .digest("hex");
  const ready = made.get(key);
  if (ready) return ready;
  const plan = draw(singleLineDiagram(job, assess(job)));
  const shown = photos ? await shownIn(job, photos) : [];
  const pdf = await handoverInThread(
    { kind: "handover", job, revision, date, runs, paper, plan, photos: shown },
    { personId, signal, tell },
  );
  made.set(key, pdf);
  for (const old of [...made.keys()].slice(0, Math.max(0, made.size - KEPT))) made.delete(old);
  return pdf;
}

/** The photos that the steps of a job refer to; without those that were not sent yet. */
async function shownIn(job: Job, photos: NonNullable<Making["photos"]>): Promise<[string, Buffer][]> {
  const found: [string, Buffer][] = [];
  for (const id of job.handover.steps.flatMap((step) => step.photos ?? [])) {
    const bytes = photos.ids.includes(id) ? await photos.read(id) : null;
    if (bytes) found.push([id, bytes]);
  }
  return found;
}

/** Pages of a PDF that this server made. */
export const pagesOf = (pdf: Buffer): number =>
  Number(/\/Type \/Pages\s*\/Count (\d+)/.exec(pdf.toString("latin1"))?.[1] ?? 0);
