import { mkdtemp, open, rm, type FileHandle } from "node:fs/promises";
import { tmpdir } from "node:os";
import { join } from "node:path";

/*
 * Bytes that are made faster, or slower, than somebody takes them: they go into a file first. Whoever reads slowly then holds
 * that file, and neither the database nor memory.
 */

/** Bytes in a file without a name: it is gone when it is closed, however that comes about. */
export interface Spooled {
  bytes: number;
  file: FileHandle;
}

/** Writes all pieces to a file without a name. Throws what the pieces throw, with nothing left behind. */
export async function spool(pieces: AsyncIterable<Uint8Array>, largest = Infinity): Promise<Spooled | "too-large"> {
  const folder = await mkdtemp(join(tmpdir(), "chillbank-"));
  const file = await open(join(folder, "spool"), "wx+", 0o600);
  let bytes = 0;
  let whole = false;
  try {
    await rm(folder, { recursive: true });
    for await (const piece of pieces) {
      bytes += piece.length;
      if (bytes > largest) return "too-large";
      await file.write(piece);
    }
    whole = true;
    return { bytes, file };
  } finally {
    if (!whole) await file.close();
  }
}

const PIECE_BYTES = 256 * 1024;

/** A spooled file as a stream for a response; closed with it, also where the reader goes away. */
export function streamOf({ bytes, file }: Spooled): ReadableStream<Uint8Array> {
  let at = 0;
  return new ReadableStream<Uint8Array>({
    async pull(controller) {
      const piece = new Uint8Array(Math.min(PIECE_BYTES, bytes - at));
      const { bytesRead } = await file.read(piece, 0, piece.length, at);
      at += bytesRead;
      if (bytesRead > 0) controller.enqueue(piece.subarray(0, bytesRead));
      if (at >= bytes || bytesRead === 0) {
        await file.close();
        controller.close();
      }
    },
    async cancel() {
      await file.close();
    },
  });
}
