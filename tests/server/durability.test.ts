/* What was acknowledged survives the worst: the database killed, its owner gone. */
import { AUTHOR, WORKSHOP } from "./own-database";
import { spawnSync } from "node:child_process";
import { randomBytes } from "node:crypto";
import { cpSync, mkdirSync, mkdtempSync, readFileSync, rmSync, writeFileSync } from "node:fs";
import { createServer, type AddressInfo } from "node:net";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { afterAll, beforeAll, describe, expect, it, vi } from "vitest";
import { connect } from "@/server/database";
import { createJob, getJob, listJobs, saveJob } from "@/server/jobs";
import { freePort, isAlive, startMariaDb } from "../../tools/mariadb";
import { migrate, seedDemo } from "../../tools/schema";
import { v4 as uuid } from "uuid";
import { packReadings } from "@/core/applications/test-run/log/packed";
import { fromList } from "@/core/applications/test-run/log/readings";
import {
  addPhoto,
  addReadings,
  createTestRun,
  getPhoto,
  lastReadings,
  logOfTestRun,
  openImport,
  putChunk,
} from "@/server/test-runs";
import { type SentReading } from "@/contract/test-runs";
import { q, jobOf } from "../jobs";

const folder = join(import.meta.dirname, "../../.local/durability");
/** Migrated once, and ended: each test's own begins as a copy of it. */
const template = join(folder, "template");
/** The database that several tests use, one after the other. */
const own = join(folder, "own");
const pidOf = (place: string) => Number(readFileSync(join(place, "mariadb.pid"), "utf8"));
/** Starts a database of its own in `place`, with the schema. */
function startMigrated(place: string): ReturnType<typeof startMariaDb> {
  cpSync(template, place, { recursive: true });
  return startMariaDb(place);
}
const deadPid = () => spawnSync("true").pid;
const gone = async (process: number) => {
  for (let wait = 0; wait < 100 && isAlive(process); wait++) await new Promise((resolve) => setTimeout(resolve, 50));
};

/** Mounts a disk in memory that is small enough to be filled. */
const mount = (place: string) => spawnSync("mount", ["-t", "tmpfs", "-o", "size=420m", "tmpfs", place]).status === 0;
/** Whether this machine lets the tests do that: root alone may, and not in every container. */
function mountable(): boolean {
  const place = mkdtempSync(join(tmpdir(), "chillbank-disk-"));
  const mounted = mount(place);
  if (mounted) spawnSync("umount", [place]);
  rmSync(place, { recursive: true, force: true });
  return mounted;
}

beforeAll(async () => {
  rmSync(folder, { recursive: true, force: true });
  mkdirSync(template, { recursive: true });
  const database = await startMariaDb(template);
  await migrate(database.url);
  await database.stop();
});
let stop: () => Promise<void> = async () => {};
let url = "";
let stopTestRun: () => Promise<void> = async () => {};
afterAll(() => stop());
afterAll(() => stopTestRun());
const T0 = Date.UTC(2026, 7, 14, 12);

describe("the project's own database", () => {
  it("keeps every acknowledged save through a kill -9", async () => {
    const first = await startMigrated(own);
    stop = first.stop;
    const db = connect(first.url);
    const { id } = await createJob(db, AUTHOR, jobOf({ bank: { capacityAh: q(200) } }));
    for (let revision = 1; revision <= 5; revision++) {
      const saved = await saveJob(db, AUTHOR, {
        id,
        revision: revision,
        job: jobOf({ bank: { capacityAh: q(200 + revision) } }),
      });
      expect(saved.outcome).toBe("saved");
    }
    const killed = pidOf(own);
    process.kill(killed, "SIGKILL");
    await gone(killed);
    await db.destroy();

    const second = await startMariaDb(own);
    stop = second.stop;
    const again = connect(second.url);
    const found = await getJob(again, id);
    expect(found?.revision).toBe(6);
    expect(found?.job.bank.capacityAh?.value).toBe(205);
    await again.destroy();
  });

  it("has every acknowledged reading once after a kill -9 in a burst, and shows nothing of an import that was cut off", async () => {
    const place = join(folder, "test-run");
    const first = await startMigrated(place);
    stopTestRun = first.stop;
    const db = connect(first.url);
    const { id: jobId } = await createJob(db, AUTHOR, jobOf());
    const testRunId = await createTestRun(db, { jobId, name: "T", kind: "k", startedMs: T0 });
    const importId = await openImport(db, testRunId, "meter.csv");
    const piece = packReadings(fromList([{ timeMs: T0, values: { battery_current_a: -1 } }]));
    await putChunk(db, testRunId, importId, "readings", 0, piece);
    const acknowledged: string[] = [];
    const sent: SentReading[] = [];
    const killed = pidOf(place);
    // A burst, and the end of the server in the middle of it.
    for (let i = 0; ; i++) {
      const reading = { id: uuid(), timeMs: T0 + i * 1000, values: { battery_current_a: -i } };
      sent.push(reading);
      if (i === 40) process.kill(killed, "SIGKILL");
      try {
        await addReadings(db, testRunId, [reading]);
        acknowledged.push(reading.id);
      } catch {
        break;
      }
    }
    await gone(killed);
    await db.destroy();

    const second = await startMariaDb(place);
    stopTestRun = second.stop;
    const again = connect(second.url);
    const stored = new Set((await lastReadings(again, testRunId, 500)).map(({ id }) => id));
    for (const id of acknowledged) expect(stored.has(id)).toBe(true);
    // The sender goes on with what it had no answer to: each is there once.
    await addReadings(again, testRunId, sent);
    const log = await logOfTestRun(again, testRunId);
    expect(log.timeMs).toHaveLength(sent.length);
    expect(new Set(log.timeMs).size).toBe(sent.length);
    await again.destroy();
    await second.stop();
  });

  it("that stands still is given up on within seconds, and what is sent again once it goes on is stored once", async () => {
    const standing = await startMigrated(join(folder, "standing"));
    stopTestRun = standing.stop;
    const db = connect(standing.url, { longestStatementS: 1 });
    const { id: jobId } = await createJob(db, AUTHOR, jobOf());
    const testRunId = await createTestRun(db, { jobId, name: "T", kind: "k", startedMs: T0 });
    const reading = { id: uuid(), timeMs: T0, values: { battery_current_a: -1 } };
    standing.process.kill("SIGSTOP");
    const from = Date.now();
    await expect(addReadings(db, testRunId, [reading])).rejects.toThrow();
    expect(Date.now() - from).toBeLessThan(15_000);
    standing.process.kill("SIGCONT");
    await vi.waitFor(() => addReadings(db, testRunId, [reading]), { timeout: 30_000, interval: 200 });
    expect(await lastReadings(db, testRunId, 10)).toHaveLength(1);
    await db.destroy();
    await standing.stop();
  });

  it.runIf(mountable())(
    "whose disk is full takes nothing by half, and has what it acknowledged once there is room",
    async () => {
      const small = join(folder, "small");
      mkdirSync(small);
      mount(small);
      let running = await startMigrated(small);
      try {
        const db = connect(running.url);
        const { id: jobId } = await createJob(db, AUTHOR, jobOf());
        const testRunId = await createTestRun(db, { jobId, name: "T", kind: "k", startedMs: T0 });
        const ballast = join(small, "ballast");
        spawnSync("dd", ["if=/dev/zero", `of=${ballast}`, "bs=1M"]);
        const bytes = randomBytes(1024 * 1024);
        const kept = new Map<string, boolean>();
        for (let n = 0; n < 16; n++) {
          const id = uuid();
          const stored = addPhoto(db, testRunId, id, "image/jpeg", bytes);
          kept.set(
            id,
            await stored.then(
              () => true,
              () => false,
            ),
          );
        }
        expect([...kept.values()]).toContain(false);
        await db.destroy();
        // Whether it refuses or ends is its own affair; a supervisor starts it again.
        await running.stop();
        rmSync(ballast);
        running = await startMariaDb(small);
        const again = connect(running.url);
        for (const [id, acknowledged] of kept) {
          const photo = await getPhoto(again, testRunId, id);
          if (acknowledged) expect(photo?.bytes.length, id).toBe(bytes.length);
          else await addPhoto(again, testRunId, id, "image/jpeg", bytes);
          expect((await getPhoto(again, testRunId, id))!.bytes.equals(bytes)).toBe(true);
        }
        await again.destroy();
      } finally {
        await running.stop();
        spawnSync("umount", [small]);
      }
    },
  );

  it("is not started twice on the same data while its owner lives", async () => {
    await expect(startMariaDb(own)).rejects.toThrow(/already runs on this data \(process \d+\)/);
  });

  it("is taken over where its owner was killed", async () => {
    const orphan = pidOf(own);
    writeFileSync(join(own, "owner.pid"), String(deadPid()));
    const next = await startMariaDb(own);
    ({ stop, url } = next);
    expect(isAlive(orphan)).toBe(false);
    const db = connect(next.url);
    expect((await listJobs(db, WORKSHOP, { query: "", page: 1 })).total).toBe(1);
    await db.destroy();
  });

  it("has a folder of its own for temporary tables, which another server that starts would empty", async () => {
    const folderOf = async (at: string) => {
      const db = connect(at);
      const [[row]] = (await db.raw("SELECT @@tmpdir AS folder")) as [[{ folder: string }]];
      await db.destroy();
      return row.folder;
    };
    const other = await startMigrated(join(folder, "other"));
    expect(await folderOf(url)).not.toBe(await folderOf(other.url));
    await other.stop();
  });

  it("is migrated and seeded once: a second time changes nothing, and jobs of one's own keep the demo out", async () => {
    await migrate(url);
    await seedDemo(url, "a password of the demo");
    const db = connect(url);
    expect((await listJobs(db, WORKSHOP, { query: "", page: 1 })).total).toBe(1);
    await db("jobs").delete();
    // Those without a test run: the browser tests run in all of the demo.
    const files = ["4-skep.json", "3-shearwater.json"];
    await seedDemo(url, "a password of the demo", files);
    await seedDemo(url, "a password of the demo", files);
    const { id } = (await db("workshops").first("id")) as { id: string };
    expect((await listJobs(db, id, { query: "", page: 1 })).total).toBe(2);
    await db.destroy();
  });

  it("listens on loopback alone", () => {
    expect(readFileSync(`/proc/${pidOf(own)}/cmdline`, "utf8")).toContain("--bind-address=127.0.0.1");
  });
});

describe("a free port", () => {
  it("is the wanted one where nobody has it, another where somebody has", async () => {
    const wanted = await freePort();
    expect(await freePort(wanted)).toBe(wanted);
    const holder = createServer().listen(wanted, "127.0.0.1");
    await new Promise((resolve) => holder.once("listening", resolve));
    expect((holder.address() as AddressInfo).port).toBe(wanted);
    expect(await freePort(wanted)).not.toBe(wanted);
    await new Promise((resolve) => holder.close(resolve));
  });
});
