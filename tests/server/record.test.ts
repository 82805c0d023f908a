/* What is acknowledged is stored as it was sent, where it was sent; what cannot be is refused in words. */
import sharp from "sharp";
import { v7 as uuid } from "uuid";
import { afterAll, beforeAll, beforeEach, describe, expect, it, vi } from "vitest";
import * as job from "@/app/api/jobs/[id]/route";
import * as photo from "@/app/api/test-runs/[id]/photos/[photo]/route";
import * as readings from "@/app/api/test-runs/[id]/readings/route";
import * as file from "@/app/api/test-runs/[id]/file/route";
import { emptyJob } from "@/core/document/schema";
import { closeDatabase, database, transaction } from "@/server/database";
import { createJob, deleteJob, duplicateJob, getJob, listJobs, restoreJob } from "@/server/jobs";
import { endPictures, LARGEST_PICTURE } from "@/server/pictures/pictures";
import { makeLink, pageOfToken } from "@/server/links";
import {
  addPhoto,
  addReadings,
  changeReading,
  changeTestRun,
  createTestRun,
  dropImport,
  getPhoto,
  getTestRun,
  lastReadings,
} from "@/server/test-runs";
import type { CustomerPage } from "@/core/applications/handover/customer-page";
import { AUTHOR, WORKSHOP, ownDatabase } from "./own-database";

const T0 = Date.now() - 3_600_000;
let jobId = "";
let runId = "";
beforeAll(async () => {
  process.env.DATABASE_URL = await ownDatabase();
});
beforeEach(async () => {
  ({ id: jobId } = await createJob(database(), AUTHOR, emptyJob("Record")));
  runId = await createTestRun(database(), { jobId, name: "Run", kind: "k", startedMs: T0 });
});
afterAll(closeDatabase);
afterAll(endPictures);

const reading = (timeMs = T0, id = uuid()) => ({ id, timeMs, values: { battery_current_a: -40 } });
const request = (method: string, body?: BodyInit, type = "application/json") =>
  new Request("http://127.0.0.1:3210/", {
    method,
    headers: { host: "127.0.0.1:3210", "content-type": type },
    ...(body === undefined ? {} : { body }),
  });
const at = <P>(parameters: P) => ({ params: Promise.resolve(parameters) });

describe("a test run", () => {
  it("under an id of another job's run is refused", async () => {
    const { id: other } = await createJob(database(), AUTHOR, emptyJob("Other"));
    const again = createTestRun(database(), { id: runId, jobId: other, name: "Run", kind: "k", startedMs: T0 });
    await expect(again).rejects.toMatchObject({ status: 409 });
  });
  it("takes no reading whose id is that of another run's", async () => {
    const one = reading();
    await addReadings(database(), runId, [one]);
    const other = await createTestRun(database(), { jobId, name: "Other", kind: "k", startedMs: T0 });
    await expect(addReadings(database(), other, [reading(), one])).rejects.toMatchObject({ status: 409 });
    expect(await lastReadings(database(), other, 10)).toEqual([]);
  });
  it("takes no photo whose id is that of another run's", async () => {
    const id = uuid();
    await addPhoto(database(), runId, id, "image/jpeg", Buffer.from("mine"));
    const other = await createTestRun(database(), { jobId, name: "Other", kind: "k", startedMs: T0 });
    const again = addPhoto(database(), other, id, "image/jpeg", Buffer.from("theirs"));
    await expect(again).rejects.toMatchObject({ status: 409 });
    expect(await getPhoto(database(), other, id)).toBeNull();
  });
  it("once finished takes what was read before, and nothing of later", async () => {
    await changeTestRun(database(), runId, { finished: true });
    const send = (timeMs: number) =>
      readings.POST(request("POST", JSON.stringify({ readings: [reading(timeMs)] })), at({ id: runId }));
    expect((await send(T0)).status).toBe(201);
    expect((await send(Date.now() + 3_600_000)).status).toBe(409);
  });
  it("once finished leaves out what was read after it, and keeps what came with it", async () => {
    await changeTestRun(database(), runId, { finished: true });
    const [early, late] = [reading(T0), reading(Date.now() + 3_600_000)];
    const answer = await readings.POST(request("POST", JSON.stringify({ readings: [early, late] })), at({ id: runId }));
    expect([answer.status, await answer.json()]).toEqual([201, { added: 1, late: [late.id] }]);
    expect((await lastReadings(database(), runId, 10)).map(({ id }) => id)).toEqual([early.id]);
    expect((await getTestRun(database(), runId))!.readings).toBe(1);
  });
  it("of a deleted job is gone with it", async () => {
    await deleteJob(database(), AUTHOR, jobId);
    const answer = await readings.POST(request("POST", JSON.stringify({ readings: [reading()] })), at({ id: runId }));
    expect(answer.status).toBe(404);
  });
  it("keeps count of its readings through corrections and imports", async () => {
    const count = async () => (await getTestRun(database(), runId))!.readings;
    const [one, two] = [reading(), reading(T0 + 1000)];
    await addReadings(database(), runId, [one, two]);
    await addReadings(database(), runId, [one]);
    expect(await count()).toBe(2);
    await changeReading(database(), runId, one.id, 1, "delete");
    expect(await count()).toBe(1);
    await changeReading(database(), runId, one.id, 2, "restore");
    expect(await count()).toBe(2);
    expect(await dropImport(database(), runId, uuid())).toBe(false);
  });
  it("leaves as a CSV with the readings that have no current, too", async () => {
    await addReadings(database(), runId, [{ ...reading(T0 + 60_000), values: { cabin_temp_c: 24.5 } }, reading(T0)]);
    const text = await (await file.GET(request("GET"), at({ id: runId }))).text();
    expect(
      text
        .trim()
        .split("\n")
        .map((line) => line.split(",").slice(1)),
    ).toEqual([
      ["battery_current_a", "cabin_temp_c"],
      ["-40", ""],
      ["", "24.5"],
    ]);
  });
});

describe("a photo", () => {
  const put = (bytes: Uint8Array, type: string, id: string) =>
    photo.PUT(request("PUT", new Uint8Array(bytes), type), at({ id: runId, photo: id }));
  const picture = () => sharp({ create: { width: 4000, height: 1000, channels: 3, background: "#804020" } }).jpeg();
  it("is kept without the place where it was taken, upright and smaller", async () => {
    const located = await picture()
      .withExif({ IFD3: { GPSLatitudeRef: "N", GPSLatitude: "37/1 0/1 0/1" } })
      .toBuffer();
    expect((await sharp(located).metadata()).exif).toBeDefined();
    const id = uuid();
    expect((await put(located, "image/jpeg", id)).status).toBe(201);
    const kept = (await getPhoto(database(), runId, id))!;
    const { exif, width, format } = await sharp(kept.bytes).metadata();
    expect({ exif, width, format }).toEqual({ exif: undefined, width: 2560, format: "jpeg" });
  });
  it("that is a page behind its first bytes is kept as a picture alone, or not at all", async () => {
    const page = Buffer.from("<script>alert(1)</script>");
    const id = uuid();
    await put(Buffer.concat([await picture().toBuffer(), page]), "image/jpeg", id);
    expect((await getPhoto(database(), runId, id))!.bytes.includes(page)).toBe(false);
    expect((await put(Buffer.concat([Buffer.from([0xff, 0xd8, 0xff]), page]), "image/jpeg", uuid())).status).toBe(400);
  });
  it("of exactly the largest size is taken or refused in words, and one more byte is refused", async () => {
    const bytes = Buffer.concat([await picture().toBuffer(), Buffer.alloc(LARGEST_PICTURE)]);
    expect((await put(bytes.subarray(0, LARGEST_PICTURE), "image/jpeg", uuid())).status).toBe(201);
    expect((await put(bytes.subarray(0, LARGEST_PICTURE + 1), "image/jpeg", uuid())).status).toBe(413);
  });
});

describe("a job", () => {
  it("with a date that does not exist is refused by its path", async () => {
    const document = { ...emptyJob("Dated"), plan: { ...emptyJob("Dated").plan, start: "2026-13-45" } };
    const answer = await job.PUT(request("PUT", JSON.stringify({ revision: 1, job: document })), at({ id: jobId }));
    expect(answer.status).toBe(400);
    expect(await answer.text()).toContain("plan.start");
  });
  it("is copied with a name that is cut between characters", async () => {
    const { id } = await createJob(database(), AUTHOR, emptyJob(`${"x".repeat(113)}\u{1F690}`));
    const copy = (await duplicateJob(database(), AUTHOR, id))!;
    expect((await getJob(database(), copy.id))!.job.name).toBe(`${"x".repeat(113)} copy`);
  });
  it("that cannot be read is named, and the others are listed", async () => {
    await database()("jobs")
      .where({ id: jobId })
      .update({ document: JSON.stringify({ format: "other" }) });
    await createJob(database(), AUTHOR, emptyJob("Readable"));
    const { rows, unreadable } = await listJobs(database(), WORKSHOP, { query: "", page: 1 });
    expect(unreadable).toContainEqual({ id: jobId, name: "Record" });
    expect(rows.map(({ name }) => name)).toContain("Readable");
  });
  it("that is brought back has none of the links that it had", async () => {
    const { token } = await makeLink(database(), AUTHOR, {
      jobId,
      page: { title: "x" } as unknown as CustomerPage,
      days: 30,
    });
    expect(await pageOfToken(database(), token)).not.toBeNull();
    await deleteJob(database(), AUTHOR, jobId);
    await restoreJob(database(), AUTHOR, jobId);
    expect(await pageOfToken(database(), token)).toBeNull();
  });
});

describe("work that came into the way of another's", () => {
  it("is done again, and a fault of its own is not", async () => {
    let tried = 0;
    const deadlock = Object.assign(new Error("Deadlock found"), { code: "ER_LOCK_DEADLOCK" });
    const done = await transaction(database(), () => (++tried < 3 ? Promise.reject(deadlock) : Promise.resolve(tried)));
    expect(done).toBe(3);
    const broken = vi.fn(() => Promise.reject(new Error("broken")));
    await expect(transaction(database(), broken)).rejects.toThrow("broken");
    expect(broken).toHaveBeenCalledTimes(1);
  });
});
