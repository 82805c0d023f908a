/* A job's history, deleted jobs and their way back, erasure, and the night's work. */
import { mkdtempSync, readdirSync, rmSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import type { Knex } from "knex";
import { v4 as uuidV4, v7 as uuid } from "uuid";
import { afterAll, beforeAll, describe, expect, it } from "vitest";
import { packReadings } from "@/core/applications/test-run/log/packed";
import { fromList } from "@/core/applications/test-run/log/readings";
import { usualRequirement } from "@/core/applications/options/target";
import { connect } from "@/server/database";
import { deletedJobs, eraseJob, purgeJobs } from "@/server/erasure";
import { historyOf } from "@/server/job-history";
import { leaseAnew } from "@/server/instruments/leases";
import { createJob, deleteJob, restoreJob, saveJob } from "@/server/jobs";
import { makeLink } from "@/server/links";
import { keepRequirement } from "@/server/options";
import { createWorkshop } from "@/server/people";
import { insertPhoto } from "@/server/pictures/job-photos";
import {
  addPhoto,
  addReadings,
  changeReading,
  closeImport,
  createTestRun,
  openImport,
  putChunk,
} from "@/server/test-runs";
import { nightly } from "../../tools/nightly";
import { jobOf } from "../jobs";
import { AUTHOR, OWNER_ID, ownDatabase, WORKSHOP } from "./own-database";

let db: Knex;
let url = "";
beforeAll(async () => {
  url = await ownDatabase();
  db = connect(url);
});
afterAll(() => db.destroy());

const job = jobOf();
const ANOTHER = { ...AUTHOR, personId: OWNER_ID, name: "Another" };
const linesOf = async (id: string) =>
  (await historyOf(db, id)).map(({ name, what, parts, revision }) => [name, what, parts.join(" "), revision]);

describe("a job's history", () => {
  it("says who made, changed, deleted and brought it back, and which parts differ", async () => {
    const { id } = await createJob(db, AUTHOR, job);
    await saveJob(db, AUTHOR, { id, revision: 1, job: { ...job, name: "Renamed" } });
    await saveJob(db, ANOTHER, {
      id,
      revision: 2,
      job: { ...job, bank: { ...job.bank, frostBlock: !job.bank.frostBlock } },
    });
    await deleteJob(db, ANOTHER, id);
    await restoreJob(db, AUTHOR, id);
    expect(await linesOf(id)).toEqual([
      ["Somebody", "restored", "", null],
      ["Another", "deleted", "", null],
      ["Another", "changed", "name bank", 3],
      ["Somebody", "changed", "name", 2],
      ["Somebody", "made", "", 1],
    ]);
  });
  it("puts saves of one person that follow each other into one line", async () => {
    const { id } = await createJob(db, AUTHOR, job);
    await saveJob(db, AUTHOR, { id, revision: 1, job: { ...job, name: "First" } });
    await saveJob(db, AUTHOR, {
      id,
      revision: 2,
      job: { ...job, name: "First", brief: { ...job.brief, wording: "More" } },
    });
    expect(await linesOf(id)).toEqual([
      ["Somebody", "changed", "name brief", 3],
      ["Somebody", "made", "", 1],
    ]);
  });
  it("has no line of a save that came too late", async () => {
    const { id } = await createJob(db, AUTHOR, job);
    await saveJob(db, AUTHOR, { id, revision: 7, job: { ...job, name: "Late" } });
    expect(await linesOf(id)).toHaveLength(1);
  });
});

/** A job with something in every table that a job can have something in, deleted. */
async function fullJob(): Promise<string> {
  const { id } = await createJob(db, AUTHOR, job);
  await keepRequirement(db, id, usualRequirement(job));
  await makeLink(db, AUTHOR, {
    jobId: id,
    page: { name: "x", revision: 1, date: "2026-07-15", sections: [], map: null } as never,
    days: 30,
  });
  await db("job_revisions").insert({
    id: uuid(),
    job_id: id,
    name: "x",
    promise: "",
    document: "{}",
    summary: "{}",
    created_at: new Date(),
  });
  const run = await createTestRun(db, { jobId: id, name: "Run", kind: "k", startedMs: Date.UTC(2026, 6, 15) });
  const reading = { id: uuid(), timeMs: Date.UTC(2026, 6, 15, 1), values: { battery_current_a: -40 } };
  await addReadings(db, run, [reading]);
  await changeReading(db, run, reading.id, 1, "delete");
  await addPhoto(db, run, uuid(), "image/jpeg", Buffer.from("x"));
  const kept = { type: "image/jpeg", bytes: Buffer.from("x"), small: Buffer.from("x") } as const;
  await insertPhoto(db, id, uuidV4(), { kept, createdAt: new Date() });
  const opened = await openImport(db, run, "log.csv");
  await putChunk(db, run, opened, "readings", 0, packReadings(fromList([reading])));
  await closeImport(db, run, opened, { readings: 1, file: 0, rows: 1 });
  await leaseAnew(db, run, { kind: "file", path: "meter.csv" });
  await deleteJob(db, AUTHOR, id);
  return id;
}

/** How many rows each table has. */
async function rowsOf(): Promise<Record<string, number>> {
  const [tables] = (await db.raw("SHOW TABLES")) as [Record<string, string>[]];
  const counts: Record<string, number> = {};
  for (const table of tables.map((row) => Object.values(row)[0]!))
    counts[table] = Number(((await db(table).count({ all: "*" })) as [{ all: number }])[0].all);
  return counts;
}

describe("erasing a job", () => {
  it("leaves the database as it was before it was made, and no other job's rows", async () => {
    const kept = await fullJob();
    const before = await rowsOf();
    const id = await fullJob();
    const full = await rowsOf();
    // Something in every table that a job can have rows in, so that one which is added later is erased too.
    const other = [
      "attempts",
      "beginning_codes",
      "credentials",
      "invitations",
      "log_mappings",
      "parts",
      "people",
      "places",
      "second_factors",
      "turns",
    ];
    const apart = [...other, "sessions", "verifications", "workshops", "knex_migrations", "knex_migrations_lock"];
    for (const table of Object.keys(full).filter((name) => !apart.includes(name)))
      expect(full[table], table).toBeGreaterThan(before[table]!);
    expect(await eraseJob(db, id)).toBe(true);
    expect(await rowsOf()).toEqual(before);
    expect((await deletedJobs(db, WORKSHOP)).map((one) => one.id)).toContain(kept);
  });
  it("is not done to one that was not deleted first, nor twice", async () => {
    const { id } = await createJob(db, AUTHOR, job);
    expect(await eraseJob(db, id)).toBe(false);
    await deleteJob(db, AUTHOR, id);
    expect([await eraseJob(db, id), await eraseJob(db, id)]).toEqual([true, false]);
  });
});

describe("deleted jobs", () => {
  it("are named with who deleted them, in their own workshop alone", async () => {
    const { id } = await createJob(db, AUTHOR, { ...job, name: "Gone" });
    await deleteJob(db, ANOTHER, id);
    expect((await deletedJobs(db, WORKSHOP))[0]).toMatchObject({ id, name: "Gone", by: "Another" });
    expect(await deletedJobs(db, await createWorkshop(db, "Other"))).toEqual([]);
  });
  it("are erased after thirty days and not before", async () => {
    await db("jobs").whereNotNull("deleted_at").delete();
    const ids = [await fullJob(), await fullJob()];
    for (const [i, days] of [29, 31].entries())
      await db("jobs")
        .where({ id: ids[i] })
        .update({ deleted_at: new Date(Date.now() - days * 86_400_000) });
    expect(await purgeJobs(db)).toBe(1);
    expect((await deletedJobs(db, WORKSHOP)).map(({ id }) => id)).toEqual([ids[0]]);
  });
});

describe("the night's work", () => {
  it("writes a backup, keeps fourteen nights, and is done by one of two servers", async () => {
    const folder = mkdtempSync(join(tmpdir(), "chillbank-nights-"));
    try {
      for (let day = 10; day < 26; day++) writeFileSync(join(folder, `chillbank-2026-01-${day}.backup`), "");
      writeFileSync(join(folder, "mine.txt"), "");
      const said = await Promise.all([nightly(url, folder), nightly(url, folder)]);
      expect(said.filter((line) => line.includes("backup in"))).toHaveLength(1);
      const files = readdirSync(folder);
      expect(files).toContain("mine.txt");
      expect(files.filter((name) => name.endsWith(".backup"))).toHaveLength(14);
      expect(files).not.toContain("chillbank-2026-01-12.backup");
    } finally {
      rmSync(folder, { recursive: true });
    }
  });
});
