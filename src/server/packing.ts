import { promisify } from "node:util";
import { deflate, inflate } from "node:zlib";

const [packing, unpacking] = [promisify(deflate), promisify(inflate)];

/** Packs the bytes of a piece for its row, fast rather than small; beside the thread that answers requests. */
export const packed = (bytes: Uint8Array): Promise<Buffer> => packing(bytes, { level: 1 });

/** The bytes that `packed` was given. */
export const unpacked = (bytes: Uint8Array): Promise<Buffer> => unpacking(bytes);
