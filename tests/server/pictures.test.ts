/* Pictures made to stop a server, and those of telephones. Leading bytes by the formats' published specifications. */
import { crc32, deflateSync, gzipSync } from "node:zlib";
import sharp from "sharp";
import { afterAll, describe, expect, it, vi } from "vitest";
import { endPictures, pictureAsKept } from "@/server/pictures/pictures";

afterAll(endPictures);

const flat = (width: number, height: number) =>
  sharp({ create: { width, height, channels: 3, background: "#804020" } });

/** A chunk of a PNG: length, name, content and check. */
function chunk(name: string, content: Uint8Array): Buffer {
  const named = Buffer.concat([Buffer.from(name), content]);
  const [length, check] = [Buffer.alloc(4), Buffer.alloc(4)];
  length.writeUInt32BE(content.length);
  check.writeUInt32BE(crc32(named));
  return Buffer.concat([length, named, check]);
}
/** A PNG that claims a size and a depth, with few bytes behind it. */
function claimed(width: number, height: number, depth: number, extra: Buffer[] = []): Buffer {
  const header = Buffer.alloc(13);
  header.writeUInt32BE(width, 0);
  header.writeUInt32BE(height, 4);
  header.set([depth, 2, 0, 0, 0], 8);
  return Buffer.concat([
    Buffer.from([0x89, 0x50, 0x4e, 0x47, 0x0d, 0x0a, 0x1a, 0x0a]),
    chunk("IHDR", header),
    ...extra,
    chunk("IDAT", deflateSync(Buffer.alloc(1_000_000))),
    chunk("IEND", Buffer.alloc(0)),
  ]);
}
const nested = `<svg xmlns="http://www.w3.org/2000/svg"><g id="a0"><rect width="9" height="9"/></g>${Array.from(
  { length: 20 },
  (_, i) => `<g id="a${i + 1}">${`<use href="#a${i}"/>`.repeat(9)}</g>`,
).join("")}</svg>`;
const filtered = `<svg xmlns="http://www.w3.org/2000/svg" width="30000" height="30000"><filter id="f"><feGaussianBlur stdDeviation="999"/></filter><rect width="30000" height="30000" filter="url(#f)"/></svg>`;
const moving = () =>
  sharp(
    [
      { create: { width: 40, height: 40, channels: 3, background: "#000" } },
      { create: { width: 40, height: 40, channels: 3, background: "#fff" } },
    ] as never,
    {
      join: { animated: true },
    },
  )
    .webp()
    .toBuffer();

const BOMBS: [what: string, bytes: () => Buffer | Promise<Buffer>, status: number, words: RegExp][] = [
  ["an SVG whose groups are nested ninefold", () => Buffer.from(nested), 415, /JPEG, PNG or WebP/],
  ["one with a filter over 900 megapixels", () => Buffer.from(filtered), 415, /JPEG, PNG or WebP/],
  ["one that is packed", () => gzipSync(nested), 415, /JPEG, PNG or WebP/],
  [
    "one behind the leading bytes of a JPEG",
    () => Buffer.concat([Buffer.from([0xff, 0xd8, 0xff]), Buffer.from(nested)]),
    400,
    /damaged/,
  ],
  ["a GIF", () => flat(10, 10).gif().toBuffer(), 415, /JPEG, PNG or WebP/],
  ["a TIFF", () => flat(10, 10).tiff().toBuffer(), 415, /JPEG, PNG or WebP/],
  ["a PDF", () => Buffer.from("%PDF-1.7\n1 0 obj"), 415, /JPEG, PNG or WebP/],
  ["a HEIC of a telephone", () => Buffer.from("\0\0\0\x18ftypheic\0\0\0\0mif1heic"), 415, /HEIC/],
  ["a PNG of 79 megapixels and 16 bits", () => claimed(8900, 8900, 16), 400, /too many pixels/],
  ["one of 26 megapixels", () => claimed(5200, 5000, 8), 400, /too many pixels/],
  ["one of 4,000 megapixels", () => claimed(65_000, 65_000, 8), 400, /too many pixels/],
  ["one of 16 bits", () => claimed(100, 100, 16), 400, /8 bits/],
  ["one that moves", () => claimed(20, 20, 8, [chunk("acTL", Buffer.from([0, 0, 0, 2, 0, 0, 0, 0]))]), 400, /moves/],
  ["a WebP that moves", moving, 400, /moves/],
  [
    "a PNG cut short",
    async () => (await flat(900, 900).png({ compressionLevel: 0 }).toBuffer()).subarray(0, 90_000),
    400,
    /damaged/,
  ],
  ["a JPEG cut short", async () => (await flat(900, 900).jpeg().toBuffer()).subarray(0, 900), 400, /damaged/],
  ["nothing", () => Buffer.alloc(0), 415, /JPEG, PNG or WebP/],
];

describe("a picture", () => {
  it.each(BOMBS)("that is %s is refused in words, and soon", async (_, make, status, words) => {
    const bytes = await make();
    const from = performance.now();
    const refused = await pictureAsKept(bytes).catch((error: unknown) => error);
    // Of the first the process that draws has to be begun.
    expect(performance.now() - from).toBeLessThan(3000);
    expect(refused).toMatchObject({ status, message: expect.stringMatching(words) as string });
  });
  it.each([
    ["PNG", () => flat(3000, 2000).png()],
    ["WebP", () => flat(3000, 2000).webp()],
    ["JPEG of 60 megapixels", () => flat(10_000, 6000).jpeg()],
  ] as const)("that is a %s is kept as a JPEG of 2,560 pixels", async (_, make) => {
    const { bytes } = await pictureAsKept(await make().toBuffer());
    expect(await sharp(bytes).metadata()).toMatchObject({ format: "jpeg", width: 2560, depth: "uchar" });
  });
  it("loses the place where it was taken, and what hangs behind it, whatever its kind", async () => {
    for (const kind of ["jpeg", "png", "webp"] as const) {
      const located = await flat(50, 50)
        .toFormat(kind)
        .withExif({ IFD3: { GPSLatitudeRef: "N", GPSLatitude: "37/1 0/1 0/1" } })
        .toBuffer();
      const { bytes } = await pictureAsKept(Buffer.concat([located, Buffer.from("<script>alert(1)</script>")]));
      const { exif, xmp, iptc } = await sharp(bytes).metadata();
      expect([exif, xmp, iptc, bytes.includes("<script>")]).toEqual([undefined, undefined, undefined, false]);
    }
  });
  it("that takes its process down takes nothing else with it", async () => {
    const lost = pictureAsKept(await flat(10_000, 6000).jpeg().toBuffer()).catch((error: unknown) => error);
    const { chillbankPictures } = globalThis as unknown as {
      chillbankPictures: { pool: { threads: { threadId: number }[] } };
    };
    await vi.waitFor(() => expect(chillbankPictures.pool.threads).toHaveLength(1));
    await new Promise((resolve) => setTimeout(resolve, 100));
    process.kill(chillbankPictures.pool.threads[0]!.threadId, "SIGKILL");
    const next = pictureAsKept(await flat(50, 50).jpeg().toBuffer());
    expect(await lost).toMatchObject({ status: 400, message: expect.stringMatching(/too long/) as string });
    expect((await next).type).toBe("image/jpeg");
  });
  it("is refused where too many wait, and those that wait are drawn", async () => {
    const bytes = await flat(2000, 1500).jpeg().toBuffer();
    const all = await Promise.allSettled(Array.from({ length: 30 }, () => pictureAsKept(bytes)));
    const drawn = all.filter(({ status }) => status === "fulfilled").length;
    expect(drawn).toBe(24);
    expect(all.filter(({ status }) => status === "rejected")).toEqual(
      Array.from({ length: 6 }, () => ({
        status: "rejected",
        reason: expect.objectContaining({ status: 503 }) as Error,
      })),
    );
  });
});
