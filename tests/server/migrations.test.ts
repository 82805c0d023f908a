import { mkdtempSync, readdirSync, readFileSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { basename, join } from "node:path";
import type { Knex } from "knex";
import { afterAll, beforeAll, describe, expect, it } from "vitest";
import { migrationSource } from "../../db/migrations";
import { connect } from "@/server/database";
import { getJob, listJobs } from "@/server/jobs";
import { allParts } from "@/server/parts";
import { begin, beginningCode } from "@/server/people";
import { lastReadings, listTestRuns } from "@/server/test-runs";
import { restore } from "../../tools/restore";
import { lastBeforeUpgrade, rollback } from "../../tools/rollback";
import { migrate } from "../../tools/schema";
import { asVersion7, demoJob } from "../jobs";
import { everything, ownDatabase } from "./own-database";

const JOB = "0190c0de-0000-7000-8000-000000000001";
const RUN = "0190c0de-0000-7000-8000-000000000002";
const READING = "0190c0de-0000-7000-8000-000000000003";
const SOURCE = { kind: "simulator", seed: 1, faults: [], every: 10, speed: 60 };
const at = new Date(1_700_000_000_000);

let db: Knex;
let url = "";
const document = demoJob("1-folio");

/** A database as it stood before the tables took the names of the screens. */
async function before(): Promise<void> {
  while (await db.schema.hasTable("jobs")) await db.migrate.down({ migrationSource });
  for (const table of ["trial_readings", "trials", "rigs"]) await db(table).delete();
  const summary = JSON.stringify(null);
  const stamps = { created_at: at, updated_at: at };
  await db("rigs").insert({
    id: JOB,
    revision: 3,
    name: document.name,
    document: JSON.stringify({ ...asVersion7(document), format: "chillbank-rig", version: 6 }),
    summary,
    core_version: 0,
    search_text: "",
    ...stamps,
  });
  await db("trials").insert({
    id: RUN,
    rig_id: JOB,
    name: "Saturday",
    kind: "",
    started_at: at,
    promises: "[]",
    source: JSON.stringify({ ...SOURCE, kind: "stand-in" }),
    ...stamps,
  });
  const reading = JSON.stringify({ values: { battery_current_a: -41 }, note: null });
  await db("trial_readings").insert({ id: READING, trial_id: RUN, time_ms: Number(at), reading, created_at: at });
}

beforeAll(async () => {
  url = await ownDatabase();
  db = connect(url);
  await before();
});
afterAll(() => db.destroy());

describe("an upgrade", () => {
  const folder = mkdtempSync(join(tmpdir(), "chillbank-upgrade-"));
  it("writes what was there first, which comes back as it was; and nothing where nothing changes", async () => {
    const file = (await migrate(url, { backups: folder }))!;
    expect(readdirSync(folder)).toEqual([basename(file)]);
    expect(await migrate(url, { backups: folder })).toBeNull();
    const back = await ownDatabase();
    await restore(back, file);
    const old = connect(back);
    expect(await old("rigs").select("id", "revision", "name")).toEqual([{ id: JOB, revision: 3, name: document.name }]);
    expect(await old.schema.hasTable("jobs")).toBe(false);
    await old.destroy();
    await before();
  });
  it("is gone back on: every row is as it was, and what was recorded since is kept in a backup", async () => {
    const first = await everything(url);
    const file = (await migrate(url, { backups: folder }))!;
    expect((await getJob(db, JOB))!.job).toEqual(document);
    await db("jobs").where({ id: JOB }).update({ name: "Renamed since" });
    const since = await everything(url);
    await expect(rollback(url, { file, folder })).rejects.toThrow(/stop every server/);
    await db.destroy();
    expect(lastBeforeUpgrade(folder)).toBe(file);
    const saved = await rollback(url, { file, folder });
    expect(await everything(url)).toEqual(first);
    const again = await ownDatabase();
    await restore(again, saved);
    expect(await everything(again)).toEqual(since);
    db = connect(url);
    await migrate(url);
    expect((await getJob(db, JOB))!.job).toEqual(document);
    await before();
  });
  it("is not gone back on by a backup that is damaged: what stands there stays", async () => {
    const file = (await migrate(url, { backups: folder }))!;
    const since = await everything(url);
    writeFileSync(file, readFileSync(file).subarray(0, -5));
    await db.destroy();
    await expect(rollback(url, { file, folder })).rejects.toThrow(/cut off/);
    expect(await everything(url)).toEqual(since);
    db = connect(url);
    await before();
  });
  it("changes nothing where the backup cannot be written", async () => {
    const file = join(folder, "no-folder");
    writeFileSync(file, "");
    await expect(migrate(url, { backups: file })).rejects.toThrow();
    expect(await db.schema.hasTable("jobs")).toBe(false);
  });
});

describe("a database of before the tables were renamed", () => {
  it("keeps its jobs, their test runs and readings, and may be brought up to date twice", async () => {
    await db.migrate.latest({ migrationSource });
    await db.migrate.latest({ migrationSource });
    expect(await getJob(db, JOB)).toMatchObject({ revision: 3, job: demoJob("1-folio") });
    expect(await listTestRuns(db, JOB)).toMatchObject([{ name: "Saturday", source: SOURCE, snapshots: [] }]);
    expect((await lastReadings(db, RUN, 10)).map(({ values }) => values)).toEqual([{ battery_current_a: -41 }]);
  });
  it("is brought up to date once where three servers start together", async () => {
    await before();
    await Promise.all([migrate(url), migrate(url), migrate(url)]);
    expect((await listTestRuns(db, JOB)).map(({ name }) => name)).toEqual(["Saturday"]);
  });
  it("is brought up to date though a server that was killed left its mark", async () => {
    await db("knex_migrations_lock").update({ is_locked: 1 });
    await migrate(url);
    expect(await db("knex_migrations_lock").first("is_locked")).toEqual({ is_locked: 0 });
  });
  it("gives its jobs and shelf to one workshop, which whoever begins takes over", async () => {
    await before();
    await migrate(url);
    const workshops = (await db("workshops").select("id", "name")) as { id: string; name: string }[];
    expect(workshops).toHaveLength(1);
    expect((await listJobs(db, workshops[0]!.id, { query: "", page: 1 })).total).toBe(1);
    expect((await allParts(db, workshops[0]!.id)).length).toBeGreaterThan(20);
    const code = await beginningCode(db);
    await begin(db, {
      code,
      workshop: "Tern Lane",
      name: "A",
      email: "a@tests.invalid",
      password: "a long enough one",
    });
    expect(await db("workshops").select("id", "name")).toEqual([{ id: workshops[0]!.id, name: "Tern Lane" }]);
  });
  it("is brought up to date by a second start where a first was cut short half way", async () => {
    await db("knex_migrations").where({ name: "007_vocabulary" }).delete();
    await db.raw("RENAME TABLE test_run_photos TO trial_photos");
    await db.raw("ALTER TABLE test_runs RENAME COLUMN job_id TO rig_id");
    await db.migrate.latest({ migrationSource });
    expect(await db.schema.hasTable("trial_photos")).toBe(false);
    expect(await listTestRuns(db, JOB)).toHaveLength(1);
  });
});
