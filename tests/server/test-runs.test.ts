import { v4 as uuid } from "uuid";
import { afterAll, beforeAll, beforeEach, describe, expect, it } from "vitest";
import type { Knex } from "knex";
import { appendFileSync, mkdirSync, mkdtempSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { WebSocketServer } from "ws";
import { emptyJob } from "@/core/document/schema";
import { packReadings } from "@/core/applications/test-run/log/packed";
import { fromList, type Reading } from "@/core/applications/test-run/log/readings";
import { makeSimulator } from "@/core/applications/test-run/simulator/simulator";
import { connect } from "@/server/database";
import { fileInLogs, fileTailInstrument } from "@/server/instruments/file-tail";
import type { Instrument } from "@/server/instruments/instrument";
import { signalKInstrument } from "@/server/instruments/signal-k";
import { simulatedInstrument } from "@/server/instruments/simulated";
import { createJob } from "@/server/jobs";
import {
  addPhoto,
  addReadings,
  changeReading,
  changeTestRun,
  closeImport,
  createTestRun,
  deleteTestRun,
  dropImport,
  getPhoto,
  getTestRun,
  keepMapping,
  keptMapping,
  lastReadings,
  listTestRuns,
  logOfTestRun,
  openImport,
  originalFile,
  putChunk,
  readingHistory,
  restoreTestRun,
  sweepImports,
} from "@/server/test-runs";
import { sentReading } from "@/contract/test-runs";
import { jobOf } from "../jobs";
import { AUTHOR, WORKSHOP, ownDatabase } from "./own-database";

const T0 = Date.UTC(2026, 7, 14, 12);
let db: Knex;
let jobId: string;
let testRunId: string;
beforeAll(async () => {
  db = connect(await ownDatabase());
});
afterAll(() => db.destroy());
beforeEach(async () => {
  jobId = (await createJob(db, AUTHOR, jobOf())).id;
  testRunId = await createTestRun(db, { jobId, name: "TestRun 1", kind: "fixed speed, lithium", startedMs: T0 });
});

const sent = (minute: number, amps: number) => ({
  id: uuid(),
  timeMs: T0 + minute * 60_000,
  values: { battery_current_a: -amps },
});
const amps = async () => [...(await logOfTestRun(db, testRunId)).values.battery_current_a];

describe("a test run", () => {
  it("is started once however often it is sent", async () => {
    const id = uuid();
    for (let i = 0; i < 2; i++) await createTestRun(db, { id, jobId, name: "Once", kind: "k", startedMs: T0 });
    expect((await listTestRuns(db, jobId)).filter(({ name }) => name === "Once")).toHaveLength(1);
  });
  it("is finished with its snapshots and outcome, and its truth told only then", async () => {
    const id = await createTestRun(db, { jobId, name: "T", kind: "k", startedMs: T0, truth: { faults: ["bad-lug"] } });
    expect((await getTestRun(db, id))!.truth).toBeNull();
    const quantiles = { p10: 1, p50: 2, p90: null };
    const snapshots = [
      { minutes: 30, toReserve: quantiles, toCutoff: quantiles, hand: { now: 1, average: 2, halfHour: null } },
    ];
    await changeTestRun(db, id, { finished: true, snapshots, outcome: { reserveH: 3, cutoffH: null, endSoc: 0.2 } });
    expect(await getTestRun(db, id)).toMatchObject({
      snapshots,
      outcome: { reserveH: 3 },
      truth: { faults: ["bad-lug"] },
    });
  });
  it("is deleted and brought back with its readings", async () => {
    await addReadings(db, testRunId, [sent(0, 5)]);
    expect(await deleteTestRun(db, testRunId)).toBe(true);
    expect(await getTestRun(db, testRunId)).toBeNull();
    expect(await restoreTestRun(db, testRunId)).toBe(true);
    expect((await getTestRun(db, testRunId))!.readings).toBe(1);
  });
});

describe("readings", () => {
  it("sent twice are kept once", async () => {
    const list = [sent(0, 5), sent(1, 6)];
    expect(await addReadings(db, testRunId, list)).toBe(2);
    expect(await addReadings(db, testRunId, [...list, sent(2, 7)])).toBe(1);
    expect(await amps()).toEqual([-5, -6, -7]);
  });
  it("are kept all or none", async () => {
    const bad = { ...sent(1, 6), timeMs: Number.MAX_VALUE };
    await expect(addReadings(db, testRunId, [sent(0, 5), bad])).rejects.toThrow();
    expect(await amps()).toEqual([]);
  });
  it("are corrected over the version that was read, and what stood there stays in their history", async () => {
    const one = sent(0, 5);
    await addReadings(db, testRunId, [one]);
    const right = { timeMs: one.timeMs, values: { battery_current_a: -50 }, note: "misread" };
    expect(await changeReading(db, testRunId, one.id, 1, right)).toEqual({ outcome: "changed", version: 2 });
    expect(await changeReading(db, testRunId, one.id, 1, "delete")).toEqual({ outcome: "changed-elsewhere" });
    expect(await changeReading(db, testRunId, one.id, 2, "delete")).toEqual({ outcome: "changed", version: 3 });
    expect(await amps()).toEqual([]);
    expect(await changeReading(db, testRunId, one.id, 3, "restore")).toEqual({ outcome: "changed", version: 4 });
    expect(await amps()).toEqual([-50]);
    const history = await readingHistory(db, testRunId, one.id);
    expect(history!.map(({ values, deleted }) => [values.battery_current_a, deleted])).toEqual([
      [-5, false],
      [-50, false],
      [-50, true],
    ]);
  });
  it("of another test run are not reached", async () => {
    const one = sent(0, 5);
    await addReadings(db, testRunId, [one]);
    const other = await createTestRun(db, { jobId, name: "Other", kind: "k", startedMs: T0 });
    expect(await changeReading(db, other, one.id, 1, "delete")).toEqual({ outcome: "missing" });
    expect(await readingHistory(db, other, one.id)).toBeNull();
  });
  it.each<[string, object]>([
    ["no value", { id: uuid(), timeMs: T0, values: {} }],
    ["a current that no system has", { id: uuid(), timeMs: T0, values: { battery_current_a: 1e6 } }],
    ["a time before there were any", { id: uuid(), timeMs: 5, values: { battery_current_a: 1 } }],
    ["an id that is none", { id: "x", timeMs: T0, values: { battery_current_a: 1 } }],
    ["a column of its own", { id: uuid(), timeMs: T0, values: { rpm: 1 } }],
  ])("with %s are refused", (_, reading) => expect(sentReading.safeParse(reading).success).toBe(false));
});

describe("an import", () => {
  const piece = (from: number, n: number) =>
    packReadings(
      fromList(
        Array.from({ length: n }, (_, i) => ({
          timeMs: T0 + (from + i) * 1000,
          values: { battery_current_a: -(from + i) },
        })),
      ),
    );
  it("is unseen until it is whole, then at once, with its original file", async () => {
    const id = await openImport(db, testRunId, "meter.csv");
    expect(await putChunk(db, testRunId, id, "readings", 1, piece(3, 2))).toBe("kept");
    const early = await closeImport(db, testRunId, id, { readings: 2, file: 1, rows: 5 });
    expect(early.outcome).toBe("incomplete");
    // Sent twice, in any order: kept once.
    for (let i = 0; i < 2; i++) await putChunk(db, testRunId, id, "readings", 0, piece(0, 3));
    await putChunk(db, testRunId, id, "file", 0, Buffer.from("time,a\n"));
    expect(await amps()).toEqual([]);
    expect(await closeImport(db, testRunId, id, { readings: 2, file: 1, rows: 5 })).toEqual({
      outcome: "whole",
      rows: 5,
    });
    expect(await closeImport(db, testRunId, id, { readings: 2, file: 1, rows: 5 })).toEqual({
      outcome: "whole",
      rows: 5,
    });
    expect((await amps()).map((a) => a + 0)).toEqual([0, -1, -2, -3, -4]);
    expect((await originalFile(db, testRunId, id))!.bytes.toString()).toBe("time,a\n");
    expect(await putChunk(db, testRunId, id, "readings", 2, piece(9, 1))).toBe("missing");
    expect(await dropImport(db, testRunId, id)).toBe(true);
    expect(await amps()).toEqual([]);
  });
  it("refuses pieces that are no log, or of values that no system has", async () => {
    const id = await openImport(db, testRunId, "x");
    expect(await putChunk(db, testRunId, id, "readings", 0, Buffer.from("hello"))).toBe("broken");
    const wild = packReadings(fromList([{ timeMs: T0, values: { soc_pct: 900 } }]));
    expect(await putChunk(db, testRunId, id, "readings", 0, wild)).toBe("broken");
    const early = packReadings(fromList([{ timeMs: 5, values: { soc_pct: 9 } }]));
    expect(await putChunk(db, testRunId, id, "readings", 0, early)).toBe("broken");
  });
  it("that was begun and left is swept", async () => {
    const id = await openImport(db, testRunId, "left");
    await putChunk(db, testRunId, id, "readings", 0, piece(0, 1));
    expect(await sweepImports(db)).toBe(0);
    expect(await sweepImports(db, new Date(Date.now() + 1000))).toBeGreaterThan(0);
    expect(await putChunk(db, testRunId, id, "readings", 1, piece(1, 1))).toBe("missing");
  });
  it("remembers how a header was read", async () => {
    const mapping = { columns: [], decimalComma: true, time: "iso", timeZone: "UTC", startMs: null, sign: -1 } as const;
    const header = `h${uuid()}`;
    expect(await keptMapping(db, WORKSHOP, header)).toBeNull();
    await keepMapping(db, WORKSHOP, { header, mapping: { ...mapping, columns: [] } });
    await keepMapping(db, WORKSHOP, { header, mapping: { ...mapping, columns: [], sign: 1 } });
    expect((await keptMapping(db, WORKSHOP, header))!.sign).toBe(1);
  });
});

it("keeps a photo once, under the sender's id, for its own test run alone", async () => {
  const id = uuid();
  await addPhoto(db, testRunId, id, "image/png", Buffer.from([1, 2]));
  await addPhoto(db, testRunId, id, "image/png", Buffer.from([3]));
  expect((await getPhoto(db, testRunId, id))!.bytes).toEqual(Buffer.from([1, 2]));
  expect(await getPhoto(db, uuid(), id)).toBeNull();
});

describe("instruments", () => {
  /** Runs an instrument until `enough` of its readings have come. */
  const heard = (instrument: Instrument, enough: number, then?: (count: number) => void): Promise<Reading[]> =>
    new Promise((resolve, reject) => {
      const got: Reading[] = [];
      const late = setTimeout(() => reject(new Error(`only ${got.length} readings came`)), 20_000);
      const done = () => {
        clearTimeout(late);
        instrument.stop();
        resolve(got);
      };
      instrument.start({
        readings(list) {
          got.push(...list);
          then?.(got.length);
          if (got.length >= enough) done();
        },
        ended: done,
      });
    });
  it("the simulator tells its run as fast as asked, and goes on from where it was", async () => {
    const simulator = makeSimulator(emptyJob("x"), { seed: 1, faults: [], every: 10 }, T0);
    const begun = Date.now();
    const got = await heard(simulatedInstrument(simulator, 600), 60);
    // Ten minutes of log at six hundred times: about a second.
    expect(Date.now() - begun).toBeLessThan(5000);
    expect(got.slice(0, 60)).toEqual(simulator.readings.slice(0, 60));
    const on = await heard(simulatedInstrument(simulator, 600, 100), 10);
    expect(on[0]).toEqual(simulator.readings[100]);
  });
  it("a file is followed as it grows, half-written lines and all", async () => {
    const file = join(mkdtempSync(join(tmpdir(), "chillbank-tail-")), "meter.csv");
    writeFileSync(file, "time;battery_current_a\n2026-08-14T12:00:00Z;-5\n2026-08-14T12:00:10Z;-6\n2026-08-14T12:00:2");
    const got = await heard(fileTailInstrument(file, "UTC"), 4, (count) => {
      if (count === 2) appendFileSync(file, "0Z;-7\n2026-08-14T12:00:30Z;-8\n");
    });
    expect(got.map(({ values }) => values.battery_current_a)).toEqual([-5, -6, -7, -8]);
  });
  it("a file outside of the log folder is not followed", () => {
    mkdirSync("/tmp/chillbank-logs", { recursive: true });
    expect(fileInLogs("a/b.csv", "/tmp/chillbank-logs")).toBe("/tmp/chillbank-logs/a/b.csv");
    for (const path of ["../etc/passwd", "/etc/passwd", "", "a/../../x"])
      expect(fileInLogs(path, "/tmp/chillbank-logs")).toBeNull();
  });
  it("a Signal K server is subscribed to, rubbish passed over, and tried again when it drops the line", async () => {
    const server = new WebSocketServer({ host: "127.0.0.1", port: 0 });
    let connections = 0;
    const subscribed: string[] = [];
    server.on("connection", (socket) => {
      connections++;
      const first = connections === 1;
      socket.on("message", (data: Buffer) => {
        subscribed.push(data.toString());
        const delta = (path: string, value: number) =>
          JSON.stringify({
            updates: [{ timestamp: new Date(T0 + connections * 10_000).toISOString(), values: [{ path, value }] }],
          });
        socket.send("not json");
        socket.send(delta("electrical.batteries.0.current", -40 - connections));
        socket.send(delta("electrical.batteries.0.voltage", 13.1));
        if (first) setTimeout(() => socket.terminate(), 2500);
      });
    });
    await new Promise((resolve) => server.once("listening", resolve));
    const { port } = server.address() as { port: number };
    const got = await heard(signalKInstrument(`ws://127.0.0.1:${port}/`), 2);
    server.close();
    expect(got.map(({ values }) => values)).toEqual([
      { battery_current_a: -41, battery_voltage_v: 13.1 },
      { battery_current_a: -42, battery_voltage_v: 13.1 },
    ]);
    expect(subscribed[0]).toMatch(/electrical/);
  });
});

it("lists the last readings, newest first, deleted ones only where asked", async () => {
  const list = [sent(0, 5), sent(1, 6), sent(2, 7)];
  await addReadings(db, testRunId, list);
  await changeReading(db, testRunId, list[1]!.id, 1, "delete");
  expect((await lastReadings(db, testRunId, 10)).map(({ values }) => values.battery_current_a)).toEqual([-7, -5]);
  expect(await lastReadings(db, testRunId, 10, true)).toHaveLength(3);
});
