import type { Knex } from "knex";
import { RateLimiterMySQL, RateLimiterRes } from "rate-limiter-flexible";
import { say } from "@/core/messages/say";
import { Refusal } from "./refusal";

/*
 * How often a password, a code or an invitation may be tried: by what is tried, which holds guesses at one account from many
 * machines, and by where from, which holds guesses at many accounts from one (ASVS 4, 2.2.1).
 */
const WINDOW_S = 15 * 60;
const BY_NAME = 10;
const BY_ADDRESS = 50;

const limiter = (db: Knex, keyPrefix: string, points: number) =>
  new RateLimiterMySQL({
    storeClient: db,
    storeType: "knex",
    dbName: (db.client as { database(): string }).database(),
    tableName: "attempts",
    tableCreated: true,
    clearExpiredByTimeout: false,
    keyPrefix,
    points,
    duration: WINDOW_S,
  });

/** Where a request comes from: as the proxy before this server says, where there is one. */
export function addressOf(request: Request): string {
  const forwarded = process.env.CHILLBANK_URL ? request.headers.get("x-forwarded-for") : null;
  // The proxy adds the address that it sees at the end: what stands before it, anybody could have sent.
  return forwarded?.split(",").at(-1)?.trim().slice(0, 60) || "here";
}

/** Counts a try at `name`; throws a refusal once there were too many in a quarter of an hour. */
export async function countAttempt(db: Knex, request: Request, name: string): Promise<void> {
  try {
    await limiter(db, "from", BY_ADDRESS).consume(addressOf(request));
    await limiter(db, "at", BY_NAME).consume(name.slice(0, 200));
  } catch (error) {
    if (error instanceof RateLimiterRes)
      throw new Refusal(429, say("server.people.tooMany", { minutes: Math.ceil(error.msBeforeNext / 60_000) }));
    throw error;
  }
}

/** Forgets the tries at `name`: whoever has signed in knew it. */
export async function forgetAttempts(db: Knex, name: string): Promise<void> {
  await limiter(db, "at", BY_NAME).delete(name.slice(0, 200));
}
