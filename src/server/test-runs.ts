import { createHash } from "node:crypto";
import type { Knex } from "knex";
import { v7 as uuid } from "uuid";
import {
  COLUMN_LIMITS,
  COLUMNS,
  fromList,
  type Reading,
  type Readings,
} from "../core/applications/test-run/log/readings";
import { joinReadings, unpackReadings } from "../core/applications/test-run/log/packed";
import type { Mapping } from "../core/applications/test-run/log/recognise";
import type {
  ForecastSnapshot,
  ListedTestRun,
  Outcome,
  SentReading,
  Source,
  TestRunChange,
} from "@/contract/test-runs";
import type { RunConditions } from "@/core/applications/test-run/site/conditions";
import { EARLIEST_MS, LATEST_MS } from "@/contract/common";
import { beginningOf } from "@/core/units/text";
import { say } from "@/core/messages/say";
import { transaction } from "./database";
import { packed, unpacked } from "./packing";
import { parsed } from "./json-column";
import { needRoomFor } from "./quotas";
import { Refusal } from "./refusal";

export interface TestRunRow {
  id: string;
  job_id: string;
  name: string;
  kind: string;
  started_at: Date;
  finished_at: Date | null;
  source: unknown;
  truth: unknown;
  snapshots: unknown;
  outcome: unknown;
  conditions: unknown;
  /** How many readings it has: rows that were not deleted, and those of whole imports. */
  readings: number;
  created_at: Date;
  updated_at: Date;
}

const listed = (row: TestRunRow): ListedTestRun => ({
  id: row.id,
  jobId: row.job_id,
  name: row.name,
  kind: row.kind,
  startedMs: row.started_at.getTime(),
  finishedMs: row.finished_at?.getTime() ?? null,
  source: parsed(row.source) as Source | null,
  truth: row.finished_at ? (parsed(row.truth) as ListedTestRun["truth"]) : null,
  snapshots: parsed(row.snapshots) as ForecastSnapshot[],
  outcome: parsed(row.outcome) as Outcome | null,
  conditions: parsed(row.conditions) as RunConditions | null,
  readings: row.readings,
});

const newestRuns = (db: Knex) =>
  db<TestRunRow>("test_runs").whereNull("test_runs.deleted_at").orderBy("started_at", "desc").limit(500);

/** Test runs of a job, the newest first. */
export async function listTestRuns(db: Knex, jobId: string): Promise<ListedTestRun[]> {
  const rows: TestRunRow[] = await newestRuns(db).where({ job_id: jobId });
  return rows.map(listed);
}

/** Test runs of a workshop, the newest first. */
export async function testRunsOfWorkshop(db: Knex, workshopId: string): Promise<ListedTestRun[]> {
  const jobs = db("jobs").where({ workshop_id: workshopId }).select("id");
  const rows: TestRunRow[] = await newestRuns(db).whereIn("job_id", jobs);
  return rows.map(listed);
}

export async function getTestRun(db: Knex, id: string): Promise<ListedTestRun | null> {
  const row = await db<TestRunRow>("test_runs").where({ id }).whereNull("deleted_at").first();
  return row ? listed(row) : null;
}

export interface NewTestRun {
  id?: string | undefined;
  jobId: string;
  name: string;
  /** Kind of system, for the workshop's record: "fixed lfp". */
  kind: string;
  startedMs: number;
  source?: Source | null;
  truth?: unknown;
  conditions?: RunConditions | null | undefined;
}

/** Makes a test run; a second call with the same id changes nothing. Returns its id. An id of another job's run is refused. */
export async function createTestRun(db: Knex, testRun: NewTestRun, now = new Date()): Promise<string> {
  const id = testRun.id ?? uuid();
  // One that is sent again is there already, and needs no room.
  if (!(await db("test_runs").where({ id }).first("id"))) await needRoomFor(db, { jobId: testRun.jobId }, "readings");
  await db("test_runs")
    .insert({
      id,
      job_id: testRun.jobId,
      name: testRun.name,
      kind: testRun.kind,
      started_at: new Date(testRun.startedMs),
      finished_at: null,
      source: testRun.source ? JSON.stringify(testRun.source) : null,
      truth: testRun.truth ? JSON.stringify(testRun.truth) : null,
      snapshots: "[]",
      outcome: null,
      conditions: testRun.conditions ? JSON.stringify(testRun.conditions) : null,
      created_at: now,
      updated_at: now,
    })
    .onConflict("id")
    .merge(["id"]);
  const { job_id } = (await db("test_runs").where({ id }).first("job_id")) as { job_id: string };
  if (job_id !== testRun.jobId) throw new Refusal(409, say("server.testRun.otherJob"));
  return id;
}

export async function changeTestRun(db: Knex, id: string, change: TestRunChange, now = new Date()): Promise<boolean> {
  const { name, finished, snapshots, outcome, conditions } = change;
  const touched = await db("test_runs")
    .where({ id })
    .whereNull("deleted_at")
    .update({
      updated_at: now,
      ...(name === undefined ? {} : { name }),
      ...(finished === undefined ? {} : { finished_at: finished ? now : null }),
      ...(snapshots === undefined ? {} : { snapshots: JSON.stringify(snapshots) }),
      ...(outcome === undefined ? {} : { outcome: outcome && JSON.stringify(outcome) }),
      ...(conditions === undefined ? {} : { conditions: JSON.stringify(conditions) }),
    });
  return touched === 1;
}

/** Notes where a test run's instrument comes from, and what it hides; without one the truth stays for its end. */
export async function setSource(db: Knex, id: string, source: Source | null, truth?: unknown): Promise<void> {
  await db("test_runs")
    .where({ id })
    .update({ source: source && JSON.stringify(source), ...(truth ? { truth: JSON.stringify(truth) } : {}) });
}

export async function deleteTestRun(db: Knex, id: string): Promise<boolean> {
  return (await db("test_runs").where({ id }).whereNull("deleted_at").update({ deleted_at: new Date() })) === 1;
}
export async function restoreTestRun(db: Knex, id: string): Promise<boolean> {
  return (await db("test_runs").where({ id }).whereNotNull("deleted_at").update({ deleted_at: null })) === 1;
}

/** Clocks of phones and of this server differ by so much, ms. */
const LATE_MS = 10 * 60_000;

type StoredValues = { values: Reading["values"]; note?: string | undefined };
interface ReadingRow {
  id: string;
  test_run_id: string;
  time_ms: number | string;
  reading: unknown;
  photo_id: string | null;
  version: number;
  deleted_at: Date | null;
}

/**
 * Keeps readings, all of a call or none; those whose id is there already are passed over. Returns how many were new, and the ids
 * of those of a time after the run was finished, which are left out. An id of another run's reading is refused, and so is a call
 * of which all would be left out: none would be stored as it was sent. So are an instrument's whose start (`startId`) is not the
 * run's present one.
 */
export async function keepReadings(
  db: Knex,
  testRunId: string,
  sent: readonly SentReading[],
  startId?: string,
): Promise<{ added: number; late: string[] }> {
  if (sent.length === 0) return { added: 0, late: [] };
  return transaction(db, async (tx) => {
    // Counted as if all were new: the count holds the run's row until the end, and asks at once whether it takes them.
    const count = (some: readonly SentReading[]) => {
      const lastMs = some.reduce((last, { timeMs }) => Math.max(last, timeMs), -Infinity);
      return tx("test_runs")
        .where({ id: testRunId })
        .whereNull("deleted_at")
        .andWhere((open) =>
          open.whereNull("finished_at").orWhere("finished_at", ">=", new Date(Math.ceil(lastMs - LATE_MS))),
        )
        .increment("readings", some.length);
    };
    let readings = sent;
    if ((await count(sent)) === 0) {
      readings = await inTime(tx, testRunId, sent);
      await count(readings);
    }
    if (startId !== undefined) {
      const lease = await tx("instrument_leases")
        .where({ test_run_id: testRunId, start_id: startId })
        .first("start_id");
      if (!lease) throw new Refusal(409, say("server.instrument.startedAnew"));
    }
    let added = 0;
    for (let from = 0; from < readings.length; from += 500)
      added += await addPart(tx, testRunId, readings.slice(from, from + 500));
    if (added < readings.length)
      await tx("test_runs")
        .where({ id: testRunId })
        .decrement("readings", readings.length - added);
    const kept = new Set(readings);
    return { added, late: sent.filter((one) => !kept.has(one)).map(({ id }) => id) };
  });
}

/** Keeps readings as `keepReadings` does; returns how many were new. */
export const addReadings = async (...call: Parameters<typeof keepReadings>): Promise<number> =>
  (await keepReadings(...call)).added;

/** Those readings of a call that were made before the run was finished, held. Throws a refusal where there is none. */
async function inTime(tx: Knex, testRunId: string, sent: readonly SentReading[]): Promise<SentReading[]> {
  const run = (await tx("test_runs")
    .where({ id: testRunId })
    .whereNull("deleted_at")
    .forUpdate()
    .first("finished_at")) as { finished_at: Date | null } | undefined;
  if (!run) throw new Refusal(404, say("server.testRun.gone"));
  const endMs = (run.finished_at?.getTime() ?? Infinity) + LATE_MS;
  const readings = sent.filter(({ timeMs }) => Math.ceil(timeMs) <= endMs);
  if (readings.length === 0) throw new Refusal(409, say("server.testRun.finished"));
  return readings;
}

/** Keeps some readings of a run, each once; returns how many were not there. */
async function addPart(tx: Knex, testRunId: string, readings: readonly SentReading[]): Promise<number> {
  const rows = readings.map(({ id, timeMs, values, note, photoId }) => ({
    id,
    test_run_id: testRunId,
    time_ms: Math.round(timeMs),
    reading: JSON.stringify({ values, ...(note ? { note } : {}) }),
    photo_id: photoId ?? null,
    // The database's, once the run is this one's alone: so the times are in the order of what is stored.
    created_at: tx.raw("NOW(3)"),
  }));
  // Nearly always they are new: only where one is there already are the others told from it.
  try {
    await tx("test_run_readings").insert(rows);
    return rows.length;
  } catch (error) {
    if ((error as { code?: string }).code !== "ER_DUP_ENTRY") throw error;
  }
  const there: { test_run_id: string }[] = await tx("test_run_readings")
    .whereIn(
      "id",
      rows.map(({ id }) => id),
    )
    .select("test_run_id");
  if (there.some(({ test_run_id }) => test_run_id !== testRunId))
    throw new Refusal(409, say("server.reading.otherRun"));
  // Not "ignore": that would let a value that does not fit in as another one.
  await tx("test_run_readings").insert(rows).onConflict("id").merge(["id"]);
  return rows.length - there.length;
}

export interface HandReading {
  id: string;
  timeMs: number;
  values: Reading["values"];
  note: string | null;
  photoId: string | null;
  version: number;
  deleted: boolean;
}

const handReading = (row: ReadingRow): HandReading => {
  const { values, note } = parsed(row.reading) as StoredValues;
  return {
    id: row.id,
    timeMs: Number(row.time_ms),
    values,
    note: note ?? null,
    photoId: row.photo_id,
    version: row.version,
    deleted: row.deleted_at !== null,
  };
};

/** The last readings that are rows, newest first; deleted ones too where asked. */
export async function lastReadings(
  db: Knex,
  testRunId: string,
  limit: number,
  deleted = false,
): Promise<HandReading[]> {
  const query = db<ReadingRow>("test_run_readings")
    .where({ test_run_id: testRunId })
    .orderBy("time_ms", "desc")
    .limit(limit);
  if (!deleted) void query.whereNull("deleted_at");
  return (await query).map(handReading);
}

/** Whether a reading of that id is stored. */
export async function isStored(db: Knex, id: string): Promise<boolean> {
  return (await db("test_run_readings").where({ id }).first("id")) !== undefined;
}

/** When the last reading of a test run was stored; null where none was. */
export async function lastStored(db: Knex, testRunId: string): Promise<Date | null> {
  const row = (await db("test_run_readings").where({ test_run_id: testRunId }).max({ last: "created_at" }).first()) as {
    last: Date | null;
  };
  return row.last;
}

export interface StoredRow {
  id: string;
  storedMs: number;
  reading: Reading;
}

/** Readings of a test run in the order they were stored, from a moment on, whatever times they are of. */
export async function readingsStoredSince(
  db: Knex,
  testRunId: string,
  since: Date,
  limit: number,
): Promise<StoredRow[]> {
  const rows: (ReadingRow & { created_at: Date })[] = await db("test_run_readings")
    .where({ test_run_id: testRunId })
    .where("created_at", ">=", since)
    .whereNull("deleted_at")
    .orderBy(["created_at", "time_ms"])
    .limit(limit);
  return rows.map((row) => {
    const { timeMs, values, note } = handReading(row);
    return {
      id: row.id,
      storedMs: row.created_at.getTime(),
      reading: { timeMs, values, ...(note ? { note } : {}) },
    };
  });
}

export type ChangedReading =
  | { outcome: "changed"; version: number }
  | { outcome: "missing" }
  | { outcome: "changed-elsewhere" };

/** Corrects or deletes a reading over the version it was read at; what stood there goes into its history. */
export async function changeReading(
  db: Knex,
  testRunId: string,
  id: string,
  version: number,
  change: { timeMs: number; values: Reading["values"]; note?: string | undefined } | "delete" | "restore",
): Promise<ChangedReading> {
  return transaction(db, async (tx) => {
    const row = await tx<ReadingRow>("test_run_readings").where({ id, test_run_id: testRunId }).forUpdate().first();
    if (!row) return { outcome: "missing" };
    if (row.version !== version) return { outcome: "changed-elsewhere" };
    const now = new Date();
    await tx("test_run_reading_history").insert({
      reading_id: id,
      version,
      time_ms: row.time_ms,
      reading: JSON.stringify(parsed(row.reading)),
      was_deleted: row.deleted_at !== null,
      changed_at: now,
    });
    await tx("test_run_readings")
      .where({ id })
      .update({
        version: version + 1,
        ...(change === "delete"
          ? { deleted_at: now }
          : change === "restore"
            ? { deleted_at: null }
            : {
                time_ms: Math.round(change.timeMs),
                reading: JSON.stringify({ values: change.values, ...(change.note ? { note: change.note } : {}) }),
              }),
      });
    const was = row.deleted_at === null ? 1 : 0;
    const is = change === "delete" ? 0 : change === "restore" ? 1 : was;
    if (is !== was)
      await tx("test_runs")
        .where({ id: testRunId })
        .increment("readings", is - was);
    return { outcome: "changed", version: version + 1 };
  });
}

export interface ReadingVersion {
  version: number;
  timeMs: number;
  values: Reading["values"];
  note: string | null;
  deleted: boolean;
  changedMs: number;
}

/** What a reading was before each of its corrections, the oldest first. */
export async function readingHistory(db: Knex, testRunId: string, id: string): Promise<ReadingVersion[] | null> {
  const own = await db("test_run_readings").where({ id, test_run_id: testRunId }).first("id");
  if (!own) return null;
  const rows: { version: number; time_ms: number; reading: unknown; was_deleted: number; changed_at: Date }[] =
    await db("test_run_reading_history").where({ reading_id: id }).orderBy("version");
  return rows.map((row) => {
    const { values, note } = parsed(row.reading) as StoredValues;
    return {
      version: row.version,
      timeMs: Number(row.time_ms),
      values,
      note: note ?? null,
      deleted: Boolean(row.was_deleted),
      changedMs: row.changed_at.getTime(),
    };
  });
}

/** The whole log of a test run: imports that are whole, and the rows; unsorted, as the repair expects it. */
export async function logOfTestRun(db: Knex, testRunId: string): Promise<Readings> {
  const parts: Readings[] = [];
  const imports: { id: string }[] = await db("test_run_imports")
    .where({ test_run_id: testRunId, whole: true })
    .select("id")
    .orderBy("created_at");
  for (const { id } of imports) {
    const chunks: { data: Buffer }[] = await db("test_run_import_chunks")
      .where({ import_id: id, part: "readings" })
      .orderBy("seq")
      .select("data");
    for (const { data } of chunks) {
      const readings = unpackReadings(await unpacked(data));
      if (readings) parts.push(readings);
    }
  }
  const rows: ReadingRow[] = await db<ReadingRow>("test_run_readings")
    .where({ test_run_id: testRunId })
    .whereNull("deleted_at")
    .orderBy("time_ms");
  parts.push(
    fromList(
      rows.map((row) => {
        const { timeMs, values, note } = handReading(row);
        return { timeMs, values, ...(note ? { note } : {}) };
      }),
    ),
  );
  return joinReadings(parts);
}

/** Largest chunk, bytes: of packed readings, and of the original file. */
export const LARGEST_CHUNK = 6 * 1024 * 1024;

export async function openImport(db: Knex, testRunId: string, fileName: string): Promise<string> {
  await needRoomFor(db, { testRunId }, "readings");
  await needRoomFor(db, { testRunId }, "bytes");
  const id = uuid();
  await db("test_run_imports").insert({
    id,
    test_run_id: testRunId,
    file_name: beginningOf(fileName, 200),
    created_at: new Date(),
  });
  return id;
}

/** How many readings some packed bytes hold; null where they are none, or hold what no instrument shows. */
export function rowsOfPacked(bytes: Uint8Array): number | null {
  const readings = unpackReadings(bytes);
  if (!readings) return null;
  for (const t of readings.timeMs) if (!(t >= EARLIEST_MS && t <= LATEST_MS)) return null;
  for (const column of COLUMNS) {
    const [low, high] = COLUMN_LIMITS[column];
    // What was not read is NaN, which is neither below nor above.
    for (const value of readings.values[column]) if (value < low - 1e-3 || value > high + 1e-3) return null;
  }
  return readings.timeMs.length;
}

const PIECES_BY_QUOTA = 16;

/** Keeps one chunk; sent twice it is kept once. Returns false where there is no open import of that id, or it is no log. */
export async function putChunk(
  db: Knex,
  testRunId: string,
  importId: string,
  part: "readings" | "file",
  seq: number,
  bytes: Uint8Array,
): Promise<"kept" | "missing" | "broken"> {
  const open = await db("test_run_imports").where({ id: importId, test_run_id: testRunId, whole: false }).first("id");
  if (!open) return "missing";
  const rows = part === "readings" ? rowsOfPacked(bytes) : 0;
  if (rows === null) return "broken";
  const data = await packed(bytes);
  // Asked at some of the pieces only: it adds up all that the workshop keeps.
  if (seq % PIECES_BY_QUOTA === PIECES_BY_QUOTA - 1) await needRoomFor(db, { testRunId }, "bytes", data.length);
  await db("test_run_import_chunks")
    .insert({ import_id: importId, part, seq, rows, data, bytes: data.length })
    .onConflict(["import_id", "part", "seq"])
    .merge();
  return "kept";
}

/** Makes an import part of its test run, at once and only where every chunk of it is there. */
export async function closeImport(
  db: Knex,
  testRunId: string,
  importId: string,
  expected: { readings: number; file: number; rows: number },
): Promise<{ outcome: "whole"; rows: number } | { outcome: "missing" } | { outcome: "incomplete"; message: string }> {
  return transaction(db, async (tx) => {
    const open = await tx("test_run_imports")
      .where({ id: importId, test_run_id: testRunId })
      .forUpdate()
      .first("id", "whole", "rows");
    if (!open) return { outcome: "missing" as const };
    if ((open as { whole: number }).whole)
      return { outcome: "whole" as const, rows: Number((open as { rows: number }).rows) };
    const found = (await tx("test_run_import_chunks")
      .where({ import_id: importId })
      .groupBy("part")
      .select("part")
      .count({ n: "*" })
      .max({ last: "seq" })
      .sum({ rows: "rows" })) as unknown as { part: string; n: number; last: number; rows: number }[];
    for (const part of ["readings", "file"] as const) {
      const own = found.find((one) => one.part === part);
      const n = Number(own?.n ?? 0);
      if (n !== expected[part] || (n > 0 && Number(own!.last) !== n - 1))
        return { outcome: "incomplete" as const, message: `${n} of ${expected[part]} pieces of the ${part} are there` };
    }
    const rows = Number(found.find(({ part }) => part === "readings")?.rows ?? 0);
    if (rows !== expected.rows)
      return { outcome: "incomplete" as const, message: `${rows} of ${expected.rows} readings are there` };
    await tx("test_run_imports").where({ id: importId }).update({ whole: true, rows });
    await tx("test_runs").where({ id: testRunId }).increment("readings", rows);
    return { outcome: "whole" as const, rows };
  });
}

/** Takes an import back out, open or whole. */
export async function dropImport(db: Knex, testRunId: string, importId: string): Promise<boolean> {
  return transaction(db, async (tx) => {
    const own = tx("test_run_imports").where({ id: importId, test_run_id: testRunId });
    const found = (await own.clone().forUpdate().first("whole", "rows")) as { whole: number; rows: number } | undefined;
    if (!found) return false;
    await own.delete();
    if (found.whole) await tx("test_runs").where({ id: testRunId }).decrement("readings", Number(found.rows));
    await tx("test_run_import_chunks").where({ import_id: importId }).delete();
    return true;
  });
}

export async function listImports(
  db: Knex,
  testRunId: string,
): Promise<{ id: string; fileName: string; rows: number; createdMs: number }[]> {
  const rows: { id: string; file_name: string; rows: number; created_at: Date }[] = await db("test_run_imports")
    .where({ test_run_id: testRunId, whole: true })
    .orderBy("created_at");
  return rows.map((row) => ({
    id: row.id,
    fileName: row.file_name,
    rows: row.rows,
    createdMs: row.created_at.getTime(),
  }));
}

/** The original file of an import, as it was dropped in. */
export async function originalFile(
  db: Knex,
  testRunId: string,
  importId: string,
): Promise<{ name: string; bytes: Buffer } | null> {
  const own = (await db("test_run_imports")
    .where({ id: importId, test_run_id: testRunId, whole: true })
    .first("file_name")) as { file_name: string } | undefined;
  if (!own) return null;
  const chunks: { data: Buffer }[] = await db("test_run_import_chunks")
    .where({ import_id: importId, part: "file" })
    .orderBy("seq")
    .select("data");
  return { name: own.file_name, bytes: Buffer.concat(await Promise.all(chunks.map(({ data }) => unpacked(data)))) };
}

/** Sweeps imports that were begun and never finished, a day after. */
export async function sweepImports(db: Knex, before = new Date(Date.now() - 86_400_000)): Promise<number> {
  const stale: { id: string }[] = await db("test_run_imports")
    .where({ whole: false })
    .where("created_at", "<", before)
    .select("id");
  const ids = stale.map(({ id }) => id);
  if (ids.length === 0) return 0;
  await db("test_run_import_chunks").whereIn("import_id", ids).delete();
  return db("test_run_imports").whereIn("id", ids).delete();
}

const hashOf = (header: string) => createHash("sha256").update(header).digest("hex");

/** The mapping that was last used for a header line, or null. */
export async function keptMapping(db: Knex, workshopId: string, header: string): Promise<Mapping | null> {
  const row = (await db("log_mappings")
    .where({ workshop_id: workshopId, header_hash: hashOf(header) })
    .first("mapping")) as { mapping: unknown } | undefined;
  return row ? (parsed(row.mapping) as Mapping) : null;
}

export async function keepMapping(
  db: Knex,
  workshopId: string,
  { header, mapping }: { header: string; mapping: Mapping },
): Promise<void> {
  await db("log_mappings")
    .insert({
      workshop_id: workshopId,
      header_hash: hashOf(header),
      mapping: JSON.stringify(mapping),
      used_at: new Date(),
    })
    .onConflict(["workshop_id", "header_hash"])
    .merge();
}

export const PHOTO_TYPES = ["image/jpeg", "image/png", "image/webp"] as const;

/** Keeps a photo; its id is the sender's, so that it is kept once. An id of another run's photo is refused. */
export async function addPhoto(
  db: Knex,
  testRunId: string,
  id: string,
  type: string,
  bytes: Uint8Array,
): Promise<void> {
  // One that is sent again is there already, and needs no room.
  if (!(await db("test_run_photos").where({ id }).first("id")))
    await needRoomFor(db, { testRunId }, "bytes", bytes.length);
  await db("test_run_photos")
    .insert({ id, test_run_id: testRunId, type, data: Buffer.from(bytes), bytes: bytes.length, created_at: new Date() })
    .onConflict("id")
    .merge(["id"]);
  const { test_run_id } = (await db("test_run_photos").where({ id }).first("test_run_id")) as { test_run_id: string };
  if (test_run_id !== testRunId) throw new Refusal(409, say("server.id.taken"));
}

export async function getPhoto(
  db: Knex,
  testRunId: string,
  id: string,
): Promise<{ type: string; bytes: Buffer } | null> {
  const row = (await db("test_run_photos").where({ id, test_run_id: testRunId }).first("type", "data")) as
    | { type: string; data: Buffer }
    | undefined;
  return row ? { type: row.type, bytes: row.data } : null;
}
