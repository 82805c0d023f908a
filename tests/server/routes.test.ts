/* The route handlers as the browser meets them: every answer is read by the contract's own schema. */
import { afterAll, beforeAll, beforeEach, describe, expect, it } from "vitest";
import { v7 as uuid } from "uuid";
import type { z } from "zod";
import { errorSchema } from "@/contract/common";
import { changedElsewhere, madeJob, savedJob, storedJob } from "@/contract/jobs";
import { listedLinks, madeLink } from "@/contract/links";
import { importReport, madePart, savedPart, shelfParts, updatedJobs, usingJobs } from "@/contract/parts";
import { foundPlaces } from "@/contract/places";
import { keptRequirement, listedRevisions, revisionDocument } from "@/contract/revisions";
import {
  addedReadings,
  changedReading,
  foundMapping,
  listedTestRuns,
  oneTestRun,
  probesAnswer,
  readingHistory,
  startedSource,
  storedReadings,
  testRunDetail,
} from "@/contract/test-runs";
import { emptyEntry } from "@/core/applications/parts/shelf";
import { usualRequirement } from "@/core/applications/options/target";
import { emptyJob } from "@/core/document/schema";
import * as mappings from "@/app/api/log-mappings/route";
import * as parts from "@/app/api/parts/route";
import * as part from "@/app/api/parts/[id]/route";
import * as partImport from "@/app/api/parts/import/route";
import * as partUses from "@/app/api/parts/[id]/uses/route";
import * as places from "@/app/api/places/route";
import * as jobs from "@/app/api/jobs/route";
import * as job from "@/app/api/jobs/[id]/route";
import * as duplicate from "@/app/api/jobs/[id]/duplicate/route";
import * as links from "@/app/api/jobs/[id]/links/route";
import * as link from "@/app/api/jobs/[id]/links/[link]/route";
import * as restore from "@/app/api/jobs/[id]/restore/route";
import * as revisions from "@/app/api/jobs/[id]/revisions/route";
import * as revision from "@/app/api/jobs/[id]/revisions/[revision]/route";
import * as runsOfJob from "@/app/api/jobs/[id]/test-runs/route";
import * as requirement from "@/app/api/jobs/[id]/requirement/route";
import * as runs from "@/app/api/test-runs/route";
import * as run from "@/app/api/test-runs/[id]/route";
import * as readings from "@/app/api/test-runs/[id]/readings/route";
import * as reading from "@/app/api/test-runs/[id]/readings/[reading]/route";
import * as source from "@/app/api/test-runs/[id]/source/route";
import { closeDatabase, database } from "@/server/database";
import { ownDatabase } from "./own-database";

beforeAll(async () => {
  process.env.DATABASE_URL = await ownDatabase({ gazetteer: true });
});
beforeEach(async () => {
  // Other files leave test runs of their own shape behind.
  await database()("test_runs").delete();
  await database()("jobs").delete();
  await database()("parts").delete();
});
afterAll(closeDatabase);

type Route = (request: Request, context: { params: Promise<never> }) => Promise<Response>;

/** Calls a handler as the server would: its answer's status, and its body by the schema that the browser reads it by. */
async function ask<T extends z.ZodType>(
  route: unknown,
  answer: T,
  { body, params = {}, query = "" }: { body?: unknown; params?: Record<string, string>; query?: string } = {},
): Promise<{ status: number; body: z.infer<T> }> {
  const text = typeof body === "string" ? body : JSON.stringify(body);
  const request = new Request(`http://127.0.0.1/api${query}`, {
    headers: { host: "127.0.0.1", "content-type": typeof body === "string" ? "text/csv" : "application/json" },
    ...(body === undefined ? {} : { method: "POST", body: text }),
  });
  const response = await (route as Route)(request, { params: Promise.resolve(params) as Promise<never> });
  return { status: response.status, body: answer.parse(response.status === 204 ? null : await response.json()) };
}
const status = async (route: unknown, call: Parameters<typeof ask>[2]): Promise<number> => {
  const request = new Request("http://127.0.0.1/api", {
    headers: { host: "127.0.0.1", "content-type": "application/json" },
    ...(call?.body === undefined ? {} : { method: "POST", body: JSON.stringify(call.body) }),
  });
  return (await (route as Route)(request, { params: Promise.resolve(call?.params ?? {}) as Promise<never> })).status;
};
const newJob = async (name = "Job") => (await ask(jobs.POST, madeJob, { body: { job: emptyJob(name) } })).body.id;

describe("jobs", () => {
  it("are made, read, saved over their revision, copied, deleted and brought back", async () => {
    const id = await newJob();
    const params = { id };
    const { body: read } = await ask(job.GET, storedJob, { params });
    expect(read).toMatchObject({ revision: 1, job: { name: "Job" } });
    const saved = await ask(job.PUT, savedJob, { params, body: { revision: 1, job: { ...read.job, name: "Two" } } });
    expect(saved.body.revision).toBe(2);
    expect((await ask(duplicate.POST, madeJob, { params })).status).toBe(201);
    expect(await status(job.DELETE, { params })).toBe(204);
    expect((await ask(job.GET, errorSchema, { params })).status).toBe(404);
    expect(await status(restore.POST, { params })).toBe(204);
  });
  it("answer a save over an older revision with what stands there", async () => {
    const params = { id: await newJob() };
    const { job: read } = (await ask(job.GET, storedJob, { params })).body;
    await ask(job.PUT, savedJob, { params, body: { revision: 1, job: { ...read, name: "First" } } });
    const late = await ask(job.PUT, changedElsewhere, {
      params,
      body: { revision: 1, job: { ...read, name: "Second" } },
    });
    expect(late).toMatchObject({ status: 409, body: { current: { revision: 2, job: { name: "First" } } } });
  });
  it("name each wrong place of a document that is none", async () => {
    const refused = await ask(jobs.POST, errorSchema, { body: { job: { ...emptyJob("A"), units: 3 } } });
    expect(refused.status).toBe(400);
    expect(refused.body.faults.map(({ path }) => path)).toContain("units");
  });
});

describe("revisions, targets and links of a job", () => {
  it("a revision is named, read and taken off the list", async () => {
    const params = { id: await newJob() };
    const own = uuid();
    const body = { id: own, name: "Quoted", promise: "8 h", job: emptyJob("As quoted") };
    const named = await ask(revisions.POST, listedRevisions, { params, body });
    expect(named).toMatchObject({ status: 201, body: { revisions: [{ id: own, name: "Quoted", promise: "8 h" }] } });
    const at = { ...params, revision: own };
    expect((await ask(revision.GET, revisionDocument, { params: at })).body.job.name).toBe("As quoted");
    expect(await status(revision.PUT, { params: at, body: { deleted: true } })).toBe(204);
    expect((await ask(revisions.GET, listedRevisions, { params })).body.revisions).toEqual([]);
  });
  it("a target is none until one is kept", async () => {
    const params = { id: await newJob() };
    expect((await ask(requirement.GET, keptRequirement, { params })).body.requirement).toBeNull();
    const kept = usualRequirement(emptyJob("A"));
    expect(await status(requirement.PUT, { params, body: kept })).toBe(204);
    expect((await ask(requirement.GET, keptRequirement, { params })).body.requirement).toEqual(kept);
  });
  it("a link is made once and withdrawn", async () => {
    const params = { id: await newJob() };
    const made = await ask(links.POST, madeLink, { params, body: { days: 30 } });
    expect(made.body.path).toMatch(/^\/c\/[A-Za-z0-9_-]{32}$/);
    const [one] = (await ask(links.GET, listedLinks, { params })).body.links;
    const withdrawn = await ask(link.DELETE, listedLinks, { params: { ...params, link: one!.id } });
    expect(withdrawn.body.links[0]!.withdrawn).toBe(true);
    expect((await ask(links.POST, errorSchema, { params, body: { days: 31 } })).body.error).toMatch(/30, 90 or 365/);
  });
});

describe("the parts shelf", () => {
  it("a part is added, found, saved over its revision and looked for in jobs", async () => {
    const entry = emptyEntry("panel", "Panel");
    const { id } = (await ask(parts.POST, madePart, { body: { entry } })).body;
    const params = { id };
    expect((await ask(parts.GET, shelfParts, { query: "?kind=panel&q=Pan" })).body).toMatchObject({ total: 1 });
    const save = { revision: 1, entry: { ...entry, name: "Panel B" } };
    expect((await ask(part.PUT, savedPart, { params, body: save })).body.revision).toBe(2);
    expect((await ask(parts.GET, shelfParts, { query: `?ids=${id}` })).body.parts[0]!.entry.name).toBe("Panel B");
    expect((await ask(partUses.GET, usingJobs, { params })).body.jobs).toEqual([]);
    expect((await ask(partUses.POST, updatedJobs, { params, body: { jobs: [] } })).body.updated).toEqual([]);
  });
  it("a table reports what came of each row", async () => {
    const table = "kind,name\npanel,Panel\nnonsense,What\n";
    const report = (await ask(partImport.POST, importReport, { body: table })).body;
    expect(report).toMatchObject({ added: 1, skippedCount: 1 });
  });
});

describe("test runs", () => {
  const started = async () => {
    const params = { id: await newJob() };
    const { testRun } = (await ask(runsOfJob.POST, oneTestRun, { params, body: { name: "First" } })).body;
    return { job: params, params: { id: testRun.id } };
  };
  it("are started, listed, changed and told of in detail", async () => {
    const { job: of, params } = await started();
    expect((await ask(runsOfJob.GET, listedTestRuns, { params: of })).body.testRuns).toHaveLength(1);
    expect((await ask(runs.GET, listedTestRuns)).body.testRuns.map(({ id }) => id)).toContain(params.id);
    const changed = await ask(run.PUT, oneTestRun, { params, body: { name: "Second", finished: true } });
    expect(changed.body.testRun).toMatchObject({ name: "Second", snapshots: [], outcome: null });
    expect((await ask(run.GET, testRunDetail, { params })).body).toMatchObject({ running: null, imports: [] });
  });
  it("keep what was said of their day, and refuse by its field what cannot be", async () => {
    const { params } = await started();
    const nothing = { people: null, colour: null, blinds: null, shade: null, startSoc: null };
    const conditions = { ...nothing, people: 2, forecastHighC: 36, forecastLowC: 21 };
    const { testRun } = (await ask(run.PUT, oneTestRun, { params, body: { conditions } })).body;
    // A page of before has no word for the battery's age and its last full charge.
    const kept = { ...conditions, batteryAge: null, lastFull: null, notesLeftOut: [] };
    expect(testRun.conditions).toEqual(kept);
    const wrong = { params, body: { conditions: { ...conditions, forecastLowC: 40 } } };
    expect(await ask(run.PUT, errorSchema, wrong)).toMatchObject({
      status: 400,
      body: { faults: [{ path: "conditions.forecastLowC" }] },
    });
    expect((await ask(run.GET, testRunDetail, { params })).body.testRun.conditions).toEqual(kept);
  });
  it("keep a reading once, correct it over its version and tell what it was", async () => {
    const { params } = await started();
    const sent = { id: uuid(), timeMs: Date.UTC(2026, 6, 14), values: { battery_current_a: -40 } };
    const body = { readings: [sent] };
    expect((await ask(readings.POST, addedReadings, { params, body })).body.added).toBe(1);
    expect((await ask(readings.POST, addedReadings, { params, body })).body.added).toBe(0);
    const [kept] = (await ask(readings.GET, storedReadings, { params })).body.readings;
    expect(kept).toMatchObject({ ...sent, version: 1, deleted: false });
    const at = { ...params, reading: sent.id };
    const correction = { version: 1, reading: { ...sent, values: { battery_current_a: -42 } } };
    expect((await ask(reading.PUT, changedReading, { params: at, body: correction })).body.version).toBe(2);
    expect((await ask(reading.PUT, errorSchema, { params: at, body: correction })).status).toBe(409);
    const { history } = (await ask(reading.GET, readingHistory, { params: at })).body;
    expect(history[0]).toMatchObject({ version: 1, values: { battery_current_a: -40 } });
  });
  it("ask about a device whose clock is more than two minutes off, and take nothing until it was answered", async () => {
    const { params } = await started();
    const one = { id: uuid(), timeMs: Date.UTC(2026, 7, 14, 12), values: { battery_current_a: -41 } };
    for (const [offMs, words] of [
      [-37 * 60_000, /37 minutes slow/],
      [3 * 60_000, /3 minutes fast/],
    ] as const) {
      const body = { readings: [one], sentAtMs: Date.now() + offMs };
      const refused = await ask(readings.POST, errorSchema, { params, body });
      expect(refused.status).toBe(409);
      expect(refused.body.error).toMatch(words);
      expect(refused.body.faults[0]).toMatchObject({ path: "sentAtMs" });
      expect(Math.abs(Number(refused.body.faults[0]!.message) + offMs)).toBeLessThan(5000);
    }
    expect((await ask(readings.GET, storedReadings, { params })).body.readings).toEqual([]);
    const near = { readings: [one], sentAtMs: Date.now() - 60_000 };
    expect((await ask(readings.POST, addedReadings, { params, body: near })).body.added).toBe(1);
  });
  it.each([Date.UTC(1990, 5, 1), Date.UTC(1999, 11, 31), Date.UTC(2099, 0, 1)])(
    "of a clock that lost its time are refused: %i",
    async (timeMs) => {
      const { params } = await started();
      const body = { readings: [{ id: uuid(), timeMs, values: { battery_current_a: -41 } }] };
      expect((await ask(readings.POST, errorSchema, { params, body })).status).toBe(400);
    },
  );
  it("tell of their instrument from its start to its stop", async () => {
    const { params } = await started();
    const body = { kind: "simulator", seed: 1, faults: [], every: 60, speed: 1 };
    expect((await ask(source.POST, startedSource, { params, body })).body.running).toEqual(body);
    expect((await ask(run.GET, testRunDetail, { params })).body).toMatchObject({ running: body, ended: null });
    expect((await ask(source.GET, probesAnswer, { params })).body.probes).toHaveProperty("bankVolts");
    expect(await status(source.DELETE, { params })).toBe(204);
    expect((await ask(run.GET, testRunDetail, { params })).body.running).toBeNull();
  });
  it("remember how a header was read", async () => {
    const header = "time,amps";
    const mapping = {
      columns: [
        { meaning: "time", factor: 1, offset: 0 },
        { meaning: "battery_current_a", factor: 1, offset: 0 },
      ],
      decimalComma: false,
      time: "iso",
      timeZone: "UTC",
      startMs: null,
      sign: 1,
    };
    const before = await ask(mappings.POST, foundMapping, { body: { header: `${header},${uuid()}` } });
    expect(before.body.mapping).toBeNull();
    expect(await status(mappings.PUT, { body: { header, mapping } })).toBe(204);
    expect((await ask(mappings.POST, foundMapping, { body: { header } })).body.mapping).toMatchObject({ time: "iso" });
  });
});

describe("places", () => {
  it("are found by the beginning of their name, and a search for nothing is refused", async () => {
    const { places: found } = (await ask(places.GET, foundPlaces, { query: "?q=faro&lat=37&lon=-8" })).body;
    expect(found[0]).toMatchObject({ name: "Faro", country: "PT" });
    expect(found[0]!.km).toBeLessThan(20);
    expect((await ask(places.GET, errorSchema, { query: "?q=" })).status).toBe(400);
  });
});
