import type { Knex } from "knex";
import { say } from "@/core/messages/say";
import { transaction } from "../database";
import type { Author } from "../job-history";
import { needRoom } from "../quotas";
import { Refusal } from "../refusal";
import { needsMay } from "../rights";
import { pictureAsKept, type KeptPicture } from "./pictures";

/*
 * Photos of a job's commissioning steps and inspection points. The steps of the document refer to them by id; an id is of
 * its job alone, so that a copy of a job refers to its own.
 */

/** Which of the two that are kept of a photo: the small one is for lists and documents. */
export type PhotoSize = "whole" | "small";
const COLUMN = { whole: "data", small: "small" } as const satisfies Record<PhotoSize, string>;

/** Photos of one job. */
export const MOST_PHOTOS = 1000;

/** Keeps a photo under the sender's own id, once: sent again, it stays as it is. */
export async function addJobPhoto(
  db: Knex,
  author: Author,
  jobId: string,
  { id, sent }: { id: string; sent: Uint8Array },
): Promise<void> {
  const kept = await pictureAsKept(sent);
  await transaction(db, async (tx) => {
    await needsMay(tx, author, "measure");
    // The job is held, so that it is not erased meanwhile and its photos are counted one after the other.
    const job: unknown = await tx("jobs").where({ id: jobId }).whereNull("deleted_at").forUpdate().first("id");
    if (!job) throw new Refusal(404, say("server.job.gone"));
    const photos = () => tx("job_photos").where({ job_id: jobId });
    if (await photos().where({ id }).first("id")) return;
    const [{ n }] = (await photos().count({ n: "*" })) as [{ n: number }];
    if (Number(n) >= MOST_PHOTOS) throw new Refusal(403, say("server.photo.tooMany", { most: MOST_PHOTOS }));
    await needRoom(tx, author.workshopId, "bytes", bytesOf(kept));
    await insertPhoto(tx, jobId, id, { kept, createdAt: new Date() });
  });
}

const bytesOf = ({ bytes, small }: KeptPicture) => bytes.length + small.length;

/** Writes a photo's row; for the import of a whole job, too. */
export async function insertPhoto(
  tx: Knex,
  jobId: string,
  id: string,
  { kept, createdAt }: { kept: KeptPicture; createdAt: Date },
): Promise<void> {
  const { type, bytes: data, small } = kept;
  await tx("job_photos").insert({ job_id: jobId, id, type, data, small, bytes: bytesOf(kept), created_at: createdAt });
}

/** A photo's bytes, or null where there is none of that id. */
export async function getJobPhoto(
  db: Knex,
  jobId: string,
  id: string,
  size: PhotoSize,
): Promise<{ type: string; bytes: Buffer } | null> {
  const row = (await db("job_photos").where({ job_id: jobId, id }).first("type", `${COLUMN[size]} as bytes`)) as
    | { type: string; bytes: Buffer }
    | undefined;
  return row ?? null;
}

/** Ids of the photos of a job, as they came, and when. */
export async function listJobPhotos(
  db: Knex,
  jobId: string,
): Promise<{ id: string; createdAt: Date; bytes: number }[]> {
  return db("job_photos")
    .where({ job_id: jobId })
    .orderBy(["created_at", "id"])
    .select("id", "bytes", "created_at as createdAt");
}

/** Bytes of the photos of a job. */
export async function bytesOfPhotos(db: Knex, jobId: string): Promise<number> {
  return (await listJobPhotos(db, jobId)).reduce((total, { bytes }) => total + bytes, 0);
}

/** Gives a copy of a job the photos of the job that it is of. */
export async function copyPhotos(tx: Knex, from: string, to: string): Promise<void> {
  const columns = ["id", "type", "data", "small", "bytes", "created_at"];
  await tx(tx.raw("?? (??)", ["job_photos", ["job_id", ...columns]]) as unknown as string).insert(
    tx("job_photos")
      .where({ job_id: from })
      .select(tx.raw("?", [to]), ...columns),
  );
}
