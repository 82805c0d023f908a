import { createHash } from "node:crypto";
import { crc32 } from "node:zlib";
import { fromBufferPromise, fromFdPromise, type Entry, type ZipFile } from "yauzl";
import { say } from "@/core/messages/say";

/** Why a ZIP was not taken: said to whoever brought it. */
export class NotTaken extends Error {}

export interface ZipLimits {
  /** Files in it, and bytes of all of them together once unpacked. */
  files: number;
  unpacked: number;
}

/** Entries are read one at a time, names are checked, and the ZIP stays open until it is closed. */
const OPTIONS = { lazyEntries: true, autoClose: false } as const;

/** A file of this many bytes may not be larger than its packed bytes by more than this: nothing that people keep is. */
const RATIO_FROM_BYTES = 4 * 1024 * 1024;
const MOST_RATIO = 200;

/** A ZIP whose files are read one at a time; nothing is unpacked beyond what its directory says, nor in the request's thread. */
export class ZipReader {
  private constructor(
    private readonly zip: ZipFile,
    private readonly entries: ReadonlyMap<string, Entry>,
    /** Whoever opened the file closes it: the library would close it behind that one's back. */
    private readonly ownsSource: boolean,
  ) {}

  /** Reads the directory of a ZIP, a file or bytes, and holds it against the limits. Throws `NotTaken`. */
  static async open(source: number | Buffer, limits: ZipLimits): Promise<ZipReader> {
    const zip = await (
      typeof source === "number" ? fromFdPromise(source, OPTIONS) : fromBufferPromise(source, OPTIONS)
    ).catch(() => {
      throw new NotTaken(say("server.import.noZip"));
    });
    const entries = new Map<string, Entry>();
    let unpacked = 0;
    try {
      // Before an entry is read: a directory of 22 bytes may claim four thousand million of them.
      if (zip.entryCount > limits.files) throw new NotTaken(say("server.import.tooMany", { most: limits.files }));
      for await (const entry of zip.eachEntry()) {
        const { fileName, uncompressedSize, compressedSize } = entry;
        if (entries.has(fileName)) throw new NotTaken(say("server.import.twice", { name: fileName }));
        if (entries.size >= limits.files) throw new NotTaken(say("server.import.tooMany", { most: limits.files }));
        unpacked += uncompressedSize;
        if (unpacked > limits.unpacked) throw new NotTaken(say("server.import.tooLarge"));
        if (uncompressedSize > RATIO_FROM_BYTES && uncompressedSize > MOST_RATIO * compressedSize)
          throw new NotTaken(say("server.import.tooLarge"));
        entries.set(fileName, entry);
      }
      return new ZipReader(zip, entries, typeof source !== "number");
    } catch (error) {
      if (typeof source !== "number") zip.close();
      throw error instanceof NotTaken ? error : new NotTaken(say("server.import.noZip"));
    }
  }

  has(name: string): boolean {
    return this.entries.has(name);
  }

  /** The bytes of a file, whole and as its checksum says, with their SHA-256. Throws `NotTaken`. */
  async read(name: string): Promise<{ bytes: Buffer; sha256: string }> {
    const entry = this.entries.get(name);
    if (!entry) throw new NotTaken(say("server.import.missing", { name }));
    const hash = createHash("sha256");
    const pieces: Buffer[] = [];
    let sum = 0;
    try {
      const stream = await this.zip.openReadStreamPromise(entry);
      // The reader ends with an error where a file is longer or shorter than its entry says.
      for await (const piece of stream as AsyncIterable<Buffer>) {
        pieces.push(piece);
        hash.update(piece);
        sum = crc32(piece, sum);
      }
    } catch {
      throw new NotTaken(say("server.import.unreadable", { name }));
    }
    if (sum !== entry.crc32) throw new NotTaken(say("server.import.damaged", { name }));
    return { bytes: Buffer.concat(pieces), sha256: hash.digest("hex") };
  }

  close(): void {
    if (this.ownsSource) this.zip.close();
  }
}
