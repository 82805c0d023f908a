/* A whole job as one ZIP: out of one Chillbank, into another, nothing lost. */
import fc from "fast-check";
import { unzipSync, zipSync, type Zippable } from "fflate";
import type { Knex } from "knex";
import sharp from "sharp";
import { v4 as uuid } from "uuid";
import { afterAll, beforeAll, describe, expect, it } from "vitest";
import { CORE_VERSION } from "@/core/assessment/verdicts/summary";
import { usualRequirement } from "@/core/applications/options/target";
import type { Job } from "@/core/document/schema";
import { NOTHING_SAID } from "@/core/applications/test-run/site/conditions";
import { packReadings } from "@/core/applications/test-run/log/packed";
import { fromList, type Reading } from "@/core/applications/test-run/log/readings";
import { connect } from "@/server/database";
import { exportJob } from "@/server/job-export";
import { manifestSchema, type Manifest } from "@/server/job-file";
import { importJob } from "@/server/job-import";
import { addJobPhoto, getJobPhoto } from "@/server/pictures/job-photos";
import { endPictures, pictureAsKept } from "@/server/pictures/pictures";
import { changeRevision, getRequirement, keepRevision, keepRequirement, listRevisions } from "@/server/options";
import { createJob, deleteJob, getJob, saveJob } from "@/server/jobs";
import {
  addPhoto,
  addReadings,
  changeReading,
  changeTestRun,
  closeImport,
  createTestRun,
  deleteTestRun,
  lastReadings,
  listImports,
  listTestRuns,
  logOfTestRun,
  openImport,
  originalFile,
  putChunk,
  readingHistory,
  setSource,
} from "@/server/test-runs";
import { workOut } from "@/server/verdict-queue";
import { cases } from "../cases";
import { demoJob } from "../jobs";
import { AUTHOR, ownDatabase } from "./own-database";

const here = connect(await ownDatabase());
let there: Knex;
const T0 = Date.UTC(2026, 7, 14, 20);
/** A photo of one of its commissioning steps. */
const STEP_PHOTO = uuid();
const job: Job = {
  ...demoJob("1-folio"),
  handover: {
    ...demoJob("1-folio").handover,
    steps: [{ step: "dead", fields: [0.2], passed: true, reason: "", by: "IS", at: null, photos: [STEP_PHOTO] }],
  },
};
const pictureOf = () =>
  sharp({ create: { width: 64, height: 64, channels: 3, background: "#808080" } })
    .png()
    .toBuffer();
let jobId = "";
let zip: Uint8Array;

async function bytesOf(db: Knex, id: string): Promise<Uint8Array> {
  const pieces: Uint8Array[] = [];
  for await (const piece of (await exportJob(db, id))!) pieces.push(piece);
  return new Uint8Array(Buffer.concat(pieces));
}
/** Every file by name. The packing itself may differ: a file is packed in the pieces that it is stored in. */
const contentOf = (bytes: Uint8Array) =>
  Object.fromEntries(
    Object.entries(unzipSync(bytes)).map(([name, one]) => [name, Buffer.from(one).toString("latin1")]),
  );
const manifestOf = (bytes: Uint8Array) =>
  manifestSchema.parse(JSON.parse(new TextDecoder().decode(unzipSync(bytes)["job.json"])));

/** A test run with everything a test run may have. */
async function fullTestRun(db: Knex, jobId: string): Promise<string> {
  const id = await createTestRun(db, {
    jobId,
    name: "Nuit d’août – “hot”",
    kind: "fixed speed, lithium",
    startedMs: T0,
  });
  const photo = uuid();
  const kept = await pictureAsKept(await pictureOf());
  await addPhoto(db, id, photo, kept.type, kept.bytes);
  const readings = Array.from({ length: 1200 }, (_, i) => ({
    id: uuid(),
    timeMs: T0 + i * 10_000,
    values: { battery_current_a: -30.125 - (i % 7), ...(i % 3 === 0 ? { soc_pct: 90 - i / 40 } : {}) },
    ...(i === 5 ? { note: "=HYPERLINK(1) door open; “quoted”, 漢字", photoId: photo } : {}),
  }));
  await addReadings(db, id, readings);
  await changeReading(db, id, readings[2]!.id, 1, { timeMs: T0 + 21_000, values: { battery_current_a: -29 } });
  await changeReading(db, id, readings[2]!.id, 2, "delete");
  await changeReading(db, id, readings[3]!.id, 1, "delete");
  await changeReading(db, id, readings[3]!.id, 2, "restore");
  // Two pieces of log and of file; values that are no round number.
  const file = new TextEncoder().encode("time;amps\n".repeat(3000));
  const log = (from: number): Reading[] =>
    Array.from({ length: 50 }, (_, i) => ({
      timeMs: T0 + (from + i) * 777.5,
      values: { battery_current_a: -(from + i) / 3, cabin_temp_c: 25.05 },
      ...(i === 0 ? { note: "start 1: clamp peak 38 A" } : {}),
    }));
  const importId = await openImport(db, id, "Émile's log.CSV");
  await putChunk(db, id, importId, "readings", 0, packReadings(fromList(log(0))));
  await putChunk(db, id, importId, "readings", 1, packReadings(fromList(log(50))));
  await putChunk(db, id, importId, "file", 0, file.subarray(0, 9000));
  await putChunk(db, id, importId, "file", 1, file.subarray(9000));
  await closeImport(db, id, importId, { readings: 2, file: 2, rows: 100 });
  await openImport(db, id, "never finished.csv");
  await setSource(
    db,
    id,
    { kind: "simulator", seed: 3, faults: ["bad-lug"], every: 10, speed: 60 },
    {
      faults: ["bad-lug"],
      heatLoss: 41.5,
      bankAh: 190,
      pathResistance: 0.004,
      zero: 0.1,
      monitorAh: 200,
      startSoc: 0.97,
      hoursToReserve: 4.5,
      hoursToCutoff: null,
    },
  );
  const hours = { p10: 3, p50: 4, p90: null };
  await changeTestRun(db, id, {
    finished: true,
    conditions: { ...NOTHING_SAID, people: 2, forecastHighC: 36.5 },
    snapshots: [{ minutes: 30, toReserve: hours, toCutoff: hours, hand: { now: 3.5, average: null, halfHour: 3.25 } }],
    outcome: { reserveH: 4.4, cutoffH: null, endSoc: 0.19 },
  });
  return id;
}

beforeAll(async () => {
  there = connect(await ownDatabase());
  jobId = (await createJob(here, AUTHOR, job)).id;
  await addJobPhoto(here, AUTHOR, jobId, { id: STEP_PHOTO, sent: await pictureOf() });
  await saveJob(here, AUTHOR, { id: jobId, revision: 1, job: { ...job, name: "Folio, “second” state" } });
  await keepRequirement(here, jobId, { ...usualRequirement(job), tripDays: 5 });
  await keepRevision(here, jobId, { id: uuid(), name: "As quoted", promise: "Six hours\nat 26 °C" }, job);
  const dropped = uuid();
  await keepRevision(here, jobId, { id: dropped, name: "A mistake", promise: "" }, job);
  await changeRevision(here, jobId, dropped, true);
  await fullTestRun(here, jobId);
  await deleteTestRun(here, await createTestRun(here, { jobId: jobId, name: "Deleted", kind: "", startedMs: T0 }));
  zip = await bytesOf(here, jobId);
}, 60_000);
afterAll(endPictures);
afterAll(async () => {
  await here.destroy();
  await there.destroy();
});

describe("a whole job in another Chillbank", () => {
  let copy = "";
  let testRunHere = "";
  let testRunThere = "";
  beforeAll(async () => {
    const made = await importJob(there, AUTHOR, zip);
    if (!made.ok) throw new Error(made.message);
    copy = made.id;
    testRunHere = (await listTestRuns(here, jobId))[0]!.id;
    testRunThere = (await listTestRuns(there, copy))[0]!.id;
  });
  it("exports again as the same files: nothing was lost and nothing added", async () => {
    expect(contentOf(await bytesOf(there, copy))).toEqual(contentOf(zip));
  });
  it("is there before its verdicts are, which follow like those of any job", async () => {
    const stored = async () => (await there("jobs").where({ id: copy }).first("core_version"))!.core_version as number;
    expect(await stored()).toBe(0);
    await workOut(there, copy);
    expect(await stored()).toBe(CORE_VERSION);
  });
  it("is read from a file of version 1 too, which said it in other words", async () => {
    const { job: rig, requirement: wish, testRuns: trials, ...rest } = manifestOf(zip);
    const before = trials.map(({ snapshots, source, truth, outcome, ...run }) => ({
      ...run,
      promises: snapshots,
      source: source?.kind === "simulator" ? { ...source, kind: "stand-in" } : source,
      truth: truth && { ...truth, startSoc: undefined, startShare: truth.startSoc },
      outcome: outcome && { ...outcome, endSoc: undefined, endShare: outcome.endSoc },
      conditions: undefined,
    }));
    const manifest = new TextEncoder().encode(JSON.stringify({ ...rest, version: 1, rig, wish, trials: before }));
    const made = await importJob(there, AUTHOR, zipSync({ ...unzipSync(zip), "job.json": manifest }));
    if (!made.ok) throw new Error(made.message);
    const again = manifestOf(await bytesOf(there, made.id));
    const unasked = manifestOf(zip).testRuns.map((run) => ({ ...run, conditions: null }));
    // Steps had no photos then.
    const { [`photos/${STEP_PHOTO}.jpg`]: _, ...files } = manifestOf(zip).files;
    expect(again).toEqual({ ...manifestOf(zip), testRuns: unasked, photos: [], files });
  });
  it("has the photos of its steps under the ids that the steps refer to", async () => {
    const size = async (db: Knex, id: string) => (await getJobPhoto(db, id, STEP_PHOTO, "small"))?.bytes.length;
    expect(await size(there, copy)).toBe(await size(here, jobId));
    expect(await size(there, copy)).toBeGreaterThan(100);
  });
  it("has its document, revision and days", async () => {
    const [own, other] = [(await getJob(here, jobId))!, (await getJob(there, copy))!];
    expect({ ...other, id: "" }).toEqual({ ...own, id: "" });
  });
  it("has its target and named revisions, but none that was taken off the list", async () => {
    expect(await getRequirement(there, copy)).toEqual(await getRequirement(here, jobId));
    const bare = async (db: Knex, id: string) => (await listRevisions(db, id)).map((one) => ({ ...one, id: "" }));
    expect(await bare(there, copy)).toEqual(await bare(here, jobId));
    expect((await bare(there, copy)).map(({ name }) => name)).toEqual(["As quoted"]);
  });
  it("has its test runs with snapshots, outcome and what the simulator hid, but none that was deleted", async () => {
    const bare = async (db: Knex, id: string) =>
      (await listTestRuns(db, id)).map((one) => ({ ...one, id: "", jobId: "" }));
    expect(await bare(there, copy)).toEqual(await bare(here, jobId));
    expect(await bare(there, copy)).toHaveLength(1);
  });
  it("has every reading of the log, to the last bit", async () => {
    const [own, other] = [await logOfTestRun(here, testRunHere), await logOfTestRun(there, testRunThere)];
    expect(own.timeMs).toHaveLength(1299);
    expect(other).toEqual(own);
  });
  it("has what a reading was before it was corrected or deleted", async () => {
    const histories = async (db: Knex, testRun: string) => {
      const rows = (await lastReadings(db, testRun, 2000, true)).filter(({ version }) => version > 1);
      return Promise.all(
        rows.map(async (row) => ({
          row: { ...row, id: "", photoId: "" },
          history: await readingHistory(db, testRun, row.id),
        })),
      );
    };
    const own = await histories(here, testRunHere);
    expect(own.map(({ row }) => row.deleted)).toEqual([false, true]);
    expect(await histories(there, testRunThere)).toEqual(own);
  });
  it("has the original file and the photo of its reading", async () => {
    const [own] = await listImports(here, testRunHere);
    const [other] = await listImports(there, testRunThere);
    expect({ ...other, id: "" }).toEqual({ ...own, id: "" });
    expect(await originalFile(there, testRunThere, other!.id)).toEqual(await originalFile(here, testRunHere, own!.id));
    const noted = (await lastReadings(there, testRunThere, 2000)).find(({ photoId }) => photoId !== null)!;
    expect(noted.note).toContain("漢字");
  });
  it("is a second job beside the first where it is read twice", async () => {
    const again = await importJob(there, AUTHOR, zip);
    expect(again.ok && again.id !== copy).toBe(true);
  });
});

describe("the ZIP of a job", () => {
  it("is the same bytes for the same job", async () => {
    expect(Buffer.compare(await bytesOf(here, jobId), zip)).toBe(0);
  });
  it("holds what others read too: JSON, the original log, the photos", () => {
    const files = Object.keys(unzipSync(zip)).sort();
    expect(files).toEqual([
      "document.json",
      "job.json",
      `photos/${STEP_PHOTO}.jpg`,
      "requirement.json",
      "revisions/1.json",
      "test-runs/1/imports/1/original.csv",
      "test-runs/1/imports/1/readings-1.bin",
      "test-runs/1/imports/1/readings-2.bin",
      "test-runs/1/photos/1.jpg",
      "test-runs/1/readings.json",
    ]);
  });
  it("names no id of the database that it came from", () => {
    const text = Object.entries(unzipSync(zip))
      .filter(([name]) => name.endsWith(".json") && name !== "job.json")
      .map(([, bytes]) => new TextDecoder().decode(bytes))
      .join("")
      .replaceAll(STEP_PHOTO, "");
    expect(text).not.toMatch(/"[0-9a-f]{8}-[0-9a-f]{4}-[0-9a-f]{4}-[0-9a-f]{4}-[0-9a-f]{12}"/);
  });
  it("is none for a job that is not there or was deleted", async () => {
    const { id } = await createJob(here, AUTHOR, job);
    await deleteJob(here, AUTHOR, id);
    expect(await exportJob(here, id)).toBeNull();
    expect(await exportJob(here, uuid())).toBeNull();
  });
});

describe("a job file that is not taken", () => {
  const counts = async () =>
    Promise.all(
      [
        "jobs",
        "test_runs",
        "test_run_readings",
        "test_run_imports",
        "test_run_import_chunks",
        "test_run_photos",
        "job_requirements",
      ].map(async (table) => Number(((await there(table).count({ n: "*" })) as [{ n: number }])[0].n)),
    );
  /** The ZIP with its files changed; hashes of the manifest made to fit, unless they are left alone. */
  async function changed(change: (files: Record<string, Uint8Array>, manifest: Manifest) => void, leave = false) {
    const { createHash } = await import("node:crypto");
    const files = unzipSync(zip);
    const manifest = manifestOf(zip);
    change(files, manifest);
    if (!leave)
      for (const [name, bytes] of Object.entries(files))
        if (manifest.files[name])
          manifest.files[name] = { bytes: bytes.length, sha256: createHash("sha256").update(bytes).digest("hex") };
    files["job.json"] = new TextEncoder().encode(JSON.stringify(manifest));
    return zipSync(files as Zippable);
  }
  const bytes = (text: string) => new TextEncoder().encode(text);
  type Change = (files: Record<string, Uint8Array>, manifest: Manifest) => void;
  it.each<[string, Change, boolean, RegExp]>([
    [
      "of a newer Chillbank",
      (_, manifest) => ((manifest as { version: number }).version = 7),
      false,
      /newer Chillbank \(version 7; this one reads up to 4\)/,
    ],
    ["of another format", (_, m) => ((m as { format: string }).format = "x"), false, /not a whole job/],
    [
      "with a page for a photo",
      (files) => (files["test-runs/1/photos/1.jpg"] = bytes("<script>alert(1)</script>")),
      false,
      /photos\/1.jpg: A photo as JPEG, PNG or WebP/,
    ],
    [
      "with a bit of its log changed",
      (files) => (files["test-runs/1/imports/1/original.csv"]![3]! ^= 1),
      true,
      /has changed since the job was exported/,
    ],
    ["with a file missing", (files) => delete files["test-runs/1/photos/1.jpg"], true, /photos\/1.jpg is missing/],
    ["with a system that is none", (files) => (files["document.json"] = bytes("{}")), false, /^document.json: /],
    [
      "with a system that is no JSON",
      (files) => (files["document.json"] = bytes("{")),
      false,
      /document.json is not JSON/,
    ],
    [
      "with a system of a newer version",
      (files) => (files["document.json"] = bytes(JSON.stringify({ ...job, version: 99 }))),
      false,
      /document.json: version/,
    ],
    [
      "with a log that is none, after test run and readings were in",
      (files) => (files["test-runs/1/imports/1/readings-2.bin"] = bytes("no log")),
      false,
      /is not a log of readings/,
    ],
    [
      "with a photo that no test run has",
      (files) => {
        const name = "test-runs/1/readings.json";
        const list = JSON.parse(new TextDecoder().decode(files[name])) as { photo: number | null }[];
        list[1100]!.photo = 44;
        files[name] = bytes(JSON.stringify(list));
      },
      false,
      /1100.photo: there is no such photo/,
    ],
    ["that points out of itself", (_, m) => (m.job = "../job.json"), false, /job.json: job: no path of a job file/],
    ["with a name too long", (_, m) => (m.testRuns[0]!.name = "x".repeat(121)), false, /job.json: testRuns.0.name/],
  ])("%s is refused with why, and leaves nothing behind", async (_, change, leave, why) => {
    const before = await counts();
    const made = await importJob(there, AUTHOR, await changed(change, leave));
    expect(made).toMatchObject({ ok: false, message: expect.stringMatching(why) as string });
    expect(await counts()).toEqual(before);
  });
  it.each<[string, Uint8Array]>([
    ["nothing", new Uint8Array(0)],
    ["text", bytes("time,amps\n1,2\n")],
    ["a ZIP of something else", zipSync({ "a.txt": bytes("hello") })],
  ])("%s is told as no job", async (_, file) => {
    expect((await importJob(there, AUTHOR, file)).ok).toBe(false);
  });
  it("is refused wherever it is cut off", async () => {
    const before = await counts();
    await fc.assert(
      fc.asyncProperty(fc.integer({ min: 1, max: zip.length - 1 }), async (cut) => {
        expect((await importJob(there, AUTHOR, zip.subarray(0, cut))).ok).toBe(false);
      }),
      { numRuns: cases(6, 25) },
    );
    expect(await counts()).toEqual(before);
  });
  it("is refused or read the same with any byte of it changed", async () => {
    await fc.assert(
      fc.asyncProperty(fc.nat({ max: zip.length - 1 }), fc.integer({ min: 1, max: 255 }), async (at, by) => {
        const broken = zip.slice();
        broken[at]! ^= by;
        const made = await importJob(there, AUTHOR, broken);
        // What is not read at all, as a moment of packing, may change; what is read may not.
        if (made.ok) expect(contentOf(await bytesOf(there, made.id))).toEqual(contentOf(zip));
      }),
      { numRuns: cases(10, 40) },
    );
  }, 60_000);
  it("does not unpack more than it says it holds", async () => {
    const bomb = zipSync({ "job.json": new Uint8Array(20_000_000) }, { level: 9 });
    expect(bomb.length).toBeLessThan(200_000);
    // The size in its directory, made small: what comes out is cut there and is no JSON.
    const directory = new DataView(bomb.buffer, bomb.byteOffset);
    for (let at = bomb.length - 22; at > 0; at--)
      if (directory.getUint32(at, true) === 0x02014b50) {
        directory.setUint32(at + 24, 100, true);
        break;
      }
    expect(await importJob(there, AUTHOR, bomb)).toMatchObject({ ok: false });
  });
});

describe("an instrument in a job file", () => {
  const sources = [
    ["a file that is followed", { kind: "file", path: "log.csv" }, null],
    ["a Signal K server", { kind: "signal-k", url: "ws://127.0.0.1:3000/x" }, null],
    [
      "a simulator",
      { kind: "simulator", seed: 1, faults: [], every: 10, speed: 60 },
      { kind: "simulator", seed: 1, faults: [], every: 10, speed: 60 },
    ],
  ] as const;
  it.each(sources)("%s of a test run under way", async (_, source, kept) => {
    const { id } = await createJob(here, AUTHOR, job);
    const testRun = await createTestRun(here, { jobId: id, name: "Live", kind: "", startedMs: T0 });
    await setSource(here, testRun, source as never);
    const made = await importJob(there, AUTHOR, await bytesOf(here, id));
    expect(made.ok && (await listTestRuns(there, made.id))[0]!.source).toEqual(kept);
  });
});
