/* Somebody whose role was taken while their request was on its way: nothing of it is written, whatever it was. */
import { v4 as uuid } from "uuid";
import { afterAll, beforeAll, describe, expect, it, vi } from "vitest";
import { usualRequirement } from "@/core/applications/options/target";
import { emptyEntry } from "@/core/applications/parts/shelf";
import { emptyJob } from "@/core/document/schema";
import { closeDatabase, database } from "@/server/database";
import { createJob, deleteJob } from "@/server/jobs";
import { createPart } from "@/server/parts";
import { createTestRun } from "@/server/test-runs";
import { whoAsks } from "@/server/who";
import { everyRoute, type Handler, type Route } from "./hostile";
import { AUTHOR, OWNER_ID, ownDatabase, WORKSHOP } from "./own-database";

let routes: Route[] = [];
const ids: Record<string, string> = {};
const job = emptyJob("Late");
beforeAll(async () => {
  process.env.DATABASE_URL = await ownDatabase();
  const db = database();
  ids.job = (await createJob(db, AUTHOR, job)).id;
  ids.deleted = (await createJob(db, AUTHOR, job)).id;
  await deleteJob(db, AUTHOR, ids.deleted);
  ids.part = (await createPart(db, WORKSHOP, emptyEntry("fuse", "Fuse"))).id;
  ids.run = await createTestRun(db, { jobId: ids.job, name: "Run", kind: "k", startedMs: Date.now() - 60_000 });
  routes = await everyRoute();
});
afterAll(closeDatabase);

const entry = emptyEntry("fuse", "Another");
const CASES: [path: string, method: string, id: string, body: unknown, as: "apprentice" | "gone"][] = [
  ["/api/parts", "POST", "", { entry }, "apprentice"],
  ["/api/parts/[id]", "PUT", "part", { revision: 1, entry }, "apprentice"],
  ["/api/parts/[id]", "DELETE", "part", undefined, "apprentice"],
  ["/api/jobs", "POST", "", { job }, "apprentice"],
  ["/api/jobs/[id]", "DELETE", "job", undefined, "apprentice"],
  ["/api/jobs/[id]/duplicate", "POST", "job", {}, "apprentice"],
  ["/api/jobs/[id]/requirement", "PUT", "job", usualRequirement(job), "apprentice"],
  ["/api/jobs/[id]/revisions", "POST", "job", { id: uuid(), name: "N", promise: "", job }, "apprentice"],
  ["/api/jobs/[id]/erasure", "DELETE", "deleted", undefined, "apprentice"],
  ["/api/jobs/[id]/test-runs", "POST", "job", { id: uuid(), name: "N" }, "gone"],
  ["/api/test-runs/[id]", "PUT", "run", { name: "Other" }, "gone"],
  ["/api/test-runs/[id]", "DELETE", "run", undefined, "gone"],
  [
    "/api/test-runs/[id]/readings",
    "POST",
    "run",
    { readings: [{ id: uuid(), timeMs: Date.now(), values: { battery_current_a: -1 } }] },
    "gone",
  ],
  ["/api/test-runs/[id]/imports", "POST", "run", { fileName: "x.csv" }, "gone"],
];

async function rowsOf(): Promise<string> {
  const tables = [
    "parts",
    "jobs",
    "job_requirements",
    "job_revisions",
    "test_runs",
    "test_run_readings",
    "test_run_imports",
  ];
  const rows: unknown[] = await Promise.all(tables.map((name) => database()(name)));
  return JSON.stringify(rows);
}

describe("a request of somebody whose role was taken meanwhile", () => {
  it.each(CASES)("%s %s writes nothing", async (path, method, id, body, as) => {
    const owner = (await whoAsks(new Headers()))!;
    await database()("people").where({ id: OWNER_ID }).update({ role: "apprentice" });
    // What the session said a moment ago.
    const stale = { ...owner, role: "owner" as const, personId: as === "gone" ? uuid() : OWNER_ID };
    vi.mocked(whoAsks).mockResolvedValueOnce(stale);
    const before = await rowsOf();
    const handle = routes.find((one) => one.path === path)!.module[method] as Handler;
    const headers = { host: "127.0.0.1", "content-type": "application/json" };
    const request = new Request(`http://127.0.0.1${path}`, {
      method,
      headers,
      ...(body === undefined ? {} : { body: JSON.stringify(body) }),
    });
    const answer = await handle(request, { params: Promise.resolve(id ? { id: ids[id]! } : ({} as never)) });
    expect(answer.status).toBe(as === "gone" ? 401 : 403);
    expect(await rowsOf()).toBe(before);
  });
});
