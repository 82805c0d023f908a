/* What a workshop may keep on a server that it shares: counted as it stands, and refused with the reason where it is full. */
import { afterAll, afterEach, beforeEach, describe, expect, it } from "vitest";
import { emptyEntry } from "@/core/applications/parts/shelf";
import { packReadings } from "@/core/applications/test-run/log/packed";
import { fromList } from "@/core/applications/test-run/log/readings";
import { emptyJob } from "@/core/document/schema";
import { connect } from "@/server/database";
import { eraseJob } from "@/server/erasure";
import { importJob } from "@/server/job-import";
import { createJob, deleteJob, duplicateJob } from "@/server/jobs";
import { createPart, importParts } from "@/server/parts";
import { createPerson, createWorkshop, invite, join } from "@/server/people";
import { mostOf, useOf } from "@/server/quotas";
import { addPhoto, closeImport, createTestRun, openImport, putChunk } from "@/server/test-runs";
import { ownDatabase } from "./own-database";

const T0 = Date.UTC(2026, 6, 15, 12);
const db = connect(await ownDatabase());
afterAll(() => db.destroy());

let author = { workshopId: "", personId: null as string | null, name: "Somebody" };
/** A workshop of each test's own, that keeps nothing but its shelf. */
beforeEach(async () => {
  author = { ...author, workshopId: await createWorkshop(db, "Quotas") };
});
afterEach(() => {
  for (const name of Object.keys(process.env)) if (name.startsWith("CHILLBANK_MOST_")) delete process.env[name];
});

const job = async () => (await createJob(db, author, emptyJob("Job"))).id;
const runOf = async (jobId: string) => createTestRun(db, { jobId, name: "Run", kind: "k", startedMs: T0 });
const newPerson = (n: number) => ({ name: `P${n}`, email: `p${n}@quotas.invalid`, password: "a long enough password" });
const log = packReadings(fromList(Array.from({ length: 50 }, (_, i) => ({ timeMs: T0 + i * 1000, values: {} }))));

describe("what a workshop keeps", () => {
  it("is counted: jobs with the deleted ones, people, readings, and bytes of photos and logs", async () => {
    const id = await job();
    await deleteJob(db, author, await job());
    const run = await runOf(id);
    await addPhoto(db, run, crypto.randomUUID(), "image/jpeg", new Uint8Array(1000));
    const kept = await openImport(db, run, "log.csv");
    await putChunk(db, run, kept, "readings", 0, log);
    await closeImport(db, run, kept, { readings: 1, file: 0, rows: 50 });
    const use = await useOf(db, author.workshopId);
    expect(use.jobs).toEqual({ now: 2, most: 20_000 });
    expect(use.readings.now).toBe(50);
    const [{ bytes }] = (await db("test_run_import_chunks").where({ import_id: kept }).select("bytes")) as [
      { bytes: number },
    ];
    expect(use.bytes.now).toBe(1000 + bytes);
    expect(bytes).toBeGreaterThan(100);
  });
  it("is no other workshop's", async () => {
    await runOf(await job());
    const other = await createWorkshop(db, "Other");
    const { jobs, people, readings, bytes } = await useOf(db, other);
    expect([jobs.now, people.now, readings.now, bytes.now]).toEqual([0, 0, 0, 0]);
  });
});

describe("a workshop that is full", () => {
  it("makes, copies and imports no job until one is erased", async () => {
    process.env.CHILLBANK_MOST_JOBS = "2";
    const first = await job();
    await job();
    const full = { status: 403, message: expect.stringContaining("as many jobs as this server allows it: 2.") };
    await expect(job()).rejects.toMatchObject(full);
    await expect(duplicateJob(db, author, first)).rejects.toMatchObject(full);
    await expect(importJob(db, author, new Uint8Array(10))).rejects.toMatchObject(full);
    await deleteJob(db, author, first);
    await expect(job()).rejects.toMatchObject(full);
    await eraseJob(db, first);
    await job();
  });
  it("takes no part more, and of a list none", async () => {
    const { parts } = await useOf(db, author.workshopId);
    process.env.CHILLBANK_MOST_PARTS = String(parts.now + 1);
    await expect(
      importParts(
        db,
        author.workshopId,
        [1, 2].map((n) => emptyEntry("fuse", `F${n}`)),
      ),
    ).rejects.toThrow(/as many parts/);
    await createPart(db, author.workshopId, emptyEntry("fuse", "F1"));
    await expect(createPart(db, author.workshopId, emptyEntry("fuse", "F2"))).rejects.toThrow(/as many parts/);
    // What is there already is changed all the same.
    await importParts(db, author.workshopId, [{ ...emptyEntry("fuse", "F1"), values: { rating: 60 } }]);
    expect((await useOf(db, author.workshopId)).parts.now).toBe(parts.now + 1);
  });
  it("invites nobody more than could join", async () => {
    process.env.CHILLBANK_MOST_PEOPLE = "2";
    const owner = { ...newPerson(1), role: "owner" as const };
    await createPerson(db, author.workshopId, owner);
    const { id } = (await db("people").where({ email: owner.email }).first("id")) as { id: string };
    const who = { personId: id, name: "P1", email: owner.email, workshopId: author.workshopId, role: "owner" as const };
    const token = await invite(db, who, "installer");
    await expect(invite(db, who, "apprentice")).rejects.toThrow(/as many people and open invitations/);
    await join(db, token, newPerson(2));
    await expect(invite(db, who, "apprentice")).rejects.toMatchObject({ status: 403 });
  });
  it("keeps no photo and begins no import beyond its bytes", async () => {
    const run = await runOf(await job());
    process.env.CHILLBANK_MOST_GB = "0.000002";
    const photo = crypto.randomUUID();
    await addPhoto(db, run, photo, "image/jpeg", new Uint8Array(1500));
    // A phone that heard no answer sends it again.
    await addPhoto(db, run, photo, "image/jpeg", new Uint8Array(1500));
    await expect(addPhoto(db, run, crypto.randomUUID(), "image/jpeg", new Uint8Array(600))).rejects.toThrow(/no room/);
    const open = await openImport(db, run, "log.csv");
    await putChunk(db, run, open, "file", 0, crypto.getRandomValues(new Uint8Array(600)));
    await expect(putChunk(db, run, open, "file", 15, log)).rejects.toMatchObject({ status: 403 });
    await expect(openImport(db, run, "more.csv")).rejects.toThrow(/no room/);
    expect((await useOf(db, author.workshopId)).bytes.now).toBeGreaterThan(2000);
  });
  it("begins no test run beyond its readings", async () => {
    const id = await job();
    const run = await runOf(id);
    await db("test_runs").where({ id: run }).update({ readings: 100 });
    process.env.CHILLBANK_MOST_READINGS = "100";
    await expect(runOf(id)).rejects.toThrow(/as many readings/);
    // The one that is there is answered as before, however often it is sent.
    expect(await createTestRun(db, { id: run, jobId: id, name: "Run", kind: "k", startedMs: T0 })).toBe(run);
  });
});

it.each(["many", "0", "-1"])("a setting of %s is refused in words", (text) => {
  process.env.CHILLBANK_MOST_JOBS = text;
  expect(() => mostOf("jobs")).toThrow(`CHILLBANK_MOST_JOBS: a number over 0 expected, not "${text}"`);
});
