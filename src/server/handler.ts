import { z } from "zod";
import { readEntry, type ShelfEntry } from "../core/applications/parts/shelf";
import { readJob, type Fault, type Job } from "../core/document/schema";
import { idSchema, revisionNumber } from "@/contract/common";
import { foreignOrigin } from "./origin";
import { noteAnswer } from "./metrics";
import { databaseAnswers } from "./database-answers";
import { Refusal } from "./refusal";
import { roleMay, type Ability } from "@/contract/people";
import type { Author } from "./job-history";
import { owns, type Owned } from "./owns";
import { whoAsks, type Who } from "./who";
import { wordsOfFault } from "./hidden-values";
import { spool } from "./spool";
import { beginningOf } from "@/core/units/text";
import { say } from "@/core/messages/say";

/** Largest request body taken: many times the largest job. */
const LARGEST_BYTES = 512 * 1024;

export type Refused = { status: number; message: string; faults?: Fault[] };

/** A refusal as the browser and scripts read it. */
export function errorResponse({ status, message, faults = [] }: Refused): Response {
  return Response.json({ error: message, faults }, { status });
}

/** Why a request is not answered for where it comes from, or null. */
export function foreign(request: Request): Refused | null {
  const message = foreignOrigin(request.method, new URL(request.url).pathname, request.headers);
  return message === null ? null : { status: 403, message };
}

/**
 * Codes of a database that does not take work just now: not reached, ending, cut off from its cluster, its disk full, or in
 * the way of itself too often. Nothing of the request is stored, or all of it.
 */
const AWAY: ReadonlySet<string | undefined> = new Set(
  (
    "ECONNREFUSED ECONNRESET EPIPE ETIMEDOUT EHOSTUNREACH PROTOCOL_CONNECTION_LOST PROTOCOL_SEQUENCE_TIMEOUT " +
    "ER_SERVER_SHUTDOWN ER_CONNECTION_KILLED ER_CON_COUNT_ERROR ER_UNKNOWN_COM_ERROR ER_DISK_FULL " +
    "ER_RECORD_FILE_FULL ER_OPTION_PREVENTS_STATEMENT ER_LOCK_DEADLOCK ER_LOCK_WAIT_TIMEOUT ER_STATEMENT_TIMEOUT"
  ).split(" "),
);
const isAway = (error: unknown): boolean => {
  const { code, name, fatal } = error as { code?: string; name?: string; fatal?: boolean };
  // Of a pool that gives no connection only the name tells; of one that is lost half way through, only that it is.
  return AWAY.has(code) || fatal === true || name === "KnexTimeoutError";
};

/** What is answered where a handler broke down: its reason goes into the log, and not to whoever asked. */
async function brokeDown(request: Request, error: unknown): Promise<Response> {
  // The reason belongs into the log of whoever runs the server: its standard error. Of a database's fault its code and words
  // are enough: the statement holds what customers entered.
  const { sqlMessage, code } = error as { sqlMessage?: string; code?: string };
  const asked = `${request.method} ${new URL(request.url).pathname}`;
  // A library between may have made another error of a database that is away: it is asked.
  if (isAway(error) || !(await databaseAnswers())) {
    // oxlint-disable-next-line no-console
    console.error(`${asked}: the database does not answer${code ? ` (${code})` : ""}`);
    return errorResponse({ status: 503, message: say("server.databaseAway") });
  }
  const reason = sqlMessage === undefined ? error : `${code ?? "database"}: ${wordsOfFault(sqlMessage)}`;
  // oxlint-disable-next-line no-console
  console.error(asked, reason);
  return errorResponse({ status: 500, message: say("server.brokeDown") });
}

/** Longest that a request is left to itself before it is asked whether there is a database to wait for, ms. */
const PATIENCE_MS = 1200;

/**
 * The answer that is being worked out; or, where the database does not answer, that it does not, within some two seconds. A
 * request that takes long for another reason is waited for.
 */
function unlessAway(working: Promise<Response>): Promise<Response> {
  return new Promise((resolve, reject) => {
    let timer: NodeJS.Timeout | null = setTimeout(() => void look(), PATIENCE_MS);
    const look = async () => {
      const there = await databaseAnswers();
      if (!there) resolve(errorResponse({ status: 503, message: say("server.databaseAway") }));
      else if (timer) timer = setTimeout(() => void look(), PATIENCE_MS);
    };
    working.then(resolve, reject).finally(() => {
      if (timer) clearTimeout(timer);
      timer = null;
    });
  });
}

/** What somebody has to be allowed to for a route. */
interface Need {
  may: Ability;
}
/** And what the id in its address names, which is found in their own workshop alone. */
interface OwnedNeed extends Need {
  of: Owned;
  /** For routes that bring back or erase what was deleted. */
  deletedToo?: boolean;
}
export const ofJob = (may: Ability): OwnedNeed => ({ may, of: "job" });
export const ofPart = (may: Ability): OwnedNeed => ({ may, of: "part" });
export const ofTestRun = (may: Ability): OwnedNeed => ({ may, of: "testRun" });
/** The same of something that was deleted. */
export const deleted = (need: OwnedNeed): OwnedNeed => ({ ...need, deletedToo: true });

/** Who a job's history names for what this person does. */
export const authorOf = ({ workshopId, personId, name }: Who): Author => ({ workshopId, personId, name });

type Answer<P> = (request: Request, context: { params: Promise<P> }) => Promise<Response>;
type Parameters = Record<string, string>;

/**
 * A route handler for people who are signed in: answers 401 to nobody, 403 to a role that may not, and says that there is
 * nothing of that name where the id is none or is another workshop's. What it throws is logged and answered as an error of
 * the server.
 */
export function handler<P extends Parameters = Record<string, never>>(
  // An address with an id in it has to say whose it is: without, it does not compile.
  need: P extends { id: string } ? OwnedNeed : Need,
  handle: (request: Request, parameters: P, who: Who) => Promise<Response>,
  missing = say("server.id.none"),
): Answer<P> {
  return publicHandler<P>(async (request, parameters) => {
    const who = await whoAsks(request.headers);
    if (!who) return errorResponse({ status: 401, message: say("server.people.signIn") });
    if (!roleMay(who.role, need.may)) return errorResponse({ status: 403, message: say("server.people.role") });
    const { of, deletedToo } = need as Partial<OwnedNeed>;
    if (of && !(await owns(who, of, parameters.id ?? "", deletedToo)))
      return errorResponse({ status: 404, message: missing });
    return handle(request, parameters, who);
  }, missing);
}

/**
 * A route handler for anybody: strangers are refused; where the address holds an id that is none, the answer is that there is
 * nothing of that name; and what it throws is logged and answered as an error of the server.
 */
export function publicHandler<P extends Parameters = Record<string, never>>(
  handle: (request: Request, parameters: P) => Promise<Response>,
  missing = say("server.id.none"),
): Answer<P> {
  return async (request, { params }) => {
    const stranger = foreign(request);
    if (stranger) return errorResponse(stranger);
    // An address without a name in it comes without any.
    const parameters = ((await params) as P | undefined) ?? ({} as P);
    if (parameters.id !== undefined && !idSchema.safeParse(parameters.id).success)
      return errorResponse({ status: 404, message: missing });
    const from = performance.now();
    let answer: Response;
    try {
      answer = await unlessAway(handle(request, parameters));
    } catch (error) {
      answer =
        error instanceof Refusal
          ? errorResponse({ status: error.status, message: error.message })
          : await brokeDown(request, error);
    }
    // What is answered is somebody's: no cache between keeps it, unless the route says that it may.
    if (!answer.headers.has("cache-control")) answer.headers.set("cache-control", "no-store");
    if (answer.status === 503 && !answer.headers.has("retry-after")) answer.headers.set("retry-after", "5");
    noteAnswer(request, answer.status, performance.now() - from);
    return answer;
  };
}

/** Half of a pair of UTF-16 is no character: no database keeps it, and no page shows it. */
const wellFormed = (_: string, value: unknown) =>
  typeof value === "string" ? value.replace(LONE_SURROGATE, "\uFFFD") : value;
const LONE_SURROGATE = /[\uD800-\uDBFF](?![\uDC00-\uDFFF])|(?<![\uD800-\uDBFF])[\uDC00-\uDFFF]/g;

/**
 * The bytes of a body as they come, and no more than `largest`: what is larger is given up on while it comes, whatever
 * length was declared, or none. Null where it is too large.
 */
async function bytesOf(request: Request, largest: number): Promise<Uint8Array | null> {
  if (Number(request.headers.get("content-length") ?? 0) > largest) return null;
  const pieces: Uint8Array[] = [];
  let bytes = 0;
  for await (const piece of (request.body ?? []) as AsyncIterable<Uint8Array>) {
    bytes += piece.length;
    if (bytes > largest) return null;
    pieces.push(piece);
  }
  return Buffer.concat(pieces);
}

/** Deepest that JSON may be nested: a document comes to a dozen. What reads it calls itself for each level. */
const DEEPEST = 64;

/** How deep JSON is nested, brackets in its texts left out. */
function depthOf(json: string): number {
  let [depth, most] = [0, 0];
  for (const [sign] of json.matchAll(/"(?:[^"\\]|\\.)*"?|[[\]{}]/gs)) {
    if (sign === "{" || sign === "[") most = Math.max(most, ++depth);
    else if (sign === "}" || sign === "]") depth--;
  }
  return most;
}

/** Reads a JSON body of at most 512 kB. */
export async function readBody(
  request: Request,
): Promise<{ ok: true; body: unknown } | { ok: false; refusal: Refused }> {
  const bad = (status: number, message: string) => ({ ok: false as const, refusal: { status, message } });
  if (!request.headers.get("content-type")?.startsWith("application/json")) return bad(415, say("server.expects.json"));
  const bytes = await bytesOf(request, LARGEST_BYTES);
  if (!bytes) return bad(413, say("server.tooLarge.json"));
  try {
    const text = new TextDecoder("utf-8", { fatal: true }).decode(bytes);
    if (depthOf(text) > DEEPEST) return bad(400, say("server.tooDeep", { deepest: DEEPEST }));
    return { ok: true, body: JSON.parse(text, wellFormed) };
  } catch (error) {
    return bad(400, `Not JSON: ${(error as Error).message}`);
  }
}

/** Largest table taken: some 50,000 parts. */
const LARGEST_TABLE_BYTES = 16 * 1024 * 1024;

/** Reads a CSV body of at most 16 MB as UTF-8 text. */
export async function readText(
  request: Request,
): Promise<{ ok: true; text: string } | { ok: false; refusal: Refused }> {
  const bad = (status: number, message: string) => ({ ok: false as const, refusal: { status, message } });
  if (!/^text\/(csv|plain)/.test(request.headers.get("content-type") ?? "")) return bad(415, say("server.expects.csv"));
  const bytes = await bytesOf(request, LARGEST_TABLE_BYTES);
  if (!bytes) return bad(413, say("server.tooLarge.csv"));
  try {
    return { ok: true, text: new TextDecoder("utf-8", { fatal: true }).decode(bytes) };
  } catch {
    return bad(400, say("server.notUtf8"));
  }
}

/** Reads a system out of a body's `job`, with paths as in the document. */
export function jobOfBody(body: unknown): { ok: true; job: Job } | { ok: false; refusal: Refused } {
  const read = readJob((body as { job?: unknown } | null)?.job);
  if (read.ok) return read;
  return refusedAs("a job file", read.faults);
}

/** Reads a shelf entry out of a body's `entry`, with paths as in the entry. */
export function entryOfBody(body: unknown): { ok: true; entry: ShelfEntry } | { ok: false; refusal: Refused } {
  const read = readEntry((body as { entry?: unknown } | null)?.entry);
  if (read.ok) return read;
  return refusedAs("a part", read.faults);
}

/** What is no document of its kind: every fault with its path, the first in words. */
function refusedAs(what: string, faults: NonNullable<Refused["faults"]>): { ok: false; refusal: Refused } {
  const first = faults[0]!;
  const message = `Not ${what}: ${first.path || "the whole"}: ${first.message}`;
  return { ok: false, refusal: { status: 400, message, faults } };
}

const revisionSchema = z.object({ revision: revisionNumber });

/** Reads the revision that a body says it was read at. */
export function revisionOfBody(body: unknown): { ok: true; revision: number } | { ok: false; refusal: Refused } {
  const read = revisionSchema.safeParse(body);
  if (read.success) return { ok: true, revision: read.data.revision };
  return {
    ok: false,
    refusal: {
      status: 400,
      message: "revision: the number of the revision that was read expected",
      faults: [{ path: "revision", message: "a whole number from 1 expected" }],
    },
  };
}

/** Reads a JSON body by a schema; a refusal names the first place that is wrong, and all of them after it. */
export async function readAs<T extends z.ZodType>(
  request: Request,
  schema: T,
): Promise<{ ok: true; value: z.infer<T> } | { ok: false; refusal: Refused }> {
  const read = await readBody(request);
  if (!read.ok) return read;
  const result = schema.safeParse(read.body);
  if (result.success) return { ok: true, value: result.data };
  const faults = result.error.issues.map((issue) => ({ path: issue.path.join("."), message: issue.message }));
  const first = faults[0]!;
  return { ok: false, refusal: { status: 400, message: `${first.path || "the body"}: ${first.message}`, faults } };
}

/** Reads a body of bytes of at most `largest`. */
export async function readBytes(
  request: Request,
  largest: number,
): Promise<{ ok: true; bytes: Uint8Array } | { ok: false; refusal: Refused }> {
  const bytes = await bytesOf(request, largest);
  return bytes ? { ok: true, bytes } : tooLarge(largest);
}

const tooLarge = (largest: number) => ({
  ok: false as const,
  refusal: { status: 413, message: say("server.tooLarge.file", { largest: largest >> 20 }) },
});

/** Takes a body of at most `largest` bytes into a file without a name; `read` is handed the open file. */
export async function withBodyInFile<T>(
  request: Request,
  largest: number,
  read: (file: number) => Promise<T>,
): Promise<{ ok: true; value: T } | { ok: false; refusal: Refused }> {
  if (Number(request.headers.get("content-length") ?? 0) > largest) return tooLarge(largest);
  const spooled = await spool((request.body ?? []) as AsyncIterable<Uint8Array>, largest);
  if (spooled === "too-large") return tooLarge(largest);
  try {
    return { ok: true, value: await read(spooled.file.fd) };
  } finally {
    await spooled.file.close();
  }
}

/** The content-disposition of a download, safe for any name. */
export function attachment(name: string): string {
  const plain = name.replace(/[^\w. -]+/g, "_").slice(0, 100);
  const cut = beginningOf(name, 150);
  return `attachment; filename="${plain}"; filename*=UTF-8''${encodeURIComponent(cut).replace(/['()*]/g, (c) => `%${c.charCodeAt(0).toString(16).toUpperCase()}`)}`;
}
