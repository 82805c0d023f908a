/* Runs in a process of its own: draws one picture anew. A picture that takes it down takes nothing else with it. */
import { setPriority } from "node:os";
import sharp from "sharp";

/** Longest side of a kept picture, pixels: enough to read a plate by. */
const LONGEST_SIDE = 2560;
/** The same of the small one beside it, for lists and documents. */
const SMALL_SIDE = 900;
/** Pixels that are decoded at most. A JPEG is made smaller while it is read; another is decoded whole. */
const MOST_PIXELS = { jpeg: 64e6, other: 25e6 };
/** Bytes that this process may take. */
const MOST_MEMORY = 700 * 2 ** 20;
const LOOKED_EVERY_MS = 20;

sharp.cache(false);
sharp.concurrency(1);
try {
  // Whoever waits for an answer goes before a picture.
  setPriority(10);
} catch {
  // Not allowed here: it competes as any other.
}

/** The chunk by which a PNG says that it moves; it stands before the first picture's bytes. */
const movesAsPng = (bytes) => bytes.subarray(0, bytes.indexOf("IDAT")).includes("acTL");

/** @returns {Promise<"pixels" | "depth" | "moving" | null>} why a picture is not taken, by what its header says */
async function refusedBy(bytes) {
  const { format, width, height, depth, pages = 1 } = await sharp(bytes, { limitInputPixels: false }).metadata();
  if (width * height > (format === "jpeg" ? MOST_PIXELS.jpeg : MOST_PIXELS.other)) return "pixels";
  if (depth !== "uchar") return "depth";
  return pages > 1 || (format === "png" && movesAsPng(bytes)) ? "moving" : null;
}

/**
 * @param {{ bytes: Uint8Array }} task
 * @returns {Promise<{ kept: Uint8Array, small: Uint8Array } | { refused: "pixels" | "depth" | "moving" | "damaged" }>} a JPEG and a
 *   small one, upright, without anything but the picture; or why there is none
 */
export default async function redraw({ bytes: sent }) {
  const bytes = Buffer.from(sent);
  const watch = setInterval(() => process.memoryUsage.rss() > MOST_MEMORY && process.exit(1), LOOKED_EVERY_MS);
  try {
    const refused = await refusedBy(bytes);
    if (refused) return { refused };
    const kept = await sharp(bytes, { limitInputPixels: MOST_PIXELS.jpeg, failOn: "error", sequentialRead: true })
      .rotate()
      .resize({ width: LONGEST_SIDE, height: LONGEST_SIDE, fit: "inside", withoutEnlargement: true })
      .flatten({ background: "#ffffff" })
      .jpeg({ quality: 85 })
      .toBuffer();
    const small = await sharp(kept)
      .resize({ width: SMALL_SIDE, height: SMALL_SIDE, fit: "inside", withoutEnlargement: true })
      .jpeg({ quality: 80 })
      .toBuffer();
    return { kept, small };
  } catch {
    return { refused: "damaged" };
  } finally {
    clearInterval(watch);
  }
}
