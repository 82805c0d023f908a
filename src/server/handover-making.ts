import { createHash } from "node:crypto";
import { setImmediate as breathe } from "node:timers/promises";
import type { Knex } from "knex";
import { handoverOf, packSteps, type HandoverDocument, type MeasuredRun } from "@/core/applications/handover/document";
import { singleLineDiagram, type SingleLineDiagram } from "@/core/applications/diagram/single-line-diagram";
import { handoverPdf } from "./handover-pdf";
import type { StoredJob } from "./jobs";
import { listTestRuns } from "./test-runs";

export type Paper = "a4" | "letter";
/** How far the making is: share done, and what is being done. */
export type Tell = (share: number, doing: string) => void;

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

/** Share of the work before the pages are set. */
const WORKED_OUT = 0.7;

interface Making {
  /** Photos of the job's steps: which there are, and the small one of each. */
  photos?: { ids: readonly string[]; read(id: string): Promise<Buffer | null> };
  /** Draws the one-line plan as SVG text, set in `DIAGRAM_FONT`. */
  draw: (diagram: SingleLineDiagram) => string;
  tell?: Tell;
  signal?: AbortSignal;
}

/**
 * The handover document of a stored system as PDF, of its revision and the day it was stored on; gives the server air between steps. Throws
 * an AbortError where `signal` says stop.
 */
export async function makeHandover(
  { job, revision, updatedAt }: StoredJob,
  runs: readonly MeasuredRun[],
  paper: Paper,
  { draw, photos, tell, signal }: Making,
): Promise<Buffer> {
  const date = updatedAt.toISOString().slice(0, 10);
  const key = createHash("sha256")
    .update(JSON.stringify({ job, revision, date, runs, paper, photos: photos?.ids ?? [] }))
    .digest("hex");
  const ready = made.get(key);
  if (ready) return ready;
  const pause = async (share: number, doing: string) => {
    tell?.(share, doing);
    await breathe();
    signal?.throwIfAborted();
  };
  await pause(0, "Verdicts");
  const steps = packSteps(job, runs);
  let step = steps.next();
  for (; !step.done; step = steps.next()) await pause(WORKED_OUT * step.value, "Hours of the card");
  await pause(WORKED_OUT, "Setting the pages");
  const source = step.value;
  const plan = draw(singleLineDiagram(job, source.assessment));
  const document = handoverOf(source, { revision, date });
  const pdf = await handoverPdf(document, { plan, photos: await photosIn(document, photos) }, paper);
  made.set(key, pdf);
  for (const old of [...made.keys()].slice(0, Math.max(0, made.size - KEPT))) made.delete(old);
  return pdf;
}

/** The photos that a document shows, by their id; without those that were not sent yet. */
async function photosIn({ sections }: HandoverDocument, photos: Making["photos"]): Promise<Map<string, Buffer>> {
  const found = new Map<string, Buffer>();
  const blocks = sections.flatMap(({ blocks: own }) => own);
  for (const { id } of blocks.flatMap((block) => (block.kind === "photos" ? block.photos : []))) {
    const bytes = photos?.ids.includes(id) ? await photos.read(id) : null;
    if (bytes) found.set(id, bytes);
  }
  return found;
}

/** Pages of a PDF that this server made. */
export const pagesOf = (pdf: Buffer): number =>
  Number(/\/Type \/Pages\s*\/Count (\d+)/.exec(pdf.toString("latin1"))?.[1] ?? 0);
