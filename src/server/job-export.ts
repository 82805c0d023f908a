import { createHash, type Hash } from "node:crypto";
import { setImmediate as breathe } from "node:timers/promises";
import { Zip, ZipDeflate, ZipPassThrough } from "fflate";
import type { Knex } from "knex";
import type { Reading } from "../core/applications/test-run/log/readings";
import { JOB_FORMAT, JOB_VERSION, MANIFEST, type KeptReading, type Manifest, type TestRunEntry } from "./job-file";
import { getRequirement } from "./options";
import { getJob } from "./jobs";
import { getJobPhoto, listJobPhotos } from "./pictures/job-photos";
import { PHOTO_TYPES, type TestRunRow } from "./test-runs";
import { ZIP_MOMENT } from "./words";
import { unpacked } from "./packing";
import { parsed } from "./json-column";

/** JSON with the names of every object in one order, so that the same job gives the same bytes wherever it was stored. */
const jsonBytes = (value: unknown) =>
  new TextEncoder().encode(
    `${JSON.stringify(
      value,
      (_, one: unknown) =>
        one !== null && typeof one === "object" && !Array.isArray(one)
          ? Object.fromEntries(Object.entries(one).sort(([a], [b]) => (a < b ? -1 : 1)))
          : one,
      1,
    )}\n`,
  );
/** Photos are packed already. */
const PHOTO_END: Record<(typeof PHOTO_TYPES)[number], string> = {
  "image/jpeg": "jpg",
  "image/png": "png",
  "image/webp": "webp",
};

interface ReadingRow {
  id: string;
  time_ms: number | string;
  reading: unknown;
  photo_id: string | null;
  version: number;
  created_at: Date;
  deleted_at: Date | null;
}
interface HistoryRow {
  reading_id: string;
  version: number;
  time_ms: number | string;
  reading: unknown;
  was_deleted: number;
  changed_at: Date;
}

/** Files of a ZIP as they come, with the length and hash of each for the manifest. */
class Packer {
  private zip: Zip;
  private chunks: Uint8Array[] = [];
  private failed: Error | null = null;
  readonly files: Manifest["files"] = {};
  private open: { path: string; file: ZipDeflate | ZipPassThrough; hash: Hash; bytes: number } | null = null;

  constructor() {
    this.zip = new Zip((error, chunk) => {
      if (error) this.failed = error;
      else this.chunks.push(chunk);
    });
  }
  begin(path: string, packed = false): void {
    const file = packed ? new ZipPassThrough(path) : new ZipDeflate(path, { level: 6 });
    file.mtime = ZIP_MOMENT;
    this.zip.add(file);
    this.open = { path, file, hash: createHash("sha256"), bytes: 0 };
  }
  /** Adds to the open file and gives what of the ZIP is ready. */
  add(bytes: Uint8Array, last: boolean): Uint8Array[] {
    const open = this.open!;
    open.hash.update(bytes);
    open.bytes += bytes.length;
    // The packer keeps what it is given: a copy stays the caller's own.
    open.file.push(bytes.slice(), last);
    if (last) {
      this.files[open.path] = { bytes: open.bytes, sha256: open.hash.digest("hex") };
      this.open = null;
    }
    return this.ready();
  }
  whole(path: string, bytes: Uint8Array, packed = false): Uint8Array[] {
    this.begin(path, packed);
    return this.add(bytes, true);
  }
  end(): Uint8Array[] {
    this.zip.end();
    return this.ready();
  }
  private ready(): Uint8Array[] {
    if (this.failed) throw this.failed;
    return this.chunks.splice(0);
  }
}

/**
 * A whole job as the bytes of a ZIP, piece by piece, as it stands at one moment; the same bytes for the same job. Null where
 * there is none. Deleted test runs and revisions, links of customers and ids stay behind.
 */
export async function exportJob(db: Knex, id: string): Promise<AsyncGenerator<Uint8Array, void> | null> {
  if (!(await getJob(db, id))) return null;
  return pieces(db, id);
}

async function* pieces(db: Knex, id: string): AsyncGenerator<Uint8Array, void> {
  const tx = await db.transaction({ isolationLevel: "repeatable read" });
  try {
    yield* packed(tx, id);
  } finally {
    await tx.rollback().catch(() => undefined);
  }
}

async function* packed(db: Knex, id: string): AsyncGenerator<Uint8Array, void> {
  const found = (await getJob(db, id))!;
  const { created_at } = (await db("jobs").where({ id }).first("created_at")) as { created_at: Date };
  const packer = new Packer();
  yield* packer.whole("document.json", jsonBytes(found.job));
  const requirement = await getRequirement(db, id);
  if (requirement) yield* packer.whole("requirement.json", jsonBytes(requirement));
  const revisions: Manifest["revisions"] = [];
  const kept: { name: string; promise: string; document: unknown; summary: unknown; created_at: Date }[] = await db(
    "job_revisions",
  )
    .where({ job_id: id })
    .whereNull("deleted_at")
    .orderBy(["created_at", "id"]);
  for (const [i, { name, promise, document, summary, created_at: at }] of kept.entries()) {
    const file = `revisions/${i + 1}.json`;
    yield* packer.whole(file, jsonBytes(parsed(document)));
    revisions.push({
      file,
      name,
      promise,
      summary: parsed(summary) as Manifest["revisions"][number]["summary"],
      createdMs: at.getTime(),
    });
  }
  const testRuns: TestRunEntry[] = [];
  const rows: TestRunRow[] = await db("test_runs")
    .where({ job_id: id })
    .whereNull("deleted_at")
    .orderBy(["started_at", "created_at", "id"]);
  for (const [i, row] of rows.entries()) testRuns.push(yield* packedTestRun(db, packer, row, `test-runs/${i + 1}`));
  const photos: Manifest["photos"] = [];
  for (const { id: photo, createdAt } of await listJobPhotos(db, id)) {
    const found = (await getJobPhoto(db, id, photo, "whole"))!;
    const file = `photos/${photo}.${PHOTO_END[found.type as (typeof PHOTO_TYPES)[number]]}`;
    yield* packer.whole(file, found.bytes, true);
    photos.push({ file, id: photo, createdMs: createdAt.getTime() });
  }
  const manifest: Manifest = {
    format: JOB_FORMAT,
    version: JOB_VERSION,
    revision: found.revision,
    createdMs: created_at.getTime(),
    updatedMs: found.updatedAt.getTime(),
    job: "document.json",
    requirement: requirement ? "requirement.json" : null,
    revisions,
    testRuns,
    photos,
    files: packer.files,
  };
  // Taken before the manifest is a file itself.
  yield* packer.whole(MANIFEST, jsonBytes(manifest));
  yield* packer.end();
}

async function* packedTestRun(
  db: Knex,
  packer: Packer,
  row: TestRunRow,
  folder: string,
): AsyncGenerator<Uint8Array, TestRunEntry> {
  const photoRows: { id: string; type: string; created_at: Date }[] = await db("test_run_photos")
    .where({ test_run_id: row.id })
    .orderBy(["created_at", "id"])
    .select("id", "type", "created_at");
  const photos: TestRunEntry["photos"] = [];
  for (const [i, photo] of photoRows.entries()) {
    const type = photo.type as (typeof PHOTO_TYPES)[number];
    const { data } = (await db("test_run_photos").where({ id: photo.id }).first("data")) as { data: Buffer };
    const file = `${folder}/photos/${i + 1}.${PHOTO_END[type]}`;
    yield* packer.whole(file, data, true);
    photos.push({ file, type, createdMs: photo.created_at.getTime() });
  }
  const readings = `${folder}/readings.json`;
  yield* packer.whole(readings, jsonBytes(await keptReadings(db, row.id, photoRows)));
  const imports: TestRunEntry["imports"] = [];
  const importRows: { id: string; file_name: string; rows: number; created_at: Date }[] = await db("test_run_imports")
    .where({ test_run_id: row.id, whole: true })
    .orderBy(["created_at", "id"]);
  for (const [i, one] of importRows.entries()) {
    const place = `${folder}/imports/${i + 1}`;
    const logs: string[] = [];
    for await (const { data } of chunksOf(db, one.id, "readings")) {
      const file = `${place}/readings-${logs.length + 1}.bin`;
      yield* packer.whole(file, data);
      logs.push(file);
    }
    const end = /\.[A-Za-z0-9]{1,6}$/.exec(one.file_name)?.[0].toLowerCase() ?? "";
    const original = `${place}/original${end}`;
    let kept = false;
    for await (const { data, last } of chunksOf(db, one.id, "file")) {
      if (!kept) packer.begin(original);
      kept = true;
      yield* packer.add(data, last);
    }
    imports.push({
      fileName: one.file_name,
      createdMs: one.created_at.getTime(),
      rows: one.rows,
      readings: logs,
      original: kept ? original : null,
    });
  }
  return {
    name: row.name,
    kind: row.kind,
    startedMs: row.started_at.getTime(),
    finishedMs: row.finished_at?.getTime() ?? null,
    createdMs: row.created_at.getTime(),
    updatedMs: row.updated_at.getTime(),
    source: parsed(row.source) as TestRunEntry["source"],
    truth: parsed(row.truth) as TestRunEntry["truth"],
    snapshots: parsed(row.snapshots) as TestRunEntry["snapshots"],
    outcome: parsed(row.outcome) as TestRunEntry["outcome"],
    conditions: parsed(row.conditions) as TestRunEntry["conditions"],
    readings,
    imports,
    photos,
  };
}

/** Chunks of an import one at a time, with air for the server between them. */
async function* chunksOf(
  db: Knex,
  importId: string,
  part: "readings" | "file",
): AsyncGenerator<{ data: Uint8Array; last: boolean }> {
  const seqs: { seq: number }[] = await db("test_run_import_chunks")
    .where({ import_id: importId, part })
    .orderBy("seq")
    .select("seq");
  for (const [i, { seq }] of seqs.entries()) {
    const own = (await db("test_run_import_chunks").where({ import_id: importId, part, seq }).first("data")) as {
      data: Buffer;
    };
    yield { data: await unpacked(own.data), last: i === seqs.length - 1 };
    await breathe();
  }
}

async function keptReadings(db: Knex, testRunId: string, photos: readonly { id: string }[]): Promise<KeptReading[]> {
  const rows: ReadingRow[] = await db("test_run_readings")
    .where({ test_run_id: testRunId })
    .orderBy(["time_ms", "created_at", "id"]);
  const history: HistoryRow[] = await db("test_run_reading_history")
    .join("test_run_readings", "test_run_readings.id", "test_run_reading_history.reading_id")
    .where("test_run_readings.test_run_id", testRunId)
    .orderBy([
      "test_run_reading_history.reading_id",
      "test_run_reading_history.version",
      "test_run_reading_history.entry",
    ])
    .select("test_run_reading_history.*");
  const before = new Map<string, KeptReading["history"]>();
  for (const one of history) {
    const list = before.get(one.reading_id) ?? [];
    list.push({
      version: one.version,
      timeMs: Number(one.time_ms),
      ...valuesOf(one.reading),
      wasDeleted: Boolean(one.was_deleted),
      changedMs: one.changed_at.getTime(),
    });
    before.set(one.reading_id, list);
  }
  const place = new Map(photos.map(({ id }, i) => [id, i]));
  return rows.map((row) => ({
    timeMs: Number(row.time_ms),
    ...valuesOf(row.reading),
    photo: row.photo_id === null ? null : (place.get(row.photo_id) ?? null),
    version: row.version,
    createdMs: row.created_at.getTime(),
    deletedMs: row.deleted_at?.getTime() ?? null,
    history: before.get(row.id) ?? [],
  }));
}

function valuesOf(reading: unknown): { values: Reading["values"]; note: string | null } {
  const { values, note } = parsed(reading) as Pick<Reading, "values" | "note">;
  return { values, note: note ?? null };
}
