import { afterAll, beforeEach, describe, expect, it } from "vitest";
import { pickInto } from "@/core/applications/parts/pick";
import { emptyEntry, type ShelfEntry } from "@/core/applications/parts/shelf";
import { genericParts } from "../../db/generic-parts";
import { connect } from "@/server/database";
import { readText } from "@/server/handler";
import {
  allParts,
  createPart,
  deletePart,
  importParts,
  jobsUsing,
  listParts,
  partsOf,
  restorePart,
  savePart,
  updateJobs,
} from "@/server/parts";
import { createJob, getJob, saveJob } from "@/server/jobs";
import { q, jobOf } from "../jobs";
import { AUTHOR, WORKSHOP, ownDatabase } from "./own-database";

const db = connect(await ownDatabase());
afterAll(() => db.destroy());
const fuse = (name: string, rating: number): ShelfEntry => ({ ...emptyEntry("fuse", name), values: { rating } });

describe("the shelf", () => {
  it("begins with the generic entries", async () => {
    expect((await allParts(db, WORKSHOP)).map(({ entry }) => entry.name).sort()).toEqual(
      genericParts()
        .map(({ name }) => name)
        .sort(),
    );
  });
  describe("once emptied", () => {
    beforeEach(async () => {
      await db("parts").delete();
      await db("jobs").delete();
    });
    it("lists by kind and words, numbers in names as numbers", async () => {
      for (const name of ["Fuse 1000 A", "Fuse 60 A", "Fuse 200 A", "100 % odd _ name"])
        await createPart(db, WORKSHOP, fuse(name, 100));
      await createPart(db, WORKSHOP, emptyEntry("panel", "Fuse-like panel"));
      const { parts } = await listParts(db, WORKSHOP, { kind: "fuse", query: "fuse" });
      expect(parts.map(({ entry }) => entry.name)).toEqual(["Fuse 60 A", "Fuse 200 A", "Fuse 1000 A"]);
      expect((await listParts(db, WORKSHOP, { kind: "fuse", query: "% _" })).total).toBe(1);
      expect((await listParts(db, WORKSHOP, { kind: null, query: "" })).total).toBe(5);
    });
    it("saves over the revision that was read; the second of two windows is told", async () => {
      const { id } = await createPart(db, WORKSHOP, fuse("F", 100));
      expect(await savePart(db, WORKSHOP, { id, revision: 1, entry: fuse("F", 125) })).toEqual({
        outcome: "saved",
        revision: 2,
      });
      expect(await savePart(db, WORKSHOP, { id, revision: 1, entry: fuse("F", 150) })).toMatchObject({
        outcome: "changed-elsewhere",
        current: { revision: 2, entry: { values: { rating: 125 } } },
      });
      expect(await savePart(db, WORKSHOP, { id, revision: 2, entry: emptyEntry("panel", "F") })).toMatchObject({
        outcome: "changed-elsewhere",
      });
    });
    it("takes a part off and brings it back", async () => {
      const { id } = await createPart(db, WORKSHOP, fuse("F", 100));
      expect(await deletePart(db, id)).toBe(true);
      expect(await partsOf(db, WORKSHOP, [id])).toEqual([]);
      expect(await savePart(db, WORKSHOP, { id, revision: 1, entry: fuse("F", 1) })).toEqual({ outcome: "missing" });
      expect([await restorePart(db, id), await restorePart(db, id)]).toEqual([true, false]);
      expect(await partsOf(db, WORKSHOP, [id])).toHaveLength(1);
    });
    it("imports by kind and name: adds, changes, leaves alone", async () => {
      await importParts(db, WORKSHOP, [fuse("A", 100), fuse("B", 100)]);
      expect(await importParts(db, WORKSHOP, [fuse("a", 100), fuse("B", 200), fuse("C", 50), fuse("C", 60)])).toEqual({
        added: 1,
        changed: 2,
        same: 0,
      });
      const parts = await allParts(db, WORKSHOP);
      expect(parts.map(({ entry, revision }) => [entry.name, entry.values.rating, revision])).toEqual([
        ["a", 100, 2],
        ["B", 200, 2],
        ["C", 60, 1],
      ]);
      expect(await importParts(db, WORKSHOP, [fuse("B", 200)])).toEqual({ added: 0, changed: 0, same: 1 });
    });
    it("imports all or none: a row that the database refuses leaves nothing behind", async () => {
      const many = Array.from({ length: 1200 }, (_, i) => fuse(`F ${i}`, 100));
      // Longer than the column: no reader lets this through, so it stands for any failure half way.
      await expect(importParts(db, WORKSHOP, [...many, fuse("x".repeat(200), 100)])).rejects.toThrow();
      expect((await listParts(db, WORKSHOP, { kind: null, query: "" })).total).toBe(0);
    });
    it("imports 50,000 rows in one go", async () => {
      const many = Array.from({ length: 50_000 }, (_, i) => fuse(`Fuse ${i}`, 100 + (i % 300)));
      expect(await importParts(db, WORKSHOP, many)).toEqual({ added: 50_000, changed: 0, same: 0 });
      expect((await listParts(db, WORKSHOP, { kind: "fuse", query: "Fuse 4999" })).total).toBe(15);
    });
  });
});

describe("jobs that use a part", () => {
  beforeEach(() => db("jobs").delete());
  const using = async () => {
    const entry: ShelfEntry = { ...emptyEntry("unit", "Roof"), values: { runningCurrent: 6, lockedRotorCurrent: 20 } };
    const { id } = await createPart(db, WORKSHOP, entry);
    const job = await createJob(
      db,
      AUTHOR,
      pickInto(jobOf({ inverter: { rating: q(4000) } }), "units.0", entry, { id, revision: 1 }),
    );
    await createJob(db, AUTHOR, jobOf());
    return { id, entry, job };
  };
  it("are named with their verdicts now and then, and none is touched unasked", async () => {
    const { id, entry, job } = await using();
    await savePart(db, WORKSHOP, {
      id,
      revision: 1,
      entry: { ...entry, values: { ...entry.values, lockedRotorCurrent: 90 } },
    });
    const [part] = await partsOf(db, WORKSHOP, [id]);
    const jobs = await jobsUsing(db, WORKSHOP, part!);
    expect(jobs).toMatchObject([{ id: job.id, stale: true, then: { starts: { word: "Fails" } } }]);
    expect(jobs[0]!.now.starts.word).not.toBe("Fails");
    expect((await getJob(db, job.id))?.job.units[0]!.lockedRotorCurrent).toEqual(q(20));
  });
  it("are brought up to date when chosen, unless they were saved meanwhile", async () => {
    const { id, entry, job } = await using();
    await savePart(db, WORKSHOP, {
      id,
      revision: 1,
      entry: { ...entry, values: { ...entry.values, lockedRotorCurrent: 90 } },
    });
    const [part] = await partsOf(db, WORKSHOP, [id]);
    const stored = await getJob(db, job.id);
    await saveJob(db, AUTHOR, { id: job.id, revision: 1, job: stored!.job });
    expect(await updateJobs(db, AUTHOR, part!, [{ id: job.id, revision: 1 }])).toEqual([]);
    expect(await updateJobs(db, AUTHOR, part!, [{ id: job.id, revision: 2 }])).toEqual([job.id]);
    const after = await getJob(db, job.id);
    expect(after?.job.units[0]).toMatchObject({ lockedRotorCurrent: q(90), shelf: { id, revision: 2 } });
    expect((await jobsUsing(db, WORKSHOP, part!))[0]!.stale).toBe(false);
  });
});

describe("the handler of tables", () => {
  const post = (body: BodyInit, type = "text/csv") =>
    readText(new Request("http://127.0.0.1/", { method: "POST", body, headers: { "content-type": type } }));
  it("takes UTF-8 text and no other", async () => {
    expect(await post("kind,name\n")).toEqual({ ok: true, text: "kind,name\n" });
    expect(await post(new Uint8Array([0xff, 0xfe, 0x41]))).toMatchObject({ ok: false, refusal: { status: 400 } });
    expect(await post("{}", "application/json")).toMatchObject({ ok: false, refusal: { status: 415 } });
    expect(await post("x".repeat(16 * 1024 * 1024 + 1))).toMatchObject({ ok: false, refusal: { status: 413 } });
  });
});
