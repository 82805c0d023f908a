import { fstatSync } from "node:fs";
import { setImmediate as breathe } from "node:timers/promises";
import type { Knex } from "knex";
import { v7 as uuid } from "uuid";
import type { z } from "zod";
import { requirementSchema } from "../core/applications/options/target";
import { readJob, type Job } from "../core/document/schema";
import {
  JOB_FORMAT,
  JOB_VERSION,
  keptReadingSchema,
  MOST_READINGS,
  LARGEST_UNPACKED,
  MANIFEST,
  manifestSchema,
  upgradeManifest,
  MOST_FILES,
  type Manifest,
  type TestRunEntry,
} from "./job-file";
import { packed } from "./packing";
import { transaction } from "./database";
import { note, type Author } from "./job-history";
import { newColumns } from "./jobs";
import { needRoom } from "./quotas";
import { rowsOfJson } from "./json-rows";
import { LARGEST_CHUNK, rowsOfPacked } from "./test-runs";
import { workOutLater } from "./verdict-queue";
import { insertPhoto } from "./pictures/job-photos";
import { pictureAsKept } from "./pictures/pictures";
import { Refusal } from "./refusal";
import { NotTaken, ZipReader } from "./zip";
import { say } from "@/core/messages/say";

export type Imported = { ok: true; id: string; name: string } | { ok: false; message: string };

/** Rows to an insert. */
const ROWS = 500;
/** Largest file of a job that is parsed in one go, bytes: a tenth of a second's work. Readings come row by row. */
const LARGEST_JSON = 8 * 1024 * 1024;

/** A ZIP of a whole job: its files are read one at a time and held against what its manifest says of them. */
class Unpacker {
  private manifest: Manifest | null = null;

  private constructor(private readonly zip: ZipReader) {}

  static async open(source: number | Uint8Array): Promise<Unpacker> {
    const zip = await ZipReader.open(typeof source === "number" ? source : Buffer.from(source), {
      files: MOST_FILES,
      unpacked: LARGEST_UNPACKED,
    });
    if (zip.has(MANIFEST)) return new Unpacker(zip);
    zip.close();
    throw new NotTaken(say("server.import.noManifest", { manifest: MANIFEST }));
  }
  close(): void {
    this.zip.close();
  }
  trust(manifest: Manifest): void {
    this.manifest = manifest;
  }
  /** The bytes of a file, held against what the manifest says of it. */
  async read(name: string): Promise<Uint8Array> {
    const { bytes, sha256 } = await this.zip.read(name);
    const told = name === MANIFEST ? null : this.manifest?.files[name];
    if (told === undefined) throw new NotTaken(say("server.import.unreadable", { name }));
    if (told && (told.bytes !== bytes.length || told.sha256 !== sha256))
      throw new NotTaken(say("server.import.changed", { name }));
    return bytes;
  }
  async json(name: string): Promise<unknown> {
    const bytes = await this.read(name);
    if (bytes.length > LARGEST_JSON) throw new NotTaken(say("server.import.tooLong", { name }));
    try {
      return JSON.parse(new TextDecoder("utf-8", { fatal: true }).decode(bytes));
    } catch {
      throw new NotTaken(say("server.import.noJson", { name }));
    }
  }
  async as<T extends z.ZodType>(name: string, schema: T): Promise<z.infer<T>> {
    return this.shaped(name, await this.json(name), schema);
  }
  /** The elements of the array in a file, by number: each as `schema` wants it, some hundreds at a time. */
  async *rows<T extends z.ZodType>(name: string, schema: T, most: number): AsyncGenerator<z.infer<T>[]> {
    const bytes = await this.read(name);
    let part: z.infer<T>[] = [];
    let n = 0;
    try {
      for await (const row of rowsOfJson(bytes)) {
        if (n >= most) throw new NotTaken(say("server.import.tooLong", { name }));
        part.push(this.shaped(`${name}: ${n++}`, row, schema));
        if (part.length < ROWS) continue;
        yield part;
        part = [];
      }
    } catch (error) {
      throw error instanceof SyntaxError ? new NotTaken(say("server.import.noJson", { name })) : error;
    }
    if (part.length > 0) yield part;
  }
  /** What file `name` holds, if it is as `schema` wants it; refused with the first fault's path otherwise. */
  shaped<T extends z.ZodType>(name: string, value: unknown, schema: T): z.infer<T> {
    const read = schema.safeParse(value);
    if (read.success) return read.data;
    const first = read.error.issues[0]!;
    throw new NotTaken(`${name}: ${first.path.join(".") || "the whole"}: ${first.message}`);
  }
  async job(name: string): Promise<Job> {
    const read = readJob(await this.json(name));
    if (read.ok) return read.job;
    const first = read.faults[0]!;
    throw new NotTaken(`${name}: ${first.path || "the whole"}: ${first.message}`);
  }
}

/** The manifest of a job file, or why it is none: one of a newer Chillbank is told as that. */
async function manifestOf(zip: Unpacker): Promise<Manifest> {
  const found = ((await zip.json(MANIFEST)) ?? {}) as Record<string, unknown>;
  const { format, version } = found;
  if (format !== JOB_FORMAT) throw new NotTaken(say("server.import.format", { format: JOB_FORMAT }));
  if (typeof version === "number" && version > JOB_VERSION)
    throw new NotTaken(say("server.import.newer", { version, known: JOB_VERSION }));
  return zip.shaped(MANIFEST, upgradeManifest(found), manifestSchema);
}

/**
 * Makes a job of a whole job's ZIP (its bytes, or an open file), under ids of its own: all of it or nothing. An instrument that was connected is not
 * connected by a file; a simulator that ran goes on.
 */
export async function importJob(db: Knex, author: Author, source: number | Uint8Array): Promise<Imported> {
  await needRoom(db, author.workshopId, "jobs");
  await needRoom(db, author.workshopId, "bytes", typeof source === "number" ? fstatSync(source).size : source.length);
  let zip: Unpacker | null = null;
  try {
    zip = await Unpacker.open(source);
    const unpacker = zip;
    const manifest = await manifestOf(unpacker);
    unpacker.trust(manifest);
    const job = await unpacker.job(manifest.job);
    const id = uuid();
    await transaction(db, async (tx) => {
      await tx("jobs").insert({
        id,
        workshop_id: author.workshopId,
        revision: manifest.revision,
        ...newColumns(job),
        created_at: new Date(manifest.createdMs),
        updated_at: new Date(manifest.updatedMs),
      });
      if (manifest.requirement !== null)
        await tx("job_requirements").insert({
          job_id: id,
          requirement: JSON.stringify(await unpacker.as(manifest.requirement, requirementSchema)),
          updated_at: new Date(manifest.updatedMs),
        });
      for (const { file, name, promise, summary, createdMs } of manifest.revisions)
        await tx("job_revisions").insert({
          id: uuid(),
          job_id: id,
          name,
          promise,
          document: JSON.stringify(await unpacker.job(file)),
          summary: JSON.stringify(summary),
          created_at: new Date(createdMs),
        });
      await note(tx, author, { jobId: id, what: "imported", revision: manifest.revision });
      for (const { file, id: photo, createdMs } of manifest.photos) {
        const kept = await pictureOf(unpacker, file);
        await insertPhoto(tx, id, photo, { kept, createdAt: new Date(createdMs) });
        await breathe();
      }
      for (const testRun of manifest.testRuns) await keepTestRun(tx, unpacker, id, testRun);
    });
    workOutLater(db, id);
    return { ok: true, id, name: job.name };
  } catch (error) {
    if (error instanceof NotTaken) return { ok: false, message: error.message };
    throw error;
  } finally {
    zip?.close();
  }
}

async function keepTestRun(tx: Knex, zip: Unpacker, jobId: string, testRun: TestRunEntry): Promise<void> {
  const id = uuid();
  // A file must not open connections or read other files by itself.
  const source = testRun.finishedMs === null && testRun.source?.kind !== "simulator" ? null : testRun.source;
  await tx("test_runs").insert({
    id,
    job_id: jobId,
    name: testRun.name,
    kind: testRun.kind,
    started_at: new Date(testRun.startedMs),
    finished_at: testRun.finishedMs === null ? null : new Date(testRun.finishedMs),
    source: source && JSON.stringify(source),
    truth: testRun.truth && JSON.stringify(testRun.truth),
    snapshots: JSON.stringify(testRun.snapshots),
    outcome: testRun.outcome && JSON.stringify(testRun.outcome),
    conditions: testRun.conditions && JSON.stringify(testRun.conditions),
    created_at: new Date(testRun.createdMs),
    updated_at: new Date(testRun.updatedMs),
  });
  const photos: string[] = [];
  for (const { file, createdMs } of testRun.photos) {
    const photo = uuid();
    photos.push(photo);
    const { type, bytes: data } = await pictureOf(zip, file);
    await tx("test_run_photos").insert({
      id: photo,
      test_run_id: id,
      type,
      data,
      bytes: data.length,
      created_at: new Date(createdMs),
    });
    await breathe();
  }
  await keepReadings(tx, zip, id, testRun, photos);
  for (const one of testRun.imports) await keepImport(tx, zip, id, one);
  const [{ rows }] = (await tx("test_run_readings")
    .where({ test_run_id: id })
    .whereNull("deleted_at")
    .count({ rows: "*" })) as [{ rows: number }];
  const imported = testRun.imports.reduce((sum, one) => sum + one.rows, 0);
  await tx("test_runs")
    .where({ id })
    .update({ readings: Number(rows) + imported });
}

/** A picture of the file, drawn anew as one that somebody sends is. */
async function pictureOf(zip: Unpacker, file: string): ReturnType<typeof pictureAsKept> {
  const bytes = await zip.read(file);
  try {
    return await pictureAsKept(bytes);
  } catch (error) {
    throw error instanceof Refusal ? new NotTaken(`${file}: ${error.message}`) : error;
  }
}

async function keepReadings(
  tx: Knex,
  zip: Unpacker,
  testRunId: string,
  { readings }: TestRunEntry,
  photos: readonly string[],
): Promise<void> {
  const stored = (values: object, note: string | null) => JSON.stringify({ values, ...(note ? { note } : {}) });
  let from = 0;
  for await (const list of zip.rows(readings, keptReadingSchema, MOST_READINGS)) {
    const part = list.map((one) => ({ id: uuid(), one }));
    await tx("test_run_readings").insert(
      part.map(({ id, one }, i) => {
        const photo = one.photo === null ? null : photos[one.photo];
        if (photo === undefined) throw new NotTaken(`${readings}: ${from + i}.photo: there is no such photo`);
        return {
          id,
          test_run_id: testRunId,
          time_ms: Math.round(one.timeMs),
          reading: stored(one.values, one.note),
          photo_id: photo,
          version: one.version,
          created_at: new Date(one.createdMs),
          deleted_at: one.deletedMs === null ? null : new Date(one.deletedMs),
        };
      }),
    );
    const before = part.flatMap(({ id, one }) =>
      one.history.map((was) => ({
        reading_id: id,
        version: was.version,
        time_ms: Math.round(was.timeMs),
        reading: stored(was.values, was.note),
        was_deleted: was.wasDeleted,
        changed_at: new Date(was.changedMs),
      })),
    );
    for (let at = 0; at < before.length; at += ROWS)
      await tx("test_run_reading_history").insert(before.slice(at, at + ROWS));
    from += list.length;
  }
}

async function keepImport(
  tx: Knex,
  zip: Unpacker,
  testRunId: string,
  { fileName, createdMs, rows, readings, original }: TestRunEntry["imports"][number],
): Promise<void> {
  const id = uuid();
  await tx("test_run_imports").insert({
    id,
    test_run_id: testRunId,
    file_name: fileName,
    rows,
    whole: true,
    created_at: new Date(createdMs),
  });
  const put = async (part: "readings" | "file", seq: number, own: number, piece: Uint8Array) => {
    const data = await packed(piece);
    await tx("test_run_import_chunks").insert({ import_id: id, part, seq, rows: own, data, bytes: data.length });
  };
  let sum = 0;
  for (const [seq, file] of readings.entries()) {
    const bytes = await zip.read(file);
    const own = rowsOfPacked(bytes);
    if (own === null) throw new NotTaken(say("server.import.noLog", { file }));
    sum += own;
    await put("readings", seq, own, bytes);
    await breathe();
  }
  if (sum !== rows) throw new NotTaken(say("server.import.readings", { fileName, sum, rows }));
  if (original === null) return;
  const bytes = await zip.read(original);
  for (let from = 0, seq = 0; from === 0 || from < bytes.length; from += LARGEST_CHUNK, seq++) {
    await put("file", seq, 0, bytes.subarray(from, from + LARGEST_CHUNK));
    await breathe();
  }
}
