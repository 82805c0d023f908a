/* A backup is what comes back: restored to an empty database, and compared table by table. */
import { mkdtempSync, readFileSync, truncateSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import type { Knex } from "knex";
import { v7 as uuid } from "uuid";
import { afterAll, beforeAll, describe, expect, it } from "vitest";
import { connect } from "@/server/database";
import { createJob, listJobs } from "@/server/jobs";
import { addPhoto, addReadings, createTestRun } from "@/server/test-runs";
import { backup, restore } from "../../tools/backup";
import { demoJob } from "../jobs";
import { AUTHOR, WORKSHOP, ownDatabase } from "./own-database";

const folder = mkdtempSync(join(tmpdir(), "chillbank-backup-"));
const file = join(folder, "record.backup");
let from: Knex;
let fromUrl = "";
let toUrl = "";
beforeAll(async () => {
  [fromUrl, toUrl] = [await ownDatabase(), await ownDatabase()];
  from = connect(fromUrl);
  const { id: jobId } = await createJob(from, AUTHOR, demoJob("1-folio"));
  const run = await createTestRun(from, { jobId, name: "Run “1”", kind: "k", startedMs: Date.UTC(2026, 6, 1) });
  await addPhoto(
    from,
    run,
    uuid(),
    "image/jpeg",
    Uint8Array.from({ length: 300_000 }, (_, i) => (i * 7) % 256),
  );
  const values = { battery_current_a: -41.5 };
  await addReadings(from, run, [{ id: uuid(), timeMs: Date.UTC(2026, 6, 1), values, note: "\u{1F321} warm" }]);
  await backup(fromUrl, file);
});
afterAll(() => from.destroy());

/** Every row of every table, in an order of its own. */
async function everything(url: string): Promise<Record<string, string[]>> {
  const db = connect(url);
  const [tables] = (await db.raw("SHOW TABLES")) as [Record<string, string>[]];
  const out: Record<string, string[]> = {};
  for (const name of tables.map((row) => Object.values(row)[0]!)) {
    const rows = (await db(name)) as object[];
    out[name] = rows.map((row) => JSON.stringify(row)).sort();
  }
  await db.destroy();
  return out;
}

describe("a backup", () => {
  it.each<[string, (bytes: Buffer) => Buffer | number, RegExp]>([
    [
      "with one byte changed",
      (bytes) => Buffer.concat([bytes.subarray(0, 5000), Buffer.from([bytes[5000]! ^ 1]), bytes.subarray(5001)]),
      /damaged/,
    ],
    ["cut off", (bytes) => bytes.length - 10, /cut off/],
    ["of something else", () => Buffer.from("PK\u0003\u0004"), /not a backup/],
  ])("%s is refused, and nothing is touched", async (_, spoil, words) => {
    const spoilt = join(folder, "spoilt.backup");
    const bytes = readFileSync(file);
    const change = spoil(bytes);
    writeFileSync(spoilt, typeof change === "number" ? bytes : change);
    if (typeof change === "number") truncateSync(spoilt, change);
    const before = await everything(toUrl);
    await expect(restore(toUrl, spoilt)).rejects.toThrow(words);
    expect(await everything(toUrl)).toEqual(before);
  });
  it("brings back every row of every table in an empty database", async () => {
    await restore(toUrl, file);
    expect(await everything(toUrl)).toEqual(await everything(fromUrl));
    const to = connect(toUrl);
    expect((await listJobs(to, WORKSHOP, { query: "", page: 1 })).rows).toHaveLength(1);
    await to.destroy();
  });
  it("is not restored over jobs that are there", async () => {
    await expect(restore(fromUrl, file)).rejects.toThrow(/holds jobs already/);
  });
});
