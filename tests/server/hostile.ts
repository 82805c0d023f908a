/*
 * Requests that nobody means well by, over every route there is: odd ids, bodies of wrong shapes and kinds, broken text, huge
 * numbers, methods that a route does not know. The routes are found in the folder of the application, so that a new one is
 * tried without being named here.
 */
import { readdirSync } from "node:fs";
import { join } from "node:path";
import { emptyJob } from "@/core/document/schema";
import { seeded, type Random } from "@/core/units/random";

export type Handler = (request: Request, context: { params: Promise<Record<string, string>> }) => Promise<Response>;
export interface Route {
  path: string;
  names: string[];
  module: Record<string, unknown>;
}

const API = join(import.meta.dirname, "../../src/app");

/** Every route of the application with its handlers. */
export async function everyRoute(): Promise<Route[]> {
  const files = readdirSync(API, { recursive: true, encoding: "utf8" }).filter((file) => /(^|\/)route\.ts$/.test(file));
  return Promise.all(
    files.sort().map(async (file) => ({
      path: `/${file.replace(/\/?route\.ts$/, "")}`,
      names: [...file.matchAll(/\[(\w+)\]/g)].map(([, name]) => name!),
      module: (await import(join(API, file))) as Record<string, unknown>,
    })),
  );
}

const METHODS = ["GET", "HEAD", "POST", "PUT", "PATCH", "DELETE"] as const;
const ODD_TEXT = [
  "",
  "0",
  "-1",
  "1e999",
  "NaN",
  "null",
  "%00",
  "\u0000",
  "\uD800",
  "../../etc/passwd",
  "'; DROP TABLE jobs; --",
  "<script>alert(1)</script>",
  "a".repeat(5000),
  "\u202E\u{1F600}",
  "019341f0-0000-7000-8000-000000000001",
  "readings",
  "file",
];
const TYPES = [
  "application/json",
  "application/zip",
  "text/csv",
  "image/jpeg",
  "application/octet-stream",
  "text/plain",
  "",
];

/** A pick of a list. */
const pick = <T>(random: Random, list: readonly T[]): T => list[Math.floor(random.even() * list.length)]!;

/** A value of any shape, some levels deep. */
function oddValue(random: Random, depth = 0): unknown {
  const kind = Math.floor(random.even() * (depth > 3 ? 6 : 9));
  if (kind === 0) return null;
  if (kind === 1) return pick(random, [0, -1, 1e308, -1e308, 1.5, 2 ** 53, 4_294_967_296, 9e15]);
  if (kind <= 3) return pick(random, ODD_TEXT);
  if (kind === 4) return random.even() < 0.5;
  if (kind === 5) return [];
  const size = Math.floor(random.even() * 5);
  if (kind === 6) return Array.from({ length: size }, () => oddValue(random, depth + 1));
  const names = ["id", "name", "job", "revision", "readings", "values", "timeMs", "__proto__", "constructor", "entry"];
  return Object.fromEntries(Array.from({ length: size }, () => [pick(random, names), oddValue(random, depth + 1)]));
}

/** A document that is right but for one place. */
function spoiltJob(random: Random): unknown {
  // A copy, since documents share what no one has changed in them.
  const job = structuredClone(emptyJob("Hostile")) as unknown as Record<string, unknown>;
  const key = pick(random, Object.keys(job));
  const inner = job[key];
  if (inner && typeof inner === "object" && !Array.isArray(inner) && random.even() < 0.7) {
    const own = inner as Record<string, unknown>;
    own[pick(random, [...Object.keys(own), "odd"])] = oddValue(random);
  } else job[key] = oddValue(random);
  return job;
}

function bodyOf(random: Random): BodyInit | undefined {
  const kind = random.even();
  if (kind < 0.15) return undefined;
  if (kind < 0.5) return JSON.stringify(oddValue(random)) ?? "";
  if (kind < 0.75)
    return JSON.stringify({
      job: spoiltJob(random),
      revision: pick(random, [1, 2, 0, -1, "1", 1e20]),
      ...(random.even() < 0.3 ? { id: pick(random, ODD_TEXT) } : {}),
    });
  if (kind < 0.9) return pick(random, ODD_TEXT);
  return new Uint8Array(Array.from({ length: Math.floor(random.even() * 400) }, () => Math.floor(random.even() * 256)));
}

export interface Hostile {
  words: string;
  call(): Promise<Response> | null;
}

/** Request number `seed`: the same for the same number. `ids` are those of things that are there. */
export function hostile(seed: number, routes: readonly Route[], ids: readonly string[]): Hostile {
  const random = seeded(seed);
  const route = pick(random, routes);
  const method = pick(random, METHODS);
  const id = () => (random.even() < 0.6 ? pick(random, ids) : pick(random, ODD_TEXT));
  const parameters = Object.fromEntries(route.names.map((name) => [name, id()]));
  const handle = route.module[method] as Handler | undefined;
  const query =
    random.even() < 0.4
      ? `?${pick(random, ["q", "limit", "page", "kind", "ids", "mode"])}=${encodeURIComponent(pick(random, ODD_TEXT).replace("\uD800", "\uFFFD"))}`
      : "";
  const body = method === "GET" || method === "HEAD" ? undefined : bodyOf(random);
  const headers: Record<string, string> = {
    host: random.even() < 0.95 ? "127.0.0.1:3210" : pick(random, ["evil.example", "", "127.0.0.1.evil.example"]),
    ...(random.even() < 0.9 ? { "content-type": pick(random, TYPES) } : {}),
    ...(random.even() < 0.05 ? { "sec-fetch-site": "cross-site" } : {}),
    ...(random.even() < 0.05 ? { origin: "https://evil.example" } : {}),
    ...(random.even() < 0.05 ? { "content-length": pick(random, ["-1", "1e9", "99999999999"]) } : {}),
  };
  return {
    words: `${seed}: ${method} ${route.path}${query} ${JSON.stringify(parameters).slice(0, 200)}`,
    call: () =>
      handle
        ? handle(
            new Request(`http://127.0.0.1:3210${route.path.replace(/[[\]]/g, "")}${query}`, {
              method,
              headers,
              ...(body === undefined ? {} : { body }),
            }),
            { params: Promise.resolve(parameters) },
          )
        : null,
  };
}
