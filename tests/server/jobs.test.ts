import { afterAll, beforeEach, describe, expect, it, vi } from "vitest";
import { CORE_VERSION } from "@/core/assessment/verdicts/summary";
import { emptyJob, type Job } from "@/core/document/schema";
import { connect } from "@/server/database";
import { foreign, readBody, jobOfBody } from "@/server/handler";
import {
  createJob,
  deleteJob,
  duplicateJob,
  getJob,
  listJobs,
  PAGE_SIZE,
  refreshSummaries,
  restoreJob,
  saveJob,
} from "@/server/jobs";
import { parsed } from "@/server/json-column";
import { workOut, workOutSoon } from "@/server/verdict-queue";
import { q, jobOf } from "../jobs";
import { AUTHOR, WORKSHOP, ownDatabase } from "./own-database";

const url = await ownDatabase();
const db = connect(url);
afterAll(() => db.destroy());
beforeEach(() => db("jobs").delete());

const named = (name: string, place = "", wording = ""): Job => {
  const job = emptyJob(name);
  return { ...job, brief: { ...job.brief, place, wording } };
};
const names = async (query: string) =>
  (await listJobs(db, WORKSHOP, { query: query, page: 1 })).rows.map(({ name }) => name).sort();

describe("storing a job", () => {
  it("gives back the document as it was, accents and all", async () => {
    const job = { ...jobOf({ unit: { runningCurrent: q(6.25, "measured") } }), name: "Olhão – ménage à 3 🚐" };
    const { id } = await createJob(db, AUTHOR, job);
    expect(await getJob(db, id)).toMatchObject({ id, revision: 1, job });
  });
  it("saves over the revision that was read, and counts on", async () => {
    const { id } = await createJob(db, AUTHOR, named("A"));
    expect(await saveJob(db, AUTHOR, { id, revision: 1, job: named("B") })).toMatchObject({
      outcome: "saved",
      revision: 2,
    });
    expect((await getJob(db, id))?.job.name).toBe("B");
  });
  it("never overwrites what another window saved: the second is told and shown it", async () => {
    const { id } = await createJob(db, AUTHOR, named("A"));
    await saveJob(db, AUTHOR, { id, revision: 1, job: named("first") });
    const second = await saveJob(db, AUTHOR, { id, revision: 1, job: named("second") });
    expect(second).toMatchObject({ outcome: "changed-elsewhere", current: { revision: 2 } });
    expect((await getJob(db, id))?.job.name).toBe("first");
  });
  it("of twenty saves at once over one revision exactly one gets through", async () => {
    const { id } = await createJob(db, AUTHOR, named("A"));
    const outcomes = await Promise.all(
      Array.from({ length: 20 }, (_, i) => saveJob(db, AUTHOR, { id, revision: 1, job: named(`try ${i}`) })),
    );
    expect(outcomes.filter(({ outcome }) => outcome === "saved")).toHaveLength(1);
    expect((await getJob(db, id))?.revision).toBe(2);
  });
  it("deletes so that it can be undone, and neither twice", async () => {
    const { id } = await createJob(db, AUTHOR, named("A"));
    expect(await deleteJob(db, AUTHOR, id)).toBe(true);
    expect(await getJob(db, id)).toBeNull();
    expect(await deleteJob(db, AUTHOR, id)).toBe(false);
    expect((await saveJob(db, AUTHOR, { id, revision: 1, job: named("B") })).outcome).toBe("missing");
    expect(await restoreJob(db, AUTHOR, id)).toBe(true);
    expect(await restoreJob(db, AUTHOR, id)).toBe(false);
    expect((await getJob(db, id))?.job.name).toBe("A");
  });
  it("duplicates under a name that says so", async () => {
    const { id } = await createJob(db, AUTHOR, named("A", "Lagos"));
    const copy = await duplicateJob(db, AUTHOR, id);
    expect((await getJob(db, copy!.id))?.job).toEqual(named("A copy", "Lagos"));
    expect(await duplicateJob(db, AUTHOR, "01900000-0000-7000-8000-000000000000")).toBeNull();
  });
});

describe("the list", () => {
  it("finds by every word, in name, place or wording, whatever the case and accents", async () => {
    await createJob(db, AUTHOR, named("Folio van", "Olhão", "glue will not set"));
    await createJob(db, AUTHOR, named("Skep caravan", "Alte", "honey"));
    expect(await names("GLUE olhao")).toEqual(["Folio van"]);
    expect(await names("van")).toEqual(["Folio van", "Skep caravan"]);
    expect(await names("van glue honey")).toEqual([]);
  });
  it("takes what would be wildcards or quotes as plain letters", async () => {
    await createJob(db, AUTHOR, named("100% sun"));
    await createJob(db, AUTHOR, named("100 sun"));
    expect(await names("100%")).toEqual(["100% sun"]);
    expect(await names("'; DROP TABLE jobs; --")).toEqual([]);
    expect(await names("_")).toEqual([]);
  });
  it("is paged in the database, last changed first", async () => {
    for (let i = 0; i < PAGE_SIZE + 3; i++)
      await createJob(db, AUTHOR, named(`Job ${i}`), { now: new Date(1_700_000_000_000 + i * 1000) });
    const [one, two] = [
      await listJobs(db, WORKSHOP, { query: "", page: 1 }),
      await listJobs(db, WORKSHOP, { query: "", page: 2 }),
    ];
    expect([one.total, one.rows.length, two.rows.length]).toEqual([PAGE_SIZE + 3, PAGE_SIZE, 3]);
    expect(one.rows[0]!.name).toBe(`Job ${PAGE_SIZE + 2}`);
    expect(two.rows[2]!.name).toBe("Job 0");
  });
  it("says of a job that was made or saved that its verdicts are being worked out, until they are", async () => {
    const { id } = await createJob(db, AUTHOR, jobOf());
    const summary = async () => (await listJobs(db, WORKSHOP, { query: "", page: 1 })).rows[0]!.summary;
    expect(await summary()).toBeNull();
    await workOut(db, id);
    expect((await summary())!.carries.word).not.toBe("Stop");
    await saveJob(db, AUTHOR, { id, revision: 1, job: jobOf({ fuse: null }) });
    expect(await summary()).toBeNull();
    await workOut(db, id);
    expect((await summary())!.carries.word).toBe("Stop");
  });
  it("works out what was saved last where two saves meet the working out", async () => {
    const { id } = await createJob(db, AUTHOR, jobOf({ fuse: null }));
    await saveJob(db, AUTHOR, { id, revision: 1, job: jobOf({ fuse: null }) });
    const first = workOut(db, id);
    await saveJob(db, AUTHOR, { id, revision: 2, job: jobOf() });
    await first;
    workOutSoon(db, [id]);
    await vi.waitFor(async () => {
      const { core_version: core, summary } = (await db("jobs").where({ id }).first()) as {
        core_version: number;
        summary: unknown;
      };
      expect([core, (parsed(summary) as { carries: { word: string } }).carries.word]).toEqual([
        CORE_VERSION,
        expect.not.stringMatching("Stop"),
      ]);
    }, 10_000);
  });
  it("says nothing where the server ends while verdicts are worked out: the mark stays", async () => {
    const { id } = await createJob(db, AUTHOR, jobOf());
    // The threads are begun.
    await workOut(db, (await createJob(db, AUTHOR, jobOf())).id);
    const said = vi.spyOn(console, "error").mockReturnValue();
    const ending = connect(url);
    workOutSoon(ending, [id]);
    await new Promise((resolve) => setTimeout(resolve, 15));
    await ending.destroy();
    await new Promise((resolve) => setTimeout(resolve, 1500));
    expect(said).not.toHaveBeenCalled();
    said.mockRestore();
  });
  it("carries the verdicts, and makes them anew when the core has changed", async () => {
    const { id } = await createJob(db, AUTHOR, jobOf({ fuse: null }));
    await workOut(db, id);
    expect((await listJobs(db, WORKSHOP, { query: "", page: 1 })).rows[0]!.summary!.carries).toMatchObject({
      word: "Stop",
      decides: "no fuse at the battery",
    });
    await db("jobs")
      .where({ id })
      .update({ core_version: 0, summary: JSON.stringify({ old: true }) });
    expect(await refreshSummaries(db)).toBe(1);
    expect((await listJobs(db, WORKSHOP, { query: "", page: 1 })).rows[0]!.summary!.carries.word).toBe("Stop");
  });
});

describe("the handlers", () => {
  const request = (headers: Record<string, string>, body?: string) =>
    new Request("http://127.0.0.1:3210/api/jobs", { method: "POST", headers, body });
  it.each([
    ["its own page", { host: "127.0.0.1:3210", "sec-fetch-site": "same-origin" }, null],
    ["a script on this machine", { host: "localhost:3210" }, null],
    ["another site's page", { host: "127.0.0.1:3210", "sec-fetch-site": "cross-site" }, 403],
    ["a name pointed at loopback", { host: "attacker.example" }, 403],
  ])("%s", (_, headers, status) => {
    expect(foreign(request(headers as Record<string, string>))?.status ?? null).toBe(status);
  });
  const json = { "content-type": "application/json" };
  it.each([
    ["no JSON by its type", request({ "content-type": "text/plain" }, "{}"), 415],
    ["broken JSON", request(json, "{"), 400],
    ["a body too large", request(json, JSON.stringify("x".repeat(600_000))), 413],
  ])("refuse %s", async (_, made, status) => {
    const read = await readBody(made);
    expect(read.ok ? 200 : read.refusal.status).toBe(status);
  });
  it("refuse a system with the wiring of its first fault", () => {
    const read = jobOfBody({
      job: { ...emptyJob("x"), bank: { chemistry: "gold", build: "cells", frostBlock: true } },
    });
    expect(read).toMatchObject({ ok: false, refusal: { status: 400, faults: [{ path: "bank.chemistry" }] } });
  });
});
