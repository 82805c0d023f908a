/* Photos of commissioning steps: kept once, each of its own job, by those who may measure. */
import type { Knex } from "knex";
import sharp from "sharp";
import { v4 as uuid } from "uuid";
import { afterAll, beforeAll, describe, expect, it } from "vitest";
import { connect } from "@/server/database";
import { purgePhotos } from "@/server/erasure";
import { createJob, deleteJob, duplicateJob, saveJob } from "@/server/jobs";
import { keepRevision } from "@/server/options";
import { addJobPhoto, getJobPhoto, listJobPhotos } from "@/server/pictures/job-photos";
import { endPictures } from "@/server/pictures/pictures";
import { useOf } from "@/server/quotas";
import { jobOf } from "../jobs";
import { AUTHOR, OWNER_ID, ownDatabase, WORKSHOP } from "./own-database";

let db: Knex;
let sent: Buffer;
beforeAll(async () => {
  db = connect(await ownDatabase());
  const picture = sharp({ create: { width: 1800, height: 1200, channels: 3, background: "#304050" } });
  sent = await picture
    .jpeg()
    .withExifMerge({ IFD3: { GPSLatitude: "52/1 31/1 0/1" } })
    .toBuffer();
});
afterAll(async () => {
  await endPictures();
  await db.destroy();
});

const job = jobOf();
const madeJob = async () => (await createJob(db, AUTHOR, job)).id;
const step = (photos: string[]) => ({
  ...job,
  handover: {
    ...job.handover,
    steps: [{ step: "dead", fields: [], passed: true, reason: "", by: "", at: null, photos }],
  },
});
const longAgo = new Date(Date.UTC(2020, 0, 1));

describe("a photo of a step", () => {
  it("is kept whole and small, without where it was taken", async () => {
    const [id, photo] = [await madeJob(), uuid()];
    await addJobPhoto(db, AUTHOR, id, { id: photo, sent });
    const [whole, small] = [await getJobPhoto(db, id, photo, "whole"), await getJobPhoto(db, id, photo, "small")];
    expect(await sharp(whole!.bytes).metadata()).toMatchObject({ format: "jpeg", width: 1800 });
    expect(await sharp(small!.bytes).metadata()).toMatchObject({ format: "jpeg", width: 900 });
    expect((await sharp(sent).metadata()).exif).toBeDefined();
    expect((await sharp(whole!.bytes).metadata()).exif).toBeUndefined();
  });
  it("that is sent again is kept once, as it was, and counts as what it takes", async () => {
    const [id, photo] = [await madeJob(), uuid()];
    const before = (await useOf(db, WORKSHOP)).bytes.now;
    await addJobPhoto(db, AUTHOR, id, { id: photo, sent });
    const first = await listJobPhotos(db, id);
    await addJobPhoto(db, AUTHOR, id, { id: photo, sent });
    expect(await listJobPhotos(db, id)).toEqual(first);
    expect((await useOf(db, WORKSHOP)).bytes.now - before).toBe(first[0]!.bytes);
  });
  it("is of its job alone: another job's of the same id is its own", async () => {
    const [one, other, photo] = [await madeJob(), await madeJob(), uuid()];
    await addJobPhoto(db, AUTHOR, one, { id: photo, sent });
    expect(await getJobPhoto(db, other, photo, "whole")).toBeNull();
  });
  it("goes with a copy of its job", async () => {
    const [id, photo] = [await madeJob(), uuid()];
    await addJobPhoto(db, AUTHOR, id, { id: photo, sent });
    const copy = (await duplicateJob(db, AUTHOR, id))!;
    expect(await listJobPhotos(db, copy.id)).toEqual(await listJobPhotos(db, id));
  });
  it("is not taken for a deleted job, nor from somebody who was taken out meanwhile", async () => {
    const [id, photo] = [await madeJob(), uuid()];
    const gone = { ...AUTHOR, personId: uuid() };
    await expect(addJobPhoto(db, gone, id, { id: photo, sent })).rejects.toMatchObject({ status: 401 });
    await addJobPhoto(db, { ...AUTHOR, personId: OWNER_ID }, id, { id: photo, sent });
    await deleteJob(db, AUTHOR, id);
    await expect(addJobPhoto(db, AUTHOR, id, { id: uuid(), sent })).rejects.toMatchObject({ status: 404 });
  });
});

describe("photos that no step refers to", () => {
  it("are erased after a month, and none that the job or a named revision shows", async () => {
    const [id, shown, named, dropped, fresh] = [await madeJob(), uuid(), uuid(), uuid(), uuid()];
    for (const photo of [shown, named, dropped, fresh]) await addJobPhoto(db, AUTHOR, id, { id: photo, sent });
    await db("job_photos").where({ job_id: id }).whereNot({ id: fresh }).update({ created_at: longAgo });
    await keepRevision(db, id, { id: uuid(), name: "As fitted", promise: "" }, step([named]));
    await saveJob(db, AUTHOR, { id, revision: 1, job: step([shown]) });
    expect(await purgePhotos(db)).toBe(1);
    const left = (await listJobPhotos(db, id)).map((one) => one.id);
    expect(left.sort()).toEqual([shown, named, fresh].sort());
  });
});
