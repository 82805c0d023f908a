/* A backup is what comes back: restored to an empty database, and compared table by table. */
import { createHash } from "node:crypto";
import { mkdtempSync, readFileSync, truncateSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { gzipSync } from "node:zlib";
import type { Knex } from "knex";
import { v7 as uuid } from "uuid";
import { afterAll, afterEach, beforeAll, describe, expect, it } from "vitest";
import { connect } from "@/server/database";
import { createJob, listJobs } from "@/server/jobs";
import { addPhoto, addReadings, createTestRun } from "@/server/test-runs";
import { backup } from "../../tools/backup";
import { restore } from "../../tools/restore";
import { demoJob } from "../jobs";
import { AUTHOR, everything, WORKSHOP, ownDatabase } from "./own-database";

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

/** A file of before backups were signed, with these statements in it. */
function unsignedFile(statements: string): string {
  const payload = gzipSync(statements);
  const sum = createHash("sha256").update(payload).digest("hex");
  const made = join(folder, `${uuid()}.backup`);
  writeFileSync(
    made,
    Buffer.concat([Buffer.from(`chillbank-backup 1 ${payload.length} ${sum}`.padEnd(159) + "\n"), payload]),
  );
  return made;
}
const TABLE = "CREATE TABLE `jobs` (\n  `id` int\n);\nINSERT INTO `jobs` VALUES (1),\n(2);\n";

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
  it.each<[string, () => Promise<void>, RegExp]>([
    [
      "signed by another key",
      async () => {
        process.env.CHILLBANK_BACKUP_PASSPHRASE = "somebody else's";
        await restore(toUrl, file);
      },
      /signed by another key/,
    ],
    ["that was not signed", () => restore(toUrl, unsignedFile(TABLE)), /did not sign its backups/],
    [
      "whose sum was put right after it was changed",
      async () => {
        const bytes = readFileSync(file);
        const payload = gzipSync(TABLE);
        const [format, version, , , signature] = bytes.toString("latin1", 0, 160).trim().split(" ");
        const sum = createHash("sha256").update(payload).digest("base64url");
        const head = `${format} ${version} ${payload.length} ${sum} ${signature}`.padEnd(159) + "\n";
        writeFileSync(join(folder, "forged.backup"), Buffer.concat([Buffer.from(head), payload]));
        await restore(toUrl, join(folder, "forged.backup"));
      },
      /signed by another key/,
    ],
    [
      "that asks for something else than tables and rows",
      () => restore(toUrl, unsignedFile(`${TABLE}GRANT ALL ON *.* TO thief;\n`), { unsigned: true }),
      /asks for something that no backup does: GRANT ALL/,
    ],
    [
      "that has the client run a command",
      () => restore(toUrl, unsignedFile(`${TABLE}\\! touch /tmp/x\n;\n`), { unsigned: true }),
      /asks for something that no backup does/,
    ],
    [
      "that ends within its rows",
      () => restore(toUrl, unsignedFile(`${TABLE}INSERT INTO \`jobs\` VALUES (3),\n`), { unsigned: true }),
      /ends within a statement/,
    ],
    [
      "with a row that does not fit",
      () => restore(toUrl, unsignedFile(`${TABLE}INSERT INTO \`jobs\` VALUES (1,2,3);\n`), { unsigned: true }),
      /Column count/,
    ],
  ])("%s is refused, and what stands there stays", async (_, attempt, words) => {
    const before = await everything(toUrl);
    await expect(attempt()).rejects.toThrow(words);
    expect(await everything(toUrl)).toEqual(before);
  });
  afterEach(() => void delete process.env.CHILLBANK_BACKUP_PASSPHRASE);
  it("of before they were signed comes back where somebody says that it may", async () => {
    const url = await ownDatabase();
    await restore(url, unsignedFile(TABLE), { unsigned: true });
    expect(await everything(url)).toEqual({ jobs: ['{"id":1}', '{"id":2}'] });
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
