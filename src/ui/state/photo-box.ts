import { openDB, type DBSchema, type IDBPDatabase } from "idb";
import { ApiError, send } from "@/contract/client";
import { WAITS } from "./outbox";

/*
 * Photos of commissioning steps: kept in this browser until the server has them, so that one that is taken where there is no
 * reception is neither lost nor waited for. The step refers to its photo by id from the start.
 */

interface WaitingPhoto {
  jobId: string;
  id: string;
  picture: Blob;
  /** Why the server would not have it. */
  refused?: string;
}
interface Boxes extends DBSchema {
  photos: { key: string; value: WaitingPhoto };
}

export const PHOTO_BOX = "chillbank-photos";
let held: Promise<IDBPDatabase<Boxes>> | null = null;
const box = () =>
  (held ??= openDB<Boxes>(PHOTO_BOX, 1, {
    upgrade: (db) => void db.createObjectStore("photos", { keyPath: "id" }),
    // Signing out deletes it, and so may another window.
    blocking: () => void held?.then((db) => db.close()).then(() => (held = null)),
  }));

/** Longest side of a photo that is sent, pixels, and bytes from which it is made smaller first: a slow line is enough for it. */
const LONGEST_SIDE = 2560;
const LARGE = 1.5e6;

/** A photo as it is sent: made smaller where it is large and this browser can read it. */
async function asSent(photo: Blob): Promise<Blob> {
  if (photo.size <= LARGE) return photo;
  try {
    const picture = await createImageBitmap(photo);
    const scale = Math.min(1, LONGEST_SIDE / Math.max(picture.width, picture.height));
    const canvas = new OffscreenCanvas(Math.round(picture.width * scale), Math.round(picture.height * scale));
    canvas.getContext("2d")!.drawImage(picture, 0, 0, canvas.width, canvas.height);
    return await canvas.convertToBlob({ type: "image/jpeg", quality: 0.85 });
  } catch {
    // The server says what is wrong with it.
    return photo;
  }
}

/** Keeps a photo of a job until it is sent. */
export async function keepPhoto(jobId: string, id: string, photo: Blob): Promise<void> {
  await (await box()).put("photos", { jobId, id, picture: await asSent(photo) });
}

/** Photos of a job that the server does not have yet. */
export async function waitingPhotos(jobId: string): Promise<WaitingPhoto[]> {
  return (await (await box()).getAll("photos")).filter((one) => one.jobId === jobId);
}

/** How many photos of all jobs are still here. */
export const unsentPhotos = async (): Promise<number> => (await box()).count("photos");

/** Drops a photo that is not to be sent. */
export const dropPhoto = async (id: string): Promise<void> => (await box()).delete("photos", id);

let sending: Promise<void> | null = null;

/** Sends what waits, one after the other; stops where there is no reception or no server. One that is refused stays, with the reason. */
export function sendPhotos(): Promise<void> {
  sending ??= sendEach().finally(() => (sending = null));
  return sending;
}

async function sendEach(): Promise<void> {
  const db = await box();
  for (const { jobId, id, picture, refused } of await db.getAll("photos")) {
    if (refused !== undefined) continue;
    try {
      await send(`/api/jobs/${jobId}/photos/${id}`, {
        method: "PUT",
        body: picture,
        headers: { "content-type": picture.type },
      });
      await db.delete("photos", id);
    } catch (error) {
      if (!(error instanceof ApiError) || WAITS.includes(error.status)) return;
      if (error.status < 500) await db.put("photos", { jobId, id, picture, refused: error.message });
    }
  }
}
