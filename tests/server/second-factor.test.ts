/* One-time codes beside the password: by RFC 6238, worked out here from the published algorithm. */
import { afterAll, beforeAll, beforeEach, describe, expect, it, vi } from "vitest";
import * as session from "@/app/api/session/route";
import * as code from "@/app/api/session/code/route";
import * as factor from "@/app/api/session/second-factor/route";
import { meSchema, secondFactorBegun } from "@/contract/people";
import { closeAuth } from "@/server/auth";
import { closeDatabase, database } from "@/server/database";
import { createPerson, createWorkshop, removePerson } from "@/server/people";
import { digitsAt, keyOf } from "../totp";
import { asThemselves } from "./as-themselves";
import { AUTHOR, ownDatabase } from "./own-database";

const PASSWORD = "a long enough password";
const OWNER = { name: "Mara", email: "mara@tests.invalid", password: PASSWORD };
type Route = (request: Request, context: { params: Promise<never> }) => Promise<Response>;
function send(route: unknown, method: string, body: unknown, cookie = ""): Promise<Response> {
  const headers = { host: "127.0.0.1:3210", "content-type": "application/json", ...(cookie ? { cookie } : {}) };
  const request = new Request("http://127.0.0.1:3210/api/x", {
    method,
    headers,
    ...(body === undefined ? {} : { body: JSON.stringify(body) }),
  });
  return (route as Route)(request, { params: Promise.resolve({} as never) });
}
/** The cookies that an answer leaves a browser with. */
const cookieOf = (answer: Response) =>
  answer.headers
    .getSetCookie()
    .filter((one) => !/Max-Age=0/i.test(one))
    .map((one) => one.split(";")[0])
    .join("; ");
const signIn = (password = PASSWORD) => send(session.POST, "POST", { email: OWNER.email, password });
const signedIn = async (cookie: string) => (await send(session.GET, "GET", undefined, cookie)).status === 200;
const type = (typed: string, cookie: string) => send(code.POST, "POST", { code: typed }, cookie);

let workshopId = "";
let ownerId = "";
beforeAll(async () => {
  await asThemselves();
  process.env.DATABASE_URL = await ownDatabase();
});
beforeEach(async () => {
  const db = database();
  for (const name of ["people", "credentials", "sessions", "second_factors", "attempts"]) await db(name).delete();
  workshopId = await createWorkshop(db, "Tests");
  await createPerson(db, workshopId, { ...OWNER, role: "owner" });
  ownerId = ((await db("people").first("id")) as { id: string }).id;
});
afterAll(async () => {
  vi.useRealTimers();
  await closeAuth();
  await closeDatabase();
});

/** One-time codes set up for the owner; the key, the recovery codes, and a moment whose code was not used. */
async function setUp() {
  const cookie = cookieOf(await signIn());
  const begun = secondFactorBegun.parse(await (await send(factor.POST, "POST", { password: PASSWORD }, cookie)).json());
  const key = keyOf(begun.address);
  const confirmed = await send(factor.PUT, "PUT", { code: digitsAt(key, Date.now()) }, cookie);
  expect(confirmed.status).toBe(204);
  return { key, recoveryCodes: begun.recoveryCodes, cookie: cookieOf(confirmed) };
}

it("works out the codes of RFC 6238, appendix B", () => {
  const key = Buffer.from("12345678901234567890");
  expect(digitsAt(key, 59_000, 8)).toBe("94287082");
  expect(digitsAt(key, 1111111109_000, 8)).toBe("07081804");
});

describe("one-time codes", () => {
  it("are asked for from the first right one on, and not before", async () => {
    const cookie = cookieOf(await signIn());
    expect((await send(factor.POST, "POST", { password: "another one entirely" }, cookie)).status).toBe(403);
    const begun = await send(factor.POST, "POST", { password: PASSWORD }, cookie);
    expect(begun.headers.get("cache-control")).toBe("no-store");
    const { address, recoveryCodes } = secondFactorBegun.parse(await begun.json());
    expect(recoveryCodes).toHaveLength(10);
    expect((await signIn()).status).toBe(204);
    expect((await send(factor.PUT, "PUT", { code: "000000" }, cookie)).status).toBe(403);
    const confirmed = await send(factor.PUT, "PUT", { code: digitsAt(keyOf(address), Date.now()) }, cookie);
    expect(confirmed.status).toBe(204);
    const me = await send(session.GET, "GET", undefined, cookieOf(confirmed));
    expect(meSchema.parse(await me.json()).secondFactor).toBe(true);
  });
  it("let nobody in with the password alone", async () => {
    await setUp();
    const half = await signIn();
    expect(await half.json()).toEqual({ secondFactor: true });
    expect(await signedIn(cookieOf(half))).toBe(false);
    expect((await type("123456", cookieOf(half))).status).toBe(401);
    expect((await type("123456", "")).status).toBe(401);
  });
  it("let in by the right one, and not again by the same", async () => {
    const { key } = await setUp();
    const now = digitsAt(key, Date.now());
    const first = await type(now, cookieOf(await signIn()));
    expect(first.status).toBe(204);
    expect(await signedIn(cookieOf(first))).toBe(true);
    const again = await type(now, cookieOf(await signIn()));
    expect([again.status, cookieOf(again)]).toEqual([401, ""]);
    const sessions = await database()("sessions").where({ person_id: ownerId });
    expect(sessions).toHaveLength(2);
  });
  it("are held after ten wrong ones, whatever sign-in they are typed at", async () => {
    const { key } = await setUp();
    for (let n = 0; n < 10; n += 5) {
      const half = cookieOf(await signIn());
      for (let i = 0; i < 5; i++) expect((await type(`00000${i}`, half)).status).toBe(401);
    }
    expect((await type(digitsAt(key, Date.now()), cookieOf(await signIn()))).status).toBe(429);
  });
  it("are not needed with a recovery code, which opens once", async () => {
    const { recoveryCodes } = await setUp();
    const opened = await type(recoveryCodes[0]!, cookieOf(await signIn()));
    expect(await signedIn(cookieOf(opened))).toBe(true);
    expect((await type(recoveryCodes[0]!, cookieOf(await signIn()))).status).toBe(401);
    expect((await type(recoveryCodes[1]!, cookieOf(await signIn()))).status).toBe(204);
  });
  it("are kept encrypted, ended by the password, and gone with the person", async () => {
    const { cookie, recoveryCodes } = await setUp();
    const [row] = (await database()("second_factors")) as [{ secret: string; recovery_codes: string }];
    expect(row.recovery_codes).not.toContain(recoveryCodes[0]);
    expect((await send(factor.DELETE, "DELETE", { password: "another one entirely" }, cookie)).status).toBe(403);
    expect((await send(factor.DELETE, "DELETE", { password: PASSWORD }, cookie)).status).toBe(204);
    expect((await signIn()).status).toBe(204);
    await setUp();
    const other = { name: "Other", email: "other@tests.invalid", password: PASSWORD, role: "owner" as const };
    await createPerson(database(), workshopId, other);
    await removePerson(database(), { ...AUTHOR, workshopId, email: "", role: "owner" } as never, ownerId);
    expect(await database()("second_factors")).toEqual([]);
  });
});
