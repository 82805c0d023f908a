import { setFlagsFromString } from "node:v8";
import { runInNewContext } from "node:vm";
import { afterAll, beforeAll, describe, expect, it, vi } from "vitest";
import { ROLE_KEYS } from "@/contract/people";
import { emptyJob } from "@/core/document/schema";
import { closeDatabase, database } from "@/server/database";
import { createJob } from "@/server/jobs";
import { createTestRun } from "@/server/test-runs";
import { whoAsks, type Who } from "@/server/who";
import { cases } from "../cases";
import { everyRoute, hostile, type Route } from "./hostile";
import { AUTHOR, ownDatabase } from "./own-database";

let routes: Route[] = [];
let ids: string[] = [];
let owner: Who;
beforeAll(async () => {
  process.env.DATABASE_URL = await ownDatabase();
  const { id } = await createJob(database(), AUTHOR, emptyJob("Hostile"));
  ids = [id, await createTestRun(database(), { jobId: id, name: "Run", kind: "k", startedMs: Date.now() })];
  routes = await everyRoute();
  owner = (await whoAsks(new Headers()))!;
});
afterAll(closeDatabase);

const REQUESTS = cases(2000, 20_000);
const LOT = 250;
/** The lot after which every route has been loaded. */
const WARM = 3;
/** What may be left of all requests after it: the last documents that were made, and what was remembered of sessions. */
const LEFT_BYTES = 40e6;
let heapBefore = 0;

/** Bytes in use once what nobody holds any more is gone. */
function heapNow(): number {
  setFlagsFromString("--expose-gc");
  (runInNewContext("gc") as () => void)();
  return process.memoryUsage().heapUsed;
}

/** What a request was answered with, and after how many milliseconds. */
async function duration(call: () => Promise<Response> | null) {
  const started = Date.now();
  const answer = await call();
  await answer?.body?.cancel();
  return { answer, ms: Date.now() - started };
}

describe("hostile requests", () => {
  it("are made for every route", () => {
    expect(routes.length).toBeGreaterThan(35);
  });
  it.each(Array.from({ length: REQUESTS / LOT }, (_, lot) => lot))(
    "draw no 500 and no answer that takes two seconds, lot %i of 250",
    async (lot) => {
      const log = vi.spyOn(console, "error").mockImplementation(() => undefined);
      const bad: string[] = [];
      for (let seed = 1 + lot * LOT; seed <= (lot + 1) * LOT; seed++) {
        // By turns from nobody who is signed in, and from somebody of each role.
        const role = [null, ...ROLE_KEYS][seed % 4];
        vi.mocked(whoAsks).mockResolvedValue(role ? { ...owner, role } : null);
        const { words, call } = hostile(seed, routes, ids);
        let took = await duration(call);
        const { answer } = took;
        if (!answer) continue;
        if (answer.status >= 500 && answer.status !== 503)
          bad.push(`${words}: ${answer.status} ${String(log.mock.lastCall?.[1]).slice(0, 200)}`);
        // A document that was asked for well is made, however long that takes.
        if (words.includes("/handover")) continue;
        // A machine that stands still for seconds makes any request slow once; a request that is slow by itself stays so.
        for (let again = 0; took.ms > 2000 && again < 2; again++) took = await duration(call);
        if (took.ms > 2000) bad.push(`${words}: ${took.ms} ms, three times`);
      }
      log.mockRestore();
      expect(bad).toEqual([]);
      if (lot === WARM) heapBefore = heapNow();
    },
  );
  it("leave no memory behind", () => {
    expect(heapNow() - heapBefore).toBeLessThan(LEFT_BYTES);
  });
});
