/* A database that is gone, frozen, or refuses: every route and page says so at once, and serves again when it is back. */
import { createServer, connect as dial, type AddressInfo, type Server, type Socket } from "node:net";
import { NextRequest } from "next/server";
import { afterAll, beforeAll, describe, expect, it } from "vitest";
import { closeAuth } from "@/server/auth";
import { closeDatabase, database } from "@/server/database";
import { createJob } from "@/server/jobs";
import { createWorkshop } from "@/server/people";
import { forgetSessions } from "@/server/who";
import { proxy } from "@/proxy";
import { jobOf } from "../jobs";
import { asThemselves, cookieOf } from "./as-themselves";
import { everyRoute, type Handler, type Route } from "./hostile";
import { AUTHOR, ownDatabase } from "./own-database";

/** Longest that anybody waits to be told, ms. */
const SOON_MS = 3000;

/** The way to the database: open, frozen (nothing goes through), or refusing (no connection is taken, and those there are cut). */
class Way {
  private readonly sockets = new Set<Socket>();
  private server: Server | null = null;
  private frozen = false;
  port = 0;
  constructor(private readonly to: URL) {}
  async open(): Promise<void> {
    this.frozen = false;
    for (const one of this.sockets) one.resume();
    this.server ??= createServer((near) => {
      const far = dial(Number(this.to.port), this.to.hostname);
      for (const [one, other] of [
        [near, far],
        [far, near],
      ] as const) {
        this.sockets.add(one);
        one.on("data", (bytes) => this.frozen || other.write(bytes));
        one.on("error", () => other.destroy()).on("close", () => (this.sockets.delete(one), other.destroy()));
      }
    });
    const { server } = this;
    if (!server.listening) await new Promise<void>((done) => server.listen(this.port, "127.0.0.1", done));
    this.port = (server.address() as AddressInfo).port;
  }
  freeze(): void {
    this.frozen = true;
  }
  async refuse(): Promise<void> {
    const gone = new Promise<void>((done) => this.server?.close(() => done()));
    for (const one of this.sockets) one.destroy();
    await gone;
    this.server = null;
  }
}

let way: Way;
let routes: Route[] = [];
let cookie = "";
let jobId = "";
beforeAll(async () => {
  await asThemselves();
  const url = new URL(await ownDatabase());
  way = new Way(new URL(url));
  await way.open();
  url.port = String(way.port);
  url.hostname = "127.0.0.1";
  process.env.DATABASE_URL = url.href;
  const workshop = await createWorkshop(database(), "Away");
  cookie = await cookieOf("owner", workshop, "owner");
  jobId = (await createJob(database(), { ...AUTHOR, workshopId: workshop }, jobOf())).id;
  routes = await everyRoute();
});
afterAll(async () => {
  await way.open();
  // Connections that were lost on the way end with an error of their own.
  await closeAuth().catch(() => undefined);
  await closeDatabase();
  await way.refuse();
});

/** Routes that say what they have to say without the database. */
const WITHOUT = ["/api/health", "/api/health/ready", "/api/metrics", "/api/[...path]"];
/** Routes that anybody may ask: some refuse what is asked before they look. */
const OPEN = [
  "/api/session",
  "/api/session/code",
  "/api/session/demo",
  "/api/begin",
  "/api/join/[token]",
  "/c/[token]",
];

async function timed(ask: () => Promise<Response>): Promise<{ status: number; retry: string | null; ms: number }> {
  const from = performance.now();
  const answer = await ask();
  await answer.body?.cancel();
  return { status: answer.status, retry: answer.headers.get("retry-after"), ms: performance.now() - from };
}

const calls = () =>
  routes
    .filter(({ path }) => !WITHOUT.includes(path))
    .flatMap(({ path, module }) =>
      ["GET", "POST", "PUT", "DELETE"]
        .filter((method) => method in module)
        .map((method) => ({ path, method, handler: module[method] as Handler })),
    );

function ask({ path, method, handler }: ReturnType<typeof calls>[number]): Promise<Response> {
  const headers = { host: "127.0.0.1", "content-type": "application/json", cookie };
  const body = method === "GET" ? {} : { body: "{}" };
  const names = ["id", "link", "revision", "reading", "photo", "import", "token"];
  const params = { ...Object.fromEntries(names.map((name) => [name, jobId])), part: "readings", seq: "0" };
  return handler(new Request(`http://127.0.0.1${path}`, { method, headers, ...body }), {
    params: Promise.resolve(params),
  });
}

const visit = (path: string) =>
  proxy(new NextRequest(`http://127.0.0.1${path}`, { headers: { host: "127.0.0.1", cookie } }));
const PAGES = ["/", "/sign-in", "/people", "/jobs/x/bank", "/test-runs/x", "/c/y"];

describe.each<[string, () => Promise<void> | void]>([
  ["is gone", () => way.refuse()],
  ["stands still", () => way.freeze()],
])("while the database %s", (_, leave) => {
  it("every route says so within three seconds, and with when to ask again", async () => {
    expect((await ask(calls().find(({ path }) => path === "/api/jobs/[id]")!)).status).toBe(200);
    await leave();
    forgetSessions();
    const asked = await Promise.all(calls().map(async (one) => ({ ...one, ...(await timed(() => ask(one))) })));
    const wrong = asked.filter(({ path, status, retry, ms }) => {
      const said = status === 503 && retry !== null;
      return ms > SOON_MS || !(said || (OPEN.includes(path) && status < 500));
    });
    expect(
      wrong.map(({ method, path, status, ms }) => `${method} ${path}: ${status} after ${Math.round(ms)} ms`),
    ).toEqual([]);
    expect(asked.length).toBeGreaterThan(60);
  }, 30_000);
  it("every page says so within three seconds", async () => {
    for (const path of PAGES) {
      const { status, retry, ms } = await timed(() => visit(path));
      expect([status, retry], path).toEqual([503, "5"]);
      expect(ms).toBeLessThan(SOON_MS);
    }
  });
  it("serves again when it is back", async () => {
    await way.open();
    await expect.poll(async () => (await visit("/")).status, { timeout: 15_000 }).toBe(200);
    const job = calls().find(({ path }) => path === "/api/jobs/[id]")!;
    await expect.poll(async () => (await ask(job)).status, { timeout: 25_000 }).toBe(200);
  }, 45_000);
});
