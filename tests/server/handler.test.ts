import { describe, expect, it, vi } from "vitest";
import { emptyJob } from "@/core/document/schema";
import { emptyEntry } from "@/core/applications/parts/shelf";
import { foreignOrigin } from "@/server/origin";
import { publicHandler, entryOfBody, revisionOfBody, jobOfBody } from "@/server/handler";

const ID = "019341f0-0000-7000-8000-000000000001";
const answer = publicHandler<{ id: string }>((_, { id }) => Promise.resolve(Response.json({ id })), "No such thing.");
const knock = (headers: Record<string, string>, id = ID) =>
  answer(new Request("http://127.0.0.1:3210/", { headers }), { params: Promise.resolve({ id }) });

describe("the handlers", () => {
  it.each([["127.0.0.1:3210"], ["localhost:3210"], ["[::1]:3210"]])("opens to %s", async (host) => {
    const response = await knock({ host });
    expect([response.status, await response.json()]).toEqual([200, { id: ID }]);
  });
  it("opens where the address holds no id at all", async () => {
    const plain = publicHandler(() => Promise.resolve(new Response("in")));
    const request = new Request("http://127.0.0.1/", { headers: { host: "127.0.0.1" } });
    const context = { params: Promise.resolve(undefined as unknown as Record<string, never>) };
    expect(await (await plain(request, context)).text()).toBe("in");
  });
  it.each<[string, Record<string, string>]>([
    ["another name pointed at this machine", { host: "evil.example" }],
    ["no name at all", {}],
    ["a page of another site", { host: "127.0.0.1", "sec-fetch-site": "cross-site" }],
    ["a page of the same site but another origin", { host: "127.0.0.1", "sec-fetch-site": "same-site" }],
    ["a page of another site that says its origin alone", { host: "127.0.0.1", origin: "https://evil.example" }],
    ["a sandboxed page, whose origin is none", { host: "127.0.0.1", origin: "null" }],
  ])("stays shut to %s", async (_, headers) => {
    expect((await knock(headers)).status).toBe(403);
  });
  it.each(["", "1", "not-an-id", `${ID}'--`, "../../etc"])(
    "answers 404 to the id %j before anything is asked of the database",
    async (id) => {
      const response = await knock({ host: "127.0.0.1" }, id);
      expect([response.status, await response.json()]).toEqual([404, { error: "No such thing.", faults: [] }]);
    },
  );
});

describe("whoever comes from elsewhere", () => {
  const webmail = (path: string, mode = "navigate", method = "GET") =>
    foreignOrigin(
      method,
      path,
      new Headers({ host: "127.0.0.1:3210", "sec-fetch-site": "cross-site", "sec-fetch-mode": mode }),
    );
  it("may go to a customer's page by the link in a mail", () => {
    expect(webmail("/c/0123456789abcdef0123456789abcdef")).toBeNull();
  });
  it.each([
    ["have a page ask for it", "/c/x", "no-cors", "GET"],
    ["go to what answers data", "/api/jobs/whole", "navigate", "GET"],
    ["send a form to a page", "/", "navigate", "POST"],
  ])("may not %s", (_, path, mode, method) => {
    expect(webmail(path, mode, method)).toBe("Requests from other sites are refused.");
  });
  it("is let in by the name that the installation is set to answer to, and by no other", () => {
    vi.stubEnv("CHILLBANK_URL", "https://chillbank.workshop.example");
    const by = (host: string) => foreignOrigin("GET", "/", new Headers({ host }));
    expect(by("chillbank.workshop.example")).toBeNull();
    expect(by("other.example")).toBe("This Chillbank answers this machine alone.");
    vi.unstubAllEnvs();
  });
});

describe("a handler that breaks down", () => {
  it("tells the log of a database's fault without what customers entered", async () => {
    const log = vi.spyOn(console, "error").mockImplementation(() => undefined);
    const fault = Object.assign(new Error("Data too long"), {
      code: "ER_DATA_TOO_LONG",
      sql: "insert into jobs values ('Jane Doe')",
      sqlMessage: "Data too long for column 'name', value 'Jane Doe'",
    });
    const broken = publicHandler(() => Promise.reject(fault));
    const request = new Request("http://127.0.0.1/api/jobs", { headers: { host: "127.0.0.1" } });
    expect((await broken(request, { params: Promise.resolve({}) })).status).toBe(500);
    expect(JSON.stringify(log.mock.calls)).not.toContain("Jane Doe");
    expect(JSON.stringify(log.mock.calls)).toContain("ER_DATA_TOO_LONG");
    log.mockRestore();
  });
  it("is answered as an error of the server in words, and its reason goes into the log alone", async () => {
    const log = vi.spyOn(console, "error").mockImplementation(() => {});
    const broken = publicHandler(() => Promise.reject(new Error("a secret of the database")));
    const request = new Request("http://127.0.0.1/api/jobs?q=1", { headers: { host: "127.0.0.1" } });
    const response = await broken(request, { params: Promise.resolve({}) });
    expect(response.status).toBe(500);
    expect(await response.json()).toEqual({
      error: "The server could not do this. Try again in a moment.",
      faults: [],
    });
    expect(log).toHaveBeenCalledWith("GET /api/jobs", expect.objectContaining({ message: "a secret of the database" }));
    log.mockRestore();
  });
});

describe("bodies", () => {
  it.each([null, [], "text", 7, {}])("%j is no system, no part and no revision", (body) => {
    expect(jobOfBody(body)).toMatchObject({ ok: false, refusal: { status: 400 } });
    expect(entryOfBody(body)).toMatchObject({ ok: false, refusal: { status: 400 } });
    expect(revisionOfBody(body)).toMatchObject({ ok: false, refusal: { status: 400, faults: [{ path: "revision" }] } });
  });
  it.each([0, -1, 1.5, "1", 5_000_000_000])("a revision of %j is none", (revision) => {
    expect(revisionOfBody({ revision })).toMatchObject({ ok: false });
  });
  it("good ones come through", () => {
    expect(jobOfBody({ job: emptyJob("A") })).toMatchObject({ ok: true, job: { name: "A" } });
    expect(entryOfBody({ entry: emptyEntry("panel", "P") })).toMatchObject({ ok: true, entry: { name: "P" } });
    expect(revisionOfBody({ revision: 3 })).toEqual({ ok: true, revision: 3 });
  });
});
