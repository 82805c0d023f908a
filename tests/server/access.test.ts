/*
 * Who may do what, over every route and page there is, with real sessions: the routes are found in the folder of the
 * application, so that a new one fails here until it says who it is for.
 */
import { readdirSync, readFileSync } from "node:fs";
import { join } from "node:path";
import { afterAll, beforeAll, describe, expect, it } from "vitest";
import { emptyEntry } from "@/core/applications/parts/shelf";
import { emptyJob } from "@/core/document/schema";
import { ROLE_KEYS, roleMay, type Ability } from "@/contract/people";
import { closeAuth } from "@/server/auth";
import { closeDatabase, database } from "@/server/database";
import { createJob } from "@/server/jobs";
import { createPart } from "@/server/parts";
import { createWorkshop } from "@/server/people";
import { createTestRun } from "@/server/test-runs";
import { everyRoute, type Handler, type Route } from "./hostile";
import { asThemselves, cookieOf } from "./as-themselves";
import { ownDatabase } from "./own-database";

/** Routes that answer anybody, and why. */
const OPEN = [
  "GET /api/health", // for proxies and supervisors
  "GET /api/health/ready",
  "GET /api/metrics", // by a word of its own: metrics.test.ts
  "POST /api/session", // signs in
  "POST /api/session/code", // the second step of signing in
  "DELETE /api/session", // signs out
  "POST /api/session/demo", // signs in to the demo, where there is one
  "POST /api/begin", // by the code from the console
  "POST /api/join/[token]", // by an invitation
  "GET /c/[token]", // the customer's page, by its link
  // Says that there is nothing there.
  ...["GET", "POST", "PUT", "PATCH", "DELETE"].map((method) => `${method} /api/[...path]`),
];
/** Pages that open for anybody. */
const OPEN_PAGES = ["sign-in/page.tsx", "begin/page.tsx", "join/[token]/page.tsx", "jobs/[id]/page.tsx"];

/** What each method of a route asks for, by the address it stands at. */
function abilityOf(path: string, method: string): Ability {
  if (/^\/api\/(people|invitations)|\/erasure$/.test(path)) return "manage";
  if (method === "GET" || method === "HEAD" || path.startsWith("/api/session")) return "look";
  if (path.startsWith("/api/parts")) return "stock";
  if (path === "/api/log-mappings" || path.includes("/test-runs")) return "measure";
  // An apprentice saves what was ticked off, with its photos; what is designed is compared with what stands there.
  if (/^\/api\/jobs\/\[id\](\/photos\/\[photo\])?$/.test(path) && method === "PUT") return "measure";
  return "design";
}

const METHODS = ["GET", "HEAD", "POST", "PUT", "PATCH", "DELETE"];
let routes: Route[] = [];
const cookies = new Map<string, string>();
const things: Record<"own" | "other", Record<string, string>> = { own: {}, other: {} };

async function thingsOf(workshopId: string): Promise<Record<string, string>> {
  const db = database();
  const author = { workshopId, personId: null, name: "Somebody" };
  const { id: job } = await createJob(db, author, emptyJob("Thing"));
  const { id: part } = await createPart(db, workshopId, emptyEntry("fuse", "Thing"));
  const testRun = await createTestRun(db, { jobId: job, name: "Thing", kind: "k", startedMs: Date.now() });
  return { job, part, testRun };
}

beforeAll(async () => {
  await asThemselves();
  process.env.DATABASE_URL = await ownDatabase();
  const db = database();
  const [own, other] = [await createWorkshop(db, "One"), await createWorkshop(db, "Two")];
  for (const role of ROLE_KEYS) cookies.set(role, await cookieOf(role, own, role));
  cookies.set("stranger", await cookieOf("owner", other, "stranger"));
  things.own = await thingsOf(own);
  things.other = await thingsOf(other);
  routes = await everyRoute();
});
afterAll(async () => {
  await closeAuth();
  await closeDatabase();
});

const calls = () =>
  routes.flatMap(({ path, module }) =>
    METHODS.filter((method) => method in module).map((method) => ({
      path,
      method,
      handler: module[method] as Handler,
    })),
  );
const named = ({ path, method }: { path: string; method: string }) => `${method} ${path}`;

/** Asks a route as somebody, for things of their workshop or of another. */
async function ask(
  call: ReturnType<typeof calls>[number],
  who: string | null,
  of: "own" | "other",
  from: Record<string, string> = {},
): Promise<Response> {
  const { job, part, testRun } = things[of];
  const id = call.path.startsWith("/api/parts") ? part : call.path.startsWith("/api/test-runs") ? testRun : job;
  const params: Record<string, string> = {
    id: id!,
    link: id!,
    revision: id!,
    reading: id!,
    photo: id!,
    import: id!,
    part: "readings",
    seq: "0",
    token: "x",
  };
  const cookie = who && cookies.get(who);
  const headers = { host: "127.0.0.1", "content-type": "application/json", ...(cookie ? { cookie } : {}), ...from };
  const body = ["GET", "HEAD"].includes(call.method) ? {} : { body: "{}" };
  const request = new Request(`http://127.0.0.1${call.path}`, { method: call.method, headers, ...body });
  const answer = await call.handler(request, { params: Promise.resolve(params) });
  await answer.body?.cancel();
  return answer;
}

/** Routes that answer whoever reaches them: they change nothing and say nothing of anybody. */
const FOR_MACHINES = ["GET /api/health", "GET /api/health/ready", "GET /api/metrics"];

describe("every route", () => {
  it.each([
    ["asked by a page of another site", { "sec-fetch-site": "cross-site" }],
    ["asked from another origin", { origin: "https://evil.example" }],
    ["asked by another name that was pointed at this machine", { host: "evil.example" }],
  ])("refuses to answer where it is %s", async (_, from) => {
    const answered: string[] = [];
    for (const call of calls().filter((one) => !FOR_MACHINES.includes(named(one))))
      if ((await ask(call, "owner", "own", from)).status !== 403) answered.push(named(call));
    expect(answered).toEqual([]);
  });
  it("answers nobody who is not signed in but for those that are meant to", async () => {
    const open: string[] = [];
    for (const call of calls()) if ((await ask(call, null, "own")).status !== 401) open.push(named(call));
    // A wrong sign-in is answered 401 or 400 as well.
    expect(calls().length).toBeGreaterThan(60);
    expect(open.filter((name) => !OPEN.includes(name))).toEqual([]);
  });
  it("refuses a role that may not, and no other", async () => {
    const wrong: string[] = [];
    for (const call of calls().filter((one) => !OPEN.includes(named(one)) && !one.path.startsWith("/api/session")))
      for (const role of ROLE_KEYS) {
        if (call.method === "DELETE" && roleMay(role, abilityOf(call.path, call.method))) continue;
        const { status } = await ask(call, role, "own");
        if ((status === 403) !== !roleMay(role, abilityOf(call.path, call.method)))
          wrong.push(`${named(call)} by the ${role}: ${status}`);
      }
    expect(wrong).toEqual([]);
  });
  it("says of another workshop's things that there are none, and leaves them as they are", async () => {
    const before = await rowsOf();
    const wrong: string[] = [];
    for (const call of calls().filter(({ path }) => /\/\[id\]/.test(path))) {
      const { status } = await ask(call, "owner", "other");
      if (status !== 404 && !(call.path.startsWith("/api/people") && status === 400))
        wrong.push(`${named(call)}: ${status}`);
    }
    expect(wrong).toEqual([]);
    expect(await rowsOf()).toEqual(before);
  });
  it("brings back or erases nothing of another workshop that was deleted there", async () => {
    const { job, part, testRun } = things.other;
    const [db, deleted] = [database(), { deleted_at: new Date(1_790_000_000_000) }];
    // First what stands by itself, then the job that the test run belongs to.
    for (const gone of [
      ["test_runs", testRun],
      ["parts", part],
      ["jobs", job],
    ] as const) {
      await db(gone[0]).where({ id: gone[1] }).update(deleted);
      const before = await rowsOf();
      for (const call of calls().filter(({ path }) => /\/\[id\]/.test(path))) await ask(call, "owner", "other");
      expect(await rowsOf()).toEqual(before);
    }
  });
  it("lists nothing of another workshop", async () => {
    for (const path of ["/api/parts", "/api/test-runs"]) {
      const route = routes.find((one) => one.path === path)!;
      const request = new Request(`http://127.0.0.1${path}?kind=fuse&q=Thing`, {
        headers: { host: "127.0.0.1", cookie: cookies.get("owner")! },
      });
      const text = await (await (route.module.GET as Handler)(request, { params: Promise.resolve({}) })).text();
      expect(text).toContain("Thing");
      for (const id of Object.values(things.other)) expect(text).not.toContain(id);
    }
  });
});

const rowsOf = async () =>
  Promise.all(
    (["jobs", "parts", "test_runs"] as const).map((name, i) =>
      database()(name)
        .where({ id: things.other[["job", "part", "testRun"][i]!] })
        .first(),
    ),
  );

describe("every page", () => {
  const app = join(import.meta.dirname, "../../src/app");
  const pages = readdirSync(app, { recursive: true, encoding: "utf8" }).filter((file) => file.endsWith("page.tsx"));
  it.each(pages.filter((file) => !OPEN_PAGES.includes(file)))("%s asks who visits", (file) => {
    expect(readFileSync(join(app, file), "utf8")).toMatch(/await whoSignedIn\(/);
  });
  it.each(pages.filter((file) => /\[id\]\/.*page\.tsx$/.test(file) && !OPEN_PAGES.includes(file)))(
    "%s asks whose it is",
    (file) => expect(readFileSync(join(app, file), "utf8")).toMatch(/await owns\(who, /),
  );
});

describe("an apprentice", () => {
  const put = async (change: (job: ReturnType<typeof emptyJob>) => unknown) => {
    const route = routes.find(({ path }) => path === "/api/jobs/[id]")!;
    const params = Promise.resolve({ id: things.own.job! });
    const headers = { host: "127.0.0.1", "content-type": "application/json", cookie: cookies.get("apprentice")! };
    const address = "http://127.0.0.1/api/jobs/x";
    const read = await (route.module.GET as Handler)(new Request(address, { headers }), { params });
    const { revision, job } = (await read.json()) as { revision: number; job: ReturnType<typeof emptyJob> };
    const body = JSON.stringify({ revision, job: change(job) });
    return (await (route.module.PUT as Handler)(new Request(address, { method: "PUT", headers, body }), { params }))
      .status;
  };
  it("ticks off a step at the system", async () => {
    const step = { step: "polarity", fields: [], passed: true, reason: "", by: "Wren", at: null };
    expect(await put((job) => ({ ...job, handover: { ...job.handover, steps: [step] } }))).toBe(200);
  });
  it("does not change the design", async () => {
    expect(await put((job) => ({ ...job, name: "Another" }))).toBe(403);
    expect(
      await put((job) => ({
        ...job,
        handover: { ...job.handover, document: { ...job.handover.document, signedBy: "Wren" } },
      })),
    ).toBe(403);
  });
});
