/* Whether a visitor would be served, with real threads and a real database in the way; and who watches. */
import { pbkdf2 } from "node:crypto";
import { createServer, type Server } from "node:http";
import type { AddressInfo } from "node:net";
import { afterAll, beforeAll, describe, expect, it, vi } from "vitest";
import * as ready from "@/app/api/health/ready/route";
import { closeDatabase, database } from "@/server/database";
import { watch } from "../../tools/watch";
import { ownDatabase } from "./own-database";

const asked = async () => {
  const answer = await ready.GET();
  return [answer.status, await answer.json()] as const;
};

describe("being ready", () => {
  beforeAll(async () => {
    process.env.DATABASE_URL = await ownDatabase();
  });
  afterAll(closeDatabase);
  it("is said where sessions and jobs can be read", async () => {
    expect(await asked()).toEqual([200, { ok: true, server: true, database: true }]);
  });
  it("is not said where every connection is taken, and again once one is free", async () => {
    const taken = await Promise.all(Array.from({ length: 8 }, () => database().transaction()));
    expect(await asked()).toEqual([503, { ok: false, server: true, database: false }]);
    await Promise.all(taken.map((tx) => tx.rollback()));
    await vi.waitFor(async () => expect((await asked())[0]).toBe(200), { timeout: 10_000 });
  });
  it("is not said where all threads are at work that does not end, as pictures once were", async () => {
    const hashes = Array.from(
      { length: 4 },
      () => new Promise((resolve) => pbkdf2("x", "y", 3_000_000, 64, "sha512", resolve)),
    );
    expect((await asked())[1]).toMatchObject({ ok: false, server: false });
    await Promise.all(hashes);
  });
  it("is looked at once, however many ask", async () => {
    const begin = vi.spyOn(database(), "transaction");
    await Promise.all(Array.from({ length: 50 }, asked));
    expect(begin).toHaveBeenCalledTimes(1);
    begin.mockRestore();
  });
});

describe("a watch", () => {
  let answers: (number | "none")[] = [];
  let server: Server;
  let address = "";
  beforeAll(async () => {
    server = createServer((_, response) => {
      const next = answers.shift() ?? 200;
      // One that stands still takes the connection and says nothing.
      if (next !== "none") response.writeHead(next).end(JSON.stringify({ server: next === 200, database: false }));
    });
    await new Promise<void>((resolve) => void server.listen(0, "127.0.0.1", resolve));
    address = `http://127.0.0.1:${(server.address() as AddressInfo).port}/api/health/ready`;
  });
  afterAll(() => void server.closeAllConnections());
  it.each<[string, (number | "none")[], number]>([
    ["a server that is well while its database is away is left alone", [200, 200, 200, 200], 0],
    ["one that stands still is found", ["none", "none", "none"], 1],
    ["one that says that it is stuck is found", [503, 503, 503], 1],
    ["one that was stuck twice and came back is left alone", ["none", 503, 200, 503, 503], 0],
  ])("%s", async (_, list, calls) => {
    answers = [...list];
    const stuck = vi.fn();
    const end = watch({ address, everyMs: 10, patienceMs: 200, failures: 3 }, stuck);
    await vi.waitFor(() => expect(answers).toEqual([]), { timeout: 5000 });
    await new Promise((resolve) => setTimeout(resolve, 300));
    end();
    expect(stuck).toHaveBeenCalledTimes(calls);
  });
  it("finds one that is not there", async () => {
    const stuck = vi.fn();
    watch({ address: "http://127.0.0.1:9/", everyMs: 10, patienceMs: 200 }, stuck);
    await vi.waitFor(() => expect(stuck).toHaveBeenCalledTimes(1), { timeout: 5000 });
  });
});
