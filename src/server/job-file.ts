import { z } from "zod";
import { summarySchema } from "../core/assessment/verdicts/summary";
import { COLUMNS, type Column } from "../core/applications/test-run/log/readings";
import { FAULTS } from "../core/applications/test-run/simulator/simulator";
import { MOST_PHOTOS } from "./pictures/job-photos";
import { PHOTO_TYPES } from "./test-runs";
import { outcomeSchema, forecastSnapshot, sourceSchema } from "@/contract/test-runs";
import { timeMs } from "@/contract/common";
import { runConditionsSchema } from "@/core/applications/test-run/site/conditions";

/*
 * A whole job as one ZIP: its document and the photos of its steps, requirement, named revisions, test runs with their readings
 * and history, original files and photos. `job.json` names every other file with its length and SHA-256; nothing in it is an
 * id of a database.
 */

export const JOB_FORMAT = "chillbank-job";
export const JOB_VERSION = 4;
export const MANIFEST = "job.json";

/** Largest ZIP that is taken, and what it may unpack to, bytes. */
export const LARGEST_JOB = 512 * 1024 * 1024;
export const LARGEST_UNPACKED = 1024 * 1024 * 1024;
export const MOST_FILES = 5000;

const path = z
  .string()
  .max(120)
  .regex(/^[a-z0-9]+(?:[/.-][a-z0-9]+)*$/, { error: "no path of a job file" });
const name = z.string().min(1).max(120);
const share = z.number().min(-1e6).max(1e6);

/** What a simulator hid. */
const truthSchema = z.strictObject({
  faults: z.array(z.enum(FAULTS)).max(FAULTS.length),
  heatLoss: share,
  bankAh: share,
  pathResistance: share,
  zero: share,
  monitorAh: share,
  startSoc: share,
  hoursToReserve: share.nullable(),
  hoursToCutoff: share.nullable(),
});

const testRunSchema = z.strictObject({
  name,
  kind: z.string().max(40),
  startedMs: timeMs,
  finishedMs: timeMs.nullable(),
  createdMs: timeMs,
  updatedMs: timeMs,
  source: sourceSchema.nullable(),
  truth: truthSchema.nullable(),
  snapshots: z.array(forecastSnapshot).max(12),
  outcome: outcomeSchema.nullable(),
  conditions: runConditionsSchema.nullable(),
  /** Readings by hand and from instruments, with what each was before. */
  readings: path,
  imports: z
    .array(
      z.strictObject({
        fileName: z.string().max(200),
        createdMs: timeMs,
        rows: z.int().min(0),
        /** Packed logs, in order. */
        readings: z.array(path).max(200),
        /** As it was dropped in; null where none was kept. */
        original: path.nullable(),
      }),
    )
    .max(500),
  photos: z.array(z.strictObject({ file: path, type: z.enum(PHOTO_TYPES), createdMs: timeMs })).max(2000),
});

export const manifestSchema = z.strictObject({
  format: z.literal(JOB_FORMAT),
  version: z.literal(JOB_VERSION),
  revision: z.int().min(1).max(4_000_000_000),
  createdMs: timeMs,
  updatedMs: timeMs,
  job: path,
  requirement: path.nullable(),
  revisions: z
    .array(
      z.strictObject({ file: path, name, promise: z.string().max(2000), summary: summarySchema, createdMs: timeMs }),
    )
    .max(1000),
  testRuns: z.array(testRunSchema).max(1000),
  /** Photos of the document's steps, under the ids that it refers to them by. */
  photos: z.array(z.strictObject({ file: path, id: z.uuid(), createdMs: timeMs })).max(MOST_PHOTOS),
  files: z.record(
    path,
    z.strictObject({ bytes: z.int().min(0).max(LARGEST_UNPACKED), sha256: z.string().regex(/^[0-9a-f]{64}$/) }),
  ),
});
export type Manifest = z.infer<typeof manifestSchema>;

type Loose = Record<string, unknown>;

const eachRun = (runs: unknown, change: (run: Loose) => Loose): unknown =>
  Array.isArray(runs) ? runs.map(change) : runs;

/** Version 1 said `rig`, `wish` and `trials` for what is a `job`, a `requirement` and `testRuns` now, and nothing of a run's day. */
function fromFirst({ rig, wish, trials, ...rest }: Loose): Loose {
  const testRuns = eachRun(trials, (run) => ({ ...run, conditions: null }));
  return { ...rest, version: 2, job: rig, requirement: wish, testRuns };
}

const within = (value: unknown, change: (one: Loose) => Loose): unknown =>
  value !== null && typeof value === "object" && !Array.isArray(value) ? change(value as Loose) : value;

/** What was called a share where it is a state of charge, under the name that it has now. */
const socOf = (value: unknown, before: string, after: string): unknown =>
  within(value, ({ [before]: soc, ...rest }) => (soc === undefined ? rest : { ...rest, [after]: soc }));

/** Version 2 said `promises` for the forecasts of a run, `stand-in` for the simulator, and `share` for states of charge. */
function fromSecond(manifest: Loose): Loose {
  const testRuns = eachRun(manifest.testRuns, ({ promises, source, truth, outcome, ...run }) => ({
    ...run,
    snapshots: promises,
    source: within(socOf(source, "startShare", "startSoc"), (one) =>
      one.kind === "stand-in" ? { ...one, kind: "simulator" } : one,
    ),
    truth: socOf(truth, "startShare", "startSoc"),
    outcome: socOf(outcome, "endShare", "endSoc"),
  }));
  return { ...manifest, version: 3, testRuns };
}

/** Version 3 had no photos of steps. */
const fromThird = (manifest: Loose): Loose => ({ ...manifest, version: 4, photos: [] });

/** The list of a job file of an older version, brought to the present one. */
export function upgradeManifest(manifest: Loose): Loose {
  const second = manifest.version === 1 ? fromFirst(manifest) : manifest;
  const third = second.version === 2 ? fromSecond(second) : second;
  return third.version === 3 ? fromThird(third) : third;
}
export type TestRunEntry = Manifest["testRuns"][number];

/*
 * What was kept is taken as it was: handlers of an instrument take more than those of a hand, and one odd number
 * must not hold a whole job back. The repair of a log deals with it as it did before.
 */
const moment = z.number().min(-1e13).max(1e13);
const valuesSchema = z.strictObject(
  Object.fromEntries(COLUMNS.map((column) => [column, z.number().min(-1e12).max(1e12).optional()])) as Record<
    Column,
    z.ZodOptional<z.ZodNumber>
  >,
);
const note = z.string().max(10_000).nullable();
export const keptReadingSchema = z.strictObject({
  timeMs: moment,
  values: valuesSchema,
  note,
  /** Which of the test run's photos, from 0. */
  photo: z.int().min(0).nullable(),
  version: z.int().min(1).max(1_000_000),
  createdMs: timeMs,
  deletedMs: timeMs.nullable(),
  history: z
    .array(
      z.strictObject({
        version: z.int().min(1),
        timeMs: moment,
        values: valuesSchema,
        note,
        wasDeleted: z.boolean(),
        changedMs: timeMs,
      }),
    )
    .max(10_000),
});
/** Most readings by hand and from instruments that one test run of a file may have. */
export const MOST_READINGS = 5_000_000;
export type KeptReading = z.infer<typeof keptReadingSchema>;
