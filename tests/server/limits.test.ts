/* What somebody may cost the server: connections, memory and time are held to limits while a request goes on. */
import { zipSync } from "fflate";
import { afterAll, beforeAll, describe, expect, it } from "vitest";
import * as imported from "@/app/api/jobs/whole/route";
import * as whole from "@/app/api/jobs/[id]/whole/route";
import { emptyJob } from "@/core/document/schema";
import { closeDatabase, database } from "@/server/database";
import { importJob } from "@/server/job-import";
import { createJob } from "@/server/jobs";
import { readBody } from "@/server/handler";
import { spool, streamOf } from "@/server/spool";
import { AUTHOR, ownDatabase } from "./own-database";

let id = "";
beforeAll(async () => {
  process.env.DATABASE_URL = await ownDatabase();
  ({ id } = await createJob(database(), AUTHOR, emptyJob("Limits")));
});
afterAll(closeDatabase);

const own = { host: "127.0.0.1:3210" };
const ask = (method: "GET" | "HEAD") =>
  whole[method](new Request(`http://127.0.0.1:3210/api/jobs/${id}/whole`, { method, headers: own }), {
    params: Promise.resolve({ id }),
  });

describe("the export of a whole job", () => {
  it("holds no connection while nobody reads it, nor for a HEAD", async () => {
    const held: Response[] = [];
    // More of each than the pool has connections.
    for (let n = 0; n < 10; n++) held.push(await ask("GET"), await ask("HEAD"));
    expect(held.every(({ status }) => status === 200)).toBe(true);
    const started = Date.now();
    expect(await database()("jobs").count({ n: "*" })).toEqual([{ n: 1 }]);
    expect(Date.now() - started).toBeLessThan(2000);
    expect(await held[1]!.text()).toBe("");
    const bytes = new Uint8Array(await held[0]!.arrayBuffer());
    expect(bytes.length).toBe(Number(held[0]!.headers.get("content-length")));
    expect(await importJob(database(), AUTHOR, bytes)).toMatchObject({ ok: true, name: "Limits" });
    await Promise.all(held.slice(2).map(({ body }) => body?.cancel()));
  });
  it("turns away the third that is packed at once", async () => {
    const answers = await Promise.all([ask("GET"), ask("GET"), ask("GET"), ask("GET")]);
    const states = answers.map(({ status }) => status).sort();
    expect(states.slice(0, 2)).toEqual([200, 200]);
    expect(states.at(-1)).toBe(503);
    await Promise.all(answers.map(({ body }) => body?.cancel()));
  });
});

/** End of a directory that claims entries by the billion, in the 64-bit form (PKWARE APPNOTE 4.3.14 to 4.3.16). */
function claiming(entries: bigint): Buffer {
  const record = Buffer.alloc(56);
  record.writeUInt32LE(0x06064b50, 0);
  record.writeBigUInt64LE(44n, 4);
  record.writeBigUInt64LE(entries, 24);
  record.writeBigUInt64LE(entries, 32);
  const locator = Buffer.alloc(20);
  locator.writeUInt32LE(0x07064b50, 0);
  locator.writeUInt32LE(1, 16);
  const end = Buffer.alloc(22);
  end.writeUInt32LE(0x06054b50, 0);
  end.writeUInt16LE(0xffff, 8);
  end.writeUInt16LE(0xffff, 10);
  end.writeUInt32LE(0xffffffff, 12);
  end.writeUInt32LE(0xffffffff, 16);
  return Buffer.concat([record, locator, end]);
}

/** A ZIP whose directory and file header say that its one file has so many bytes. */
function saying(bytes: number, content: Uint8Array): Uint8Array {
  const zip = zipSync({ "job.json": content }, { level: 9 });
  const view = new DataView(zip.buffer, zip.byteOffset);
  view.setUint32(22, bytes, true);
  for (let at = zip.length - 22; at > 0; at--)
    if (view.getUint32(at, true) === 0x02014b50) {
      view.setUint32(at + 24, bytes, true);
      break;
    }
  return zip;
}

describe("a ZIP that is brought in", () => {
  it.each<[string, Uint8Array]>([
    ["that claims four thousand million files", claiming(4_000_000_000n)],
    ["that says ten bytes and unpacks to 200 MB", saying(10, new Uint8Array(200_000_000))],
    ["that packs 200 MB of nothing", zipSync({ "job.json": new Uint8Array(200_000_000) }, { level: 9 })],
  ])("%s is refused at once, and without being unpacked", async (_, zip) => {
    const before = process.memoryUsage().rss;
    const started = Date.now();
    expect(await importJob(database(), AUTHOR, zip)).toMatchObject({ ok: false });
    expect(Date.now() - started).toBeLessThan(1500);
    expect(process.memoryUsage().rss - before).toBeLessThan(60_000_000);
  });
  it("is refused with a 400 through its route, from a file on disk", async () => {
    const request = new Request("http://127.0.0.1:3210/api/jobs/whole", {
      method: "POST",
      headers: { ...own, "content-type": "application/zip" },
      body: new Uint8Array(claiming(4_000_000_000n)),
    });
    const answer = await imported.POST(request, { params: Promise.resolve({}) });
    expect(answer.status).toBe(400);
  });
});

describe("a body", () => {
  /** One without a declared length, that never ends. */
  const endless = () => {
    let told = 0;
    const body = new ReadableStream<Uint8Array>({
      pull(controller) {
        told++;
        controller.enqueue(new Uint8Array(64 * 1024).fill(32));
      },
    });
    return { body, told: () => told };
  };
  it("without an end is given up on once it is too large", async () => {
    const { body, told } = endless();
    const request = new Request("http://127.0.0.1/", {
      method: "POST",
      headers: { "content-type": "application/json" },
      body,
      duplex: "half",
    } as RequestInit);
    expect(await readBody(request)).toMatchObject({ ok: false, refusal: { status: 413 } });
    expect(told()).toBeLessThan(20);
  });
  it.each([
    ["lists", "[".repeat(65), "]".repeat(65), false],
    ["lists, one less", "[".repeat(64), "]".repeat(64), true],
    ["objects", '{"a":'.repeat(60_000), `1${"}".repeat(60_000)}`, false],
    ["brackets in a text", `"${"[".repeat(500)}\\"[[`, '"', true],
  ])("JSON that is nested in %s is refused in words where it is too deep", async (_, before, after, taken) => {
    const headers = { "content-type": "application/json" };
    const request = new Request("http://127.0.0.1/", { method: "POST", headers, body: `${before}${after}` });
    const read = await readBody(request);
    expect(read.ok).toBe(taken);
    if (!read.ok)
      expect(read.refusal).toMatchObject({
        status: 400,
        message: expect.stringMatching(/more than 64 deep/) as string,
      });
  });
  it("with halves of characters is read with the mark of what cannot be read", async () => {
    const request = new Request("http://127.0.0.1/", {
      method: "POST",
      headers: { "content-type": "application/json" },
      body: JSON.stringify({ name: "a\uD800b", twice: "\uDC00\u{1F600}" }).replace("\uD800", "\\ud800"),
    });
    expect(await readBody(request)).toEqual({ ok: true, body: { name: "a\uFFFDb", twice: "\uFFFD\u{1F600}" } });
  });
});

describe("bytes that are spooled", () => {
  it("come out as they went in, and are given up on beyond the limit", async () => {
    async function* pieces() {
      for (let n = 0; n < 40; n++) yield await Promise.resolve(new Uint8Array(20_000).fill(n));
    }
    const whole = await spool(pieces());
    if (whole === "too-large") throw new Error("not spooled");
    const bytes = new Uint8Array(await new Response(streamOf(whole)).arrayBuffer());
    expect([bytes.length, bytes[0], bytes.at(-1)]).toEqual([800_000, 0, 39]);
    expect(await spool(pieces(), 100_000)).toBe("too-large");
  });
});

describe("the database's user", () => {
  it("may do what the application does and nothing else", async () => {
    const [rows] = (await database().raw("SHOW GRANTS")) as [Record<string, string>[]];
    const grants = rows.map((row) => Object.values(row)[0]!).join("\n");
    expect(grants).not.toMatch(/ON \*\.\*(?! TO `chillbank`.*IDENTIFIED)|GRANT OPTION|SUPER|FILE/);
  });
});
