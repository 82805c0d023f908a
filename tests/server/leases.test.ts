/** Instruments of several servers on one database. The other servers are this process under another id. */
import type { Knex } from "knex";
import { v4 as uuid } from "uuid";
import { afterAll, afterEach, beforeAll, beforeEach, expect, it, vi } from "vitest";
import { connect } from "@/server/database";
import { lookAfterInstruments } from "@/server/instruments/attendant";
import { endLease, leaseAnew, reasonOfEnd, takeLease } from "@/server/instruments/leases";
import { watch, type LiveEvent } from "@/server/instruments/live";
import { attendedHere, leave, startInstrument, stopInstrument } from "@/server/instruments/running";
import { createJob } from "@/server/jobs";
import { addReadings, createTestRun, getTestRun, lastReadings } from "@/server/test-runs";
import type { Source } from "@/contract/test-runs";
import { jobOf } from "../jobs";
import { AUTHOR, ownDatabase } from "./own-database";

const SIMULATOR: Source = { kind: "simulator", seed: 1, faults: [], every: 10, speed: 600 };
const RUN = { startedMs: Date.UTC(2026, 7, 14, 12) };
const job = jobOf();
const process_ = globalThis as { chillbankServer?: string };
let db: Knex;
let id: string;
let jobId: string;
/** Waiting for readings, where the machine has other work. */
const PATIENT = { timeout: 30_000, interval: 100 };
const HERE = uuid();
const THERE = uuid();
const as = async <T>(server: string, work: () => Promise<T>): Promise<T> => {
  process_.chillbankServer = server;
  try {
    return await work();
  } finally {
    process_.chillbankServer = HERE;
  }
};
const silent = () => db("instrument_leases").update({ until: db.raw("NOW(3) - INTERVAL 1 SECOND") });
const told = async () => (await lastReadings(db, id, 500)).map(({ timeMs }) => timeMs);
const here = () => attendedHere().map(([testRunId]) => testRunId);

beforeAll(async () => {
  process_.chillbankServer = HERE;
  db = connect(await ownDatabase());
});
afterAll(() => db.destroy());
beforeEach(async () => {
  jobId = (await createJob(db, AUTHOR, job)).id;
  id = await createTestRun(db, { jobId, name: "Noon", kind: "fixed lfp", ...RUN });
});
afterEach(() => stopInstrument(db, id));

it("is attended by one server: another leaves it alone while that one says so", async () => {
  await as(THERE, () => leaseAnew(db, id, SIMULATOR));
  await lookAfterInstruments(db);
  expect(here()).toEqual([]);
  expect(await takeLease(db, id)).toBeNull();
});

it("is taken over from a server that is silent, and goes on where it was, each reading once", async () => {
  await startInstrument(db, { id, ...RUN }, job, SIMULATOR);
  await vi.waitFor(async () => expect((await told()).length).toBeGreaterThan(60), PATIENT);
  leave(id);
  await silent();
  const before = (await told()).length;
  await as(THERE, async () => {
    await lookAfterInstruments(db);
    await vi.waitFor(async () => expect((await told()).length).toBeGreaterThan(before + 60), PATIENT);
  });
  const times = await told();
  expect(new Set(times).size).toBe(times.length);
  // Every ten seconds of the run without a gap: nothing was passed over.
  expect(times[0]! - times.at(-1)!).toBe((times.length - 1) * 10_000);
});

// By the newest reading's time one by hand, which is of now, ended the telling of a run that was made for another day.
it("goes on where it was though somebody wrote a reading by hand, and both are watched", async () => {
  await startInstrument(db, { id, ...RUN }, job, SIMULATOR);
  await vi.waitFor(async () => expect((await told()).length).toBeGreaterThan(20), PATIENT);
  leave(id);
  await silent();
  const byHand = { id: uuid(), timeMs: Date.now(), values: { battery_current_a: -12 } };
  await addReadings(db, id, [byHand]);
  const events: LiveEvent[] = [];
  const end = watch(db, id, (event) => events.push(event));
  await new Promise((resolve) => setTimeout(resolve, 700));
  const before = (await told()).length;
  await lookAfterInstruments(db);
  await vi.waitFor(async () => expect((await told()).length).toBeGreaterThan(before + 20), PATIENT);
  const another = { ...byHand, id: uuid(), timeMs: byHand.timeMs + 1000 };
  await addReadings(db, id, [another]);
  const seen = () => events.flatMap((event) => (event.kind === "readings" ? event.readings : []));
  await vi.waitFor(() => expect(seen().map(({ timeMs }) => timeMs)).toContain(another.timeMs), PATIENT);
  end();
  const run = seen().filter(({ timeMs }) => timeMs < byHand.timeMs);
  expect(run.length).toBeGreaterThan(20);
  expect(new Set(run.map(({ timeMs }) => timeMs)).size).toBe(run.length);
});

it("whose file lies in no folder of logs any more ends with its reason, and keeps no other waiting", async () => {
  const other = await createTestRun(db, { jobId, name: "Two", kind: "fixed lfp", ...RUN });
  await leaseAnew(db, id, { kind: "file", path: "../elsewhere.csv" });
  await leaseAnew(db, other, SIMULATOR);
  await lookAfterInstruments(db);
  expect(here()).toEqual([other]);
  expect(await reasonOfEnd(db, id)).toBe("The file could not be read.");
  await stopInstrument(db, other);
});

it("of two servers that find it silent at once goes to one", async () => {
  await as(THERE, () => leaseAnew(db, id, SIMULATOR));
  await silent();
  const taken = await Promise.all([1, 2, 3, 4].map(() => takeLease(db, id)));
  expect(taken.filter(Boolean)).toHaveLength(1);
});

it("is left by its server once another started it anew, and what the old start tells is refused", async () => {
  await startInstrument(db, { id, ...RUN }, job, SIMULATOR);
  const [[, old]] = attendedHere() as [[string, string]];
  await as(THERE, () => leaseAnew(db, id, { ...SIMULATOR, seed: 2 }));
  await lookAfterInstruments(db);
  expect(here()).toEqual([]);
  const reading = { id: uuid(), timeMs: RUN.startedMs, values: { battery_current_a: -40 } };
  await expect(addReadings(db, id, [reading], old)).rejects.toMatchObject({ status: 409 });
});

it("that lost its lease while the database was away still stores what it was told before", async () => {
  const start = await leaseAnew(db, id, SIMULATOR);
  await silent();
  await as(THERE, () => takeLease(db, id));
  const reading = { id: uuid(), timeMs: RUN.startedMs, values: { battery_current_a: -40 } };
  expect(await addReadings(db, id, [reading], start)).toBe(1);
});

it("is taken up by no server once it was stopped elsewhere, or its job deleted", async () => {
  await startInstrument(db, { id, ...RUN }, job, SIMULATOR);
  await db("jobs").where({ id: jobId }).update({ deleted_at: new Date() });
  await lookAfterInstruments(db);
  expect(here()).toEqual([]);
  await db("jobs").where({ id: jobId }).update({ deleted_at: null });
  await lookAfterInstruments(db);
  expect(here()).toEqual([id]);
  await as(THERE, () => stopInstrument(db, id));
  await lookAfterInstruments(db);
  expect(here()).toEqual([]);
});

it("that ended by itself says why, and an older start's end is not taken for it", async () => {
  const start = await leaseAnew(db, id, SIMULATOR);
  await endLease(db, id, uuid(), "of another start");
  expect(await reasonOfEnd(db, id)).toBeNull();
  await endLease(db, id, start, "The file could not be read.");
  expect(await reasonOfEnd(db, id)).toBe("The file could not be read.");
  expect((await getTestRun(db, id))!.source).toBeNull();
  await lookAfterInstruments(db);
  expect(here()).toEqual([]);
});

it("is watched on a server that does not attend it: what is kept from then on, and its end", async () => {
  const start = await as(THERE, () => leaseAnew(db, id, SIMULATOR));
  const reading = (minute: number) => ({
    id: uuid(),
    timeMs: RUN.startedMs + 60_000 * minute,
    values: { battery_current_a: -40 },
  });
  await addReadings(db, id, [reading(1)], start);
  const events: LiveEvent[] = [];
  const end = watch(db, id, (event) => events.push(event));
  await new Promise((resolve) => setTimeout(resolve, 700));
  await addReadings(db, id, [reading(2), reading(3)], start);
  await vi.waitFor(() => expect(events).toHaveLength(1), PATIENT);
  await as(THERE, () => endLease(db, id, start, "over"));
  await vi.waitFor(() => expect(events).toHaveLength(2), PATIENT);
  end();
  expect(events).toMatchObject([
    { kind: "readings", readings: [{ timeMs: RUN.startedMs + 120_000 }, { timeMs: RUN.startedMs + 180_000 }] },
    { kind: "ended" },
  ]);
});

it("is ended with the reason where its workshop may keep no more readings", async () => {
  await leaseAnew(db, id, SIMULATOR);
  await addReadings(db, id, [{ id: uuid(), timeMs: RUN.startedMs, values: { battery_current_a: -1 } }]);
  process.env.CHILLBANK_MOST_READINGS = "1";
  try {
    await lookAfterInstruments(db);
  } finally {
    delete process.env.CHILLBANK_MOST_READINGS;
  }
  expect(here()).toEqual([]);
  expect(await reasonOfEnd(db, id)).toContain("as many readings as this server allows it: 1.");
});
