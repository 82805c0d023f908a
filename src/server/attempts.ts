import { createHash } from "node:crypto";
import type { Knex } from "knex";
import { RateLimiterMySQL, RateLimiterRes } from "rate-limiter-flexible";
import { say } from "@/core/messages/say";
import { database } from "./database";
import { Refusal } from "./refusal";

/*
 * How often a password, a code or an invitation may be tried: by what is tried from one network, which holds guesses at one
 * account, and by the address, which holds guesses at many accounts (ASVS 4, 2.2.1). What is tried from elsewhere does not
 * count: nobody can lock an account, or the way into a workshop, for those whose it is.
 */
const WINDOW_S = 15 * 60;
const BY_NETWORK = 10;
const BY_ADDRESS = 50;

const limiter = (db: Knex, keyPrefix: string, points: number, duration = WINDOW_S) =>
  new RateLimiterMySQL({
    storeClient: db,
    storeType: "knex",
    dbName: (db.client as { database(): string }).database(),
    tableName: "attempts",
    tableCreated: true,
    clearExpiredByTimeout: false,
    keyPrefix,
    points,
    duration,
  });

/** Where a request comes from: as the proxy before this server says, where there is one. */
export function addressOf(request: Request): string {
  const forwarded = process.env.CHILLBANK_URL ? request.headers.get("x-forwarded-for") : null;
  // The proxy adds the address that it sees at the end: what stands before it, anybody could have sent.
  return forwarded?.split(",").at(-1)?.trim().slice(0, 60) || "here";
}

/** The first three bytes of an IPv4 address, the first four groups of an IPv6 one: what one customer of a provider has. */
export function networkOf(address: string): string {
  if (!address.includes(":")) return address.split(".").slice(0, 3).join(".");
  const [head = "", tail] = address.toLowerCase().split("::");
  const [first, last] = [head, tail ?? ""].map((part) => part.split(":").filter((group) => group !== ""));
  const between = tail === undefined ? 0 : Math.max(0, 8 - first!.length - last!.length);
  const groups = [...first!, ...Array.from({ length: between }, () => "0"), ...last!];
  return groups
    .slice(0, 4)
    .map((group) => group.replace(/^0+(?=.)/, ""))
    .join(":");
}

/** What is tried, and from which network. */
function keyOf(request: Request, what: string): string {
  const address = addressOf(request);
  return createHash("sha256")
    .update(`${what} ${networkOf(address)}`)
    .digest("hex");
}

/** Counts a try at `what`; throws a refusal once there were too many in a quarter of an hour. */
export async function countAttempt(db: Knex, request: Request, what: string): Promise<void> {
  try {
    await limiter(db, "from", BY_ADDRESS).consume(addressOf(request));
    await limiter(db, "at", BY_NETWORK).consume(keyOf(request, what));
  } catch (error) {
    if (error instanceof RateLimiterRes)
      throw new Refusal(429, say("server.people.tooMany", { minutes: Math.ceil(error.msBeforeNext / 60_000) }));
    throw error;
  }
}

/** Whether something is used for the first time within some seconds. */
export async function isFirstUse(db: Knex, what: string, withinS: number): Promise<boolean> {
  try {
    await limiter(db, "once", 1, withinS).consume(what);
    return true;
  } catch (error) {
    if (error instanceof RateLimiterRes) return false;
    throw error;
  }
}

/** Does what a secret opens: a try at `what` is counted first, and forgotten once it was done. */
export async function asTried<T>(request: Request, what: string, work: () => Promise<T>): Promise<T> {
  const db = database();
  await countAttempt(db, request, what);
  const done = await work();
  await forgetAttempts(db, request, what);
  return done;
}

/** Forgets the tries at `what` from a network, and the last one from its address: whoever got in knew it. */
export async function forgetAttempts(db: Knex, request: Request, what: string): Promise<void> {
  await limiter(db, "at", BY_NETWORK).delete(keyOf(request, what));
  await limiter(db, "from", BY_ADDRESS).reward(addressOf(request));
}
