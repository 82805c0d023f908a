import sharp from "sharp";

/*
 * Photos are drawn anew and kept as that: nothing of what else a file may hold, where it was taken or a page in disguise, is
 * kept with it.
 */

/** Longest side of a kept photo, pixels: enough to read a plate by. */
const LONGEST_SIDE = 2560;
/** Pixels that are decoded at most: a small file may claim a picture of any size. */
const MOST_PIXELS = 80_000_000;

/** A photo as it is kept: JPEG, upright, without anything but the picture. Null where the bytes are no picture. */
export async function photoAsKept(bytes: Uint8Array): Promise<{ type: "image/jpeg"; bytes: Buffer } | null> {
  try {
    const picture = sharp(bytes, { limitInputPixels: MOST_PIXELS, failOn: "error" });
    const kept = await picture
      .rotate()
      .resize({ width: LONGEST_SIDE, height: LONGEST_SIDE, fit: "inside", withoutEnlargement: true })
      .jpeg({ quality: 85 })
      .toBuffer();
    return { type: "image/jpeg", bytes: kept };
  } catch {
    return null;
  }
}
