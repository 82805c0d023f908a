import { describe, expect, it, vi } from "vitest";
import { emptyJob } from "@/core/document/schema";
import { emptyEntry } from "@/core/applications/parts/shelf";
import { handler, entryOfBody, revisionOfBody, jobOfBody } from "@/server/door";

const ID = "019341f0-0000-7000-8000-000000000001";
const answer = handler<{ id: string }>((_, { id }) => Promise.resolve(Response.json({ id })), "No such thing.");
const knock = (headers: Record<string, string>, id = ID) =>
  answer(new Request("http://127.0.0.1:3210/", { headers }), { params: Promise.resolve({ id }) });

describe("the door", () => {
  it.each([["127.0.0.1:3210"], ["localhost:3210"], ["[::1]:3210"]])("opens to %s", async (host) => {
    const response = await knock({ host });
    expect([response.status, await response.json()]).toEqual([200, { id: ID }]);
  });
  it("opens where the address holds no id at all", async () => {
    const plain = handler(() => Promise.resolve(new Response("in")));
    const request = new Request("http://127.0.0.1/", { headers: { host: "127.0.0.1" } });
    const context = { params: Promise.resolve(undefined as unknown as Record<string, never>) };
    expect(await (await plain(request, context)).text()).toBe("in");
  });
  it.each<[string, Record<string, string>]>([
    ["another name pointed at this machine", { host: "evil.example" }],
    ["no name at all", {}],
    ["a page of another site", { host: "127.0.0.1", "sec-fetch-site": "cross-site" }],
    ["a page of the same site but another origin", { host: "127.0.0.1", "sec-fetch-site": "same-site" }],
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

describe("a handler that breaks down", () => {
  it("is answered as an error of the server in words, and its reason goes into the log alone", async () => {
    const log = vi.spyOn(console, "error").mockImplementation(() => {});
    const broken = handler(() => Promise.reject(new Error("a secret of the database")));
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
