import { join } from "node:path";
import { pathToFileURL } from "node:url";
import Tinypool from "tinypool";
import { say } from "@/core/messages/say";
import { Refusal } from "../refusal";

/*
 * A picture that somebody sends is drawn anew and kept as that: nothing of what else a file may hold, where it was taken or a
 * page in disguise, is kept with it. It is decoded in a process of its own, one at a time, within a deadline and a limit of
 * memory, so that a file made to stop the server stops that process alone.
 */

/** Largest picture that is taken, bytes; what is kept of it is far smaller. */
export const LARGEST_PICTURE = 12 * 1024 * 1024;
/** How long one picture may take, ms: a JPEG of 64 megapixels takes some 2 s. */
const DEADLINE_MS = 8_000;
/** Pictures that may wait for their turn; at 12 MB each they have to fit into memory. */
const MOST_WAITING = 24;
const IDLE_MS = 60_000;

/** Kinds of picture that are taken, by their leading bytes; null stands for any byte. */
const KINDS = {
  jpeg: [0xff, 0xd8, 0xff],
  png: [0x89, 0x50, 0x4e, 0x47, 0x0d, 0x0a, 0x1a, 0x0a],
  webp: [0x52, 0x49, 0x46, 0x46, null, null, null, null, 0x57, 0x45, 0x42, 0x50],
} as const;
/** What telephones write as HEIC or AVIF: a box of this name behind its length. */
const BOXED = [null, null, null, null, 0x66, 0x74, 0x79, 0x70] as const;

const begins = (bytes: Uint8Array, leading: readonly (number | null)[]): boolean =>
  bytes.length >= leading.length && leading.every((byte, i) => byte === null || bytes[i] === byte);

type Redrawn = { kept: Uint8Array; small: Uint8Array } | { refused: "pixels" | "depth" | "moving" | "damaged" };

const held = globalThis as { chillbankPictures?: { pool: Tinypool; turn: Promise<unknown>; waiting: number } };

/** The one process for pictures. It is kept on globalThis because development reloads modules. */
const keeper = () =>
  (held.chillbankPictures ??= {
    pool: new Tinypool({
      filename: pathToFileURL(join(process.cwd(), "src/server/pictures/redraw-process.mjs")).href,
      runtime: "child_process",
      serialization: "advanced",
      minThreads: 0,
      maxThreads: 1,
      idleTimeout: IDLE_MS,
    }),
    turn: Promise.resolve(),
    waiting: 0,
  });

/** Whether the process was ended over a picture: by its deadline, or by itself for its memory. */
const isLost = (error: unknown): boolean =>
  error instanceof Error && (error.name === "AbortError" || /exited unexpectedly/.test(error.message));

/** A picture drawn anew in its turn; "late" where it took too long or too much memory. */
async function inTurn(bytes: Uint8Array): Promise<Redrawn | "late"> {
  const keep = keeper();
  if (keep.waiting >= MOST_WAITING) throw new Refusal(503, say("server.photo.busy"));
  keep.waiting++;
  const mine = keep.turn.then(async (): Promise<Redrawn | "late"> => {
    try {
      return (await keep.pool.run({ bytes }, { signal: AbortSignal.timeout(DEADLINE_MS) })) as Redrawn;
    } catch (error) {
      if (isLost(error)) return "late";
      throw error;
    } finally {
      keep.waiting--;
    }
  });
  // Whatever became of this one, the next has its turn.
  keep.turn = mine.catch(() => {});
  return mine;
}

/** A picture as it is kept, and a small one of it. */
export interface KeptPicture {
  type: "image/jpeg";
  bytes: Buffer;
  small: Buffer;
}

/** A picture as it is kept. Throws a refusal, with the reason in words, where the bytes are none or are not taken. */
export async function pictureAsKept(bytes: Uint8Array): Promise<KeptPicture> {
  if (begins(bytes, BOXED)) throw new Refusal(415, say("server.photo.heic"));
  if (!Object.values(KINDS).some((leading) => begins(bytes, leading)))
    throw new Refusal(415, say("server.expects.photo"));
  const drawn = await inTurn(bytes);
  if (drawn === "late") throw new Refusal(400, say("server.photo.late"));
  if ("refused" in drawn) throw new Refusal(400, say(`server.photo.${drawn.refused}`));
  return { type: "image/jpeg", bytes: Buffer.from(drawn.kept), small: Buffer.from(drawn.small) };
}

/** Ends the process for pictures; the next one begins it anew. */
export async function endPictures(): Promise<void> {
  const keep = held.chillbankPictures;
  delete held.chillbankPictures;
  await keep?.pool.destroy();
}
