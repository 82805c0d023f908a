import { afterEach, describe, expect, it, vi } from "vitest";
import { emptyJob } from "@/core/document/schema";
import { fetchJob, sendJob } from "./server-calls";

const job = emptyJob("Mine");
const theirs = emptyJob("Theirs");
const answers = (answer: Response | Error) =>
  vi.stubGlobal(
    "fetch",
    answer instanceof Error ? vi.fn().mockRejectedValue(answer) : vi.fn().mockResolvedValue(answer),
  );
afterEach(() => vi.unstubAllGlobals());

describe("a save", () => {
  it.each<[string, Response | Error, unknown]>([
    [
      "is saved",
      Response.json({ revision: 2, updatedAt: "2026-07-01T00:00:00Z" }),
      { outcome: "saved", revision: 2, updatedAt: "2026-07-01T00:00:00Z" },
    ],
    [
      "meets what another window saved",
      Response.json({ error: "changed", current: { revision: 5, job: theirs } }, { status: 409 }),
      { outcome: "elsewhere", revision: 5, job: theirs },
    ],
    ["finds its job deleted", Response.json({ error: "gone" }, { status: 404 }), { outcome: "gone" }],
    [
      "is refused in the server's words",
      Response.json({ error: "name: too long" }, { status: 400 }),
      { outcome: "refused", message: "name: too long" },
    ],
    [
      "is refused where a conflict says nothing of what stands there",
      Response.json({ error: "changed" }, { status: 409 }),
      { outcome: "refused", message: "changed" },
    ],
    [
      "is tried again where the server broke down",
      Response.json({ error: "x" }, { status: 500 }),
      { outcome: "unreachable" },
    ],
    ["is tried again where there is no connection", new TypeError("Failed to fetch"), { outcome: "unreachable" }],
  ])("%s", async (_, answer, outcome) => {
    answers(answer);
    expect(await sendJob("id", 1, job)).toEqual(outcome);
  });
  it("sends the document over the revision it was read at", async () => {
    answers(Response.json({ revision: 2, updatedAt: "now" }));
    await sendJob("id", 1, job);
    const [path, init] = vi.mocked(fetch).mock.calls[0]!;
    expect([path, init!.method, JSON.parse(init!.body as string)]).toEqual([
      "/api/jobs/id",
      "PUT",
      { revision: 1, job },
    ]);
  });
});

describe("a look at what the server holds", () => {
  it.each<[string, Response | Error, unknown]>([
    [
      "gives its revision and document",
      Response.json({ revision: 3, job: theirs, more: 1 }),
      { revision: 3, job: theirs },
    ],
    ["is nothing where the job is gone", Response.json({ error: "gone" }, { status: 404 }), null],
    ["is nothing where it cannot be asked", new TypeError("Failed to fetch"), null],
    ["is nothing where what it holds is no document", Response.json({ revision: 3, job: { name: 1 } }), null],
  ])("%s", async (_, answer, expected) => {
    answers(answer);
    expect(await fetchJob("id")).toEqual(expected);
  });
});
