import { afterAll, afterEach, beforeAll, describe, expect, it, vi } from "vitest";
import { GET as metrics } from "@/app/api/metrics/route";
import { GET as list } from "@/app/api/parts/route";
import { publicHandler } from "@/server/handler";
import { closeDatabase } from "@/server/database";
import { ownDatabase } from "./own-database";

const WORD = "a word for whoever watches";
const HERE = { headers: { host: "127.0.0.1" } };
const asked = (word?: string) =>
  metrics(
    new Request(
      "http://127.0.0.1/api/metrics",
      word === undefined ? {} : { headers: { authorization: `Bearer ${word}` } },
    ),
  );

/** How many requests the server has answered so, in this process. */
async function countOf(labels: string): Promise<number> {
  const text = await (await asked(WORD)).text();
  return Number(text.match(`chillbank_request_seconds_count\\{${labels}\\} (\\d+)`)?.[1] ?? 0);
}

beforeAll(async () => {
  process.env.DATABASE_URL = await ownDatabase();
});
afterAll(closeDatabase);
afterEach(() => vi.stubEnv("CHILLBANK_METRICS", undefined));

describe("metrics", () => {
  it.each([
    ["where no word is set", undefined, WORD],
    ["without a word", WORD, undefined],
    ["with another word", WORD, "another"],
  ])("are not there %s", async (_, set, said) => {
    vi.stubEnv("CHILLBANK_METRICS", set);
    expect((await asked(said)).status).toBe(404);
  });
  it("count answers by route and outcome, an id standing as {id}", async () => {
    vi.stubEnv("CHILLBANK_METRICS", WORD);
    const [shelf, failing] = [
      'method="GET",route="/api/parts",status="200"',
      'method="GET",route="/api/jobs/\\{id\\}",status="503"',
    ];
    const before = [await countOf(shelf), await countOf(failing)];
    await list(new Request("http://127.0.0.1/api/parts", HERE), { params: Promise.resolve({}) });
    const broken = publicHandler<{ id: string }>(() => {
      throw Object.assign(new Error("gone"), { code: "ECONNREFUSED" });
    });
    const id = "0190aaaa-0000-7000-8000-000000000009";
    const answer = await broken(new Request(`http://127.0.0.1/api/jobs/${id}`, HERE), {
      params: Promise.resolve({ id }),
    });
    expect([answer.status, answer.headers.get("retry-after")]).toEqual([503, "5"]);
    expect([await countOf(shelf), await countOf(failing)]).toEqual(before.map((count) => count + 1));
    const text = await (await asked(WORD)).text();
    expect(text).toMatch(/chillbank_database_connections_used \d/);
    expect(text).not.toContain(id);
  });
});
