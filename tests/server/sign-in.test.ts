/* Signing in and out, invitations, roles and the first owner, with real sessions. */
import { afterAll, beforeAll, beforeEach, describe, expect, it } from "vitest";
import * as beginRoute from "@/app/api/begin/route";
import * as joinRoute from "@/app/api/join/[token]/route";
import * as session from "@/app/api/session/route";
import * as everywhere from "@/app/api/session/everywhere/route";
import * as demo from "@/app/api/session/demo/route";
import * as password from "@/app/api/session/password/route";
import { meSchema } from "@/contract/people";
import { networkOf } from "@/server/attempts";
import { closeAuth } from "@/server/auth";
import { emptyJob } from "@/core/document/schema";
import { closeDatabase, database } from "@/server/database";
import { createJob, deleteJob, getJob, saveJob } from "@/server/jobs";
import { makeLink, pageOfToken } from "@/server/links";
import {
  beginningCode,
  changeRole,
  createPerson,
  createWorkshop,
  invitationOf,
  invite,
  peopleOf,
  removePerson,
} from "@/server/people";
import { whoAsks, type Who } from "@/server/who";
import { cases } from "../cases";
import { asThemselves } from "./as-themselves";
import { ownDatabase } from "./own-database";

const PASSWORD = "a long enough password";
const OWNER = { name: "Mara", email: "mara@tests.invalid", password: PASSWORD };
let workshopId = "";

type Route = (request: Request, context: { params: Promise<never> }) => Promise<Response>;
const send = (
  route: unknown,
  method: string,
  body: unknown,
  { cookie = "", params = {}, host = "127.0.0.1:3210" } = {},
) =>
  (route as Route)(
    new Request("http://127.0.0.1:3210/api/x", {
      method,
      headers: { host, "content-type": "application/json", ...(cookie ? { cookie } : {}) },
      ...(body === undefined ? {} : { body: JSON.stringify(body) }),
    }),
    { params: Promise.resolve(params as never) },
  );
const cookieOf = (answer: Response) =>
  answer.headers
    .getSetCookie()
    .map((one) => one.split(";")[0])
    .join("; ");
const signIn = (email: string, text: string) => send(session.POST, "POST", { email, password: text });
const meOf = async (cookie: string) => {
  const answer = await send(session.GET, "GET", undefined, { cookie });
  return answer.ok ? meSchema.parse(await answer.json()) : answer.status;
};
const who = async (cookie: string) => (await whoAsks(new Headers({ cookie })))!;

beforeAll(async () => {
  await asThemselves();
  process.env.DATABASE_URL = await ownDatabase();
});
beforeEach(async () => {
  const db = database();
  for (const name of ["people", "credentials", "sessions", "invitations", "attempts", "beginning_codes"])
    await db(name).delete();
  workshopId = await createWorkshop(db, "Tests");
  await createPerson(db, workshopId, { ...OWNER, role: "owner" });
});
afterAll(async () => {
  await closeAuth();
  await closeDatabase();
});

describe("signing in", () => {
  it("answers with a session that says who, and is over after signing out", async () => {
    const answer = await signIn("MARA@tests.invalid", PASSWORD);
    expect(answer.status).toBe(204);
    expect(answer.headers.getSetCookie()[0]).toMatch(/HttpOnly.*SameSite=Lax/i);
    const cookie = cookieOf(answer);
    expect(await meOf(cookie)).toEqual({
      name: "Mara",
      email: OWNER.email,
      role: "owner",
      workshop: "Tests",
      base: null,
      secondFactor: false,
    });
    expect((await send(session.DELETE, "DELETE", undefined, { cookie })).status).toBe(204);
    expect(await meOf(cookie)).toBe(401);
  });
  it.each([
    ["a wrong password", OWNER.email, "another long password"],
    ["nobody", "nobody@tests.invalid", PASSWORD],
  ])("as %s is refused with the same words", async (_, email, text) => {
    const answer = await signIn(email, text);
    expect([answer.status, ((await answer.json()) as { error: string }).error]).toEqual([
      401,
      "The e-mail address or the password is wrong.",
    ]);
  });
  it("is refused after ten wrong tries at one account, with the right password too, and not at another", async () => {
    await createPerson(database(), workshopId, { ...OWNER, email: "tobin@tests.invalid", role: "installer" });
    for (let i = 0; i < 10; i++) expect((await signIn(OWNER.email, "a wrong password here")).status).toBe(401);
    expect((await signIn(OWNER.email, PASSWORD)).status).toBe(429);
    expect((await signIn("tobin@tests.invalid", PASSWORD)).status).toBe(204);
  });
  it("is not locked for its owner by tries from elsewhere, nor for a network whose people sign in", async () => {
    process.env.CHILLBANK_URL = "https://chillbank.invalid";
    const from = (address: string, text: string) =>
      session.POST(
        new Request("http://127.0.0.1:3210/api/x", {
          method: "POST",
          headers: { host: "127.0.0.1:3210", "content-type": "application/json", "x-forwarded-for": address },
          body: JSON.stringify({ email: OWNER.email, password: text }),
        }),
        { params: Promise.resolve({} as never) },
      );
    try {
      for (let i = 0; i < 11; i++) await from(`203.0.113.${i}`, "a wrong password here");
      expect((await from("203.0.113.99", PASSWORD)).status).toBe(429);
      expect((await from("198.51.100.7", PASSWORD)).status).toBe(204);
      for (let i = 0; i < 60; i++) expect((await from("198.51.100.7", PASSWORD)).status).toBe(204);
    } finally {
      delete process.env.CHILLBANK_URL;
    }
  });
  it.each([
    ["203.0.113.9", "203.0.113"],
    ["2001:db8:1:2:3:4:5:6", "2001:db8:1:2"],
    ["2001:DB8::1", "2001:db8:0:0"],
    ["2001:db8:0001:0002::9", "2001:db8:1:2"],
    ["::1", "0:0:0:0"],
    ["here", "here"],
  ])("%s is of the network %s", (address, network) => expect(networkOf(address)).toBe(network));
  it("does not take a cookie that was changed", async () => {
    const cookie = cookieOf(await signIn(OWNER.email, PASSWORD));
    expect(await meOf(cookie.replace(/=(.)/, (_, first: string) => `=${first === "a" ? "b" : "a"}`))).toBe(401);
  });
  it("keeps no password and no token of an invitation that could be read", async () => {
    const token = await invite(database(), await who(cookieOf(await signIn(OWNER.email, PASSWORD))), "installer");
    const rows = JSON.stringify([await database()("credentials"), await database()("invitations")]);
    expect(rows).not.toContain(PASSWORD);
    expect(rows).not.toContain(token);
  });
});

describe("signing out everywhere", () => {
  it("ends all sessions of a person and none of another", async () => {
    await createPerson(database(), workshopId, { ...OWNER, email: "tobin@tests.invalid", role: "installer" });
    const [here, there] = [
      cookieOf(await signIn(OWNER.email, PASSWORD)),
      cookieOf(await signIn(OWNER.email, PASSWORD)),
    ];
    const other = cookieOf(await signIn("tobin@tests.invalid", PASSWORD));
    await send(everywhere.DELETE, "DELETE", undefined, { cookie: here });
    expect([await meOf(here), await meOf(there)]).toEqual([401, 401]);
    expect(await meOf(other)).toMatchObject({ role: "installer" });
  });
});

describe("a changed password", () => {
  it("is asked for the current one, ends other sessions and lets in alone", async () => {
    const cookie = cookieOf(await signIn(OWNER.email, PASSWORD));
    const other = cookieOf(await signIn(OWNER.email, PASSWORD));
    const change = (current: string) =>
      send(password.PUT, "PUT", { current, next: "quite another password" }, { cookie });
    expect((await change("not the current one")).status).toBe(403);
    expect((await change(PASSWORD)).status).toBe(204);
    expect(await meOf(other)).toBe(401);
    expect((await signIn(OWNER.email, PASSWORD)).status).toBe(401);
    expect((await signIn(OWNER.email, "quite another password")).status).toBe(204);
  });
  it.each([
    ["short", "eleven char"],
    ["too long", "x".repeat(129)],
  ])("that is %s is refused", async (_, next) => {
    const cookie = cookieOf(await signIn(OWNER.email, PASSWORD));
    expect((await send(password.PUT, "PUT", { current: PASSWORD, next }, { cookie })).status).toBe(400);
  });
});

describe("an invitation", () => {
  const newcomer = { name: "Wren", email: "wren@tests.invalid", password: PASSWORD };
  const join = (token: string, person: unknown = newcomer) =>
    send(joinRoute.POST, "POST", person, { params: { token } });
  const owner = async () => who(cookieOf(await signIn(OWNER.email, PASSWORD)));
  it("lets one person into its workshop in its role, once", async () => {
    const token = await invite(database(), await owner(), "apprentice");
    const answer = await join(token);
    expect(await meOf(cookieOf(answer))).toMatchObject({ name: "Wren", role: "apprentice", workshop: "Tests" });
    expect((await join(token, { ...newcomer, email: "again@tests.invalid" })).status).toBe(404);
  });
  it("lets one of two in who use it at the same moment", async () => {
    const token = await invite(database(), await owner(), "installer");
    const both = await Promise.all([join(token), join(token, { ...newcomer, email: "two@tests.invalid" })]);
    expect(both.map(({ status }) => status).sort()).toEqual([204, 404]);
  });
  it("is none after a week, and with another token", async () => {
    const token = await invite(database(), await owner(), "installer", new Date(Date.now() - 7 * 86_400_000 - 1000));
    expect((await join(token)).status).toBe(404);
    expect((await join("x".repeat(32))).status).toBe(404);
  });
  it("is not used up by an e-mail address that is taken", async () => {
    const token = await invite(database(), await owner(), "installer");
    expect((await join(token, { ...newcomer, email: OWNER.email })).status).toBe(409);
    expect((await join(token)).status).toBe(204);
  });
});

describe("whoever is taken out, or owns no more", () => {
  const second = { ...OWNER, name: "Tobin", email: "tobin@tests.invalid" };
  const page = { title: "x" } as never;
  async function both() {
    const id = await createPerson(database(), workshopId, { ...second, role: "owner" });
    const cookie = cookieOf(await signIn(second.email, PASSWORD));
    return { id, cookie, tobin: await who(cookie), mara: await who(cookieOf(await signIn(OWNER.email, PASSWORD))) };
  }
  it.each<[string, (mara: Who, id: string) => Promise<boolean>]>([
    ["taken out", (mara, id) => removePerson(database(), mara, id)],
    ["made an apprentice", (mara, id) => changeRole(database(), mara, id, "apprentice")],
  ])("%s: their invitations and customers' links are withdrawn, and those of others stay", async (_, change) => {
    const { id, tobin, mara } = await both();
    const [his, hers] = [await invite(database(), tobin, "owner"), await invite(database(), mara, "installer")];
    const job = await createJob(database(), { ...tobin }, emptyJob("Linked"));
    const link = await makeLink(database(), tobin, { jobId: job.id, page, days: 30 });
    const other = await makeLink(database(), mara, { jobId: job.id, page, days: 30 });
    expect(await change(mara, id)).toBe(true);
    expect([await invitationOf(database(), his), (await invitationOf(database(), hers))?.invitedBy]).toEqual([
      null,
      "Mara",
    ]);
    expect([await pageOfToken(database(), link.token), await pageOfToken(database(), other.token)]).toEqual([
      null,
      page,
    ]);
    const back = { name: "Back", email: "back@tests.invalid", password: PASSWORD };
    expect((await send(joinRoute.POST, "POST", back, { params: { token: his } })).status).toBe(404);
  });
  it("does nothing more by a request that came before: each asks in its own transaction", async () => {
    const { id, tobin, mara } = await both();
    const job = await createJob(database(), mara, emptyJob("Kept"));
    await removePerson(database(), mara, id);
    for (const late of [
      () => invite(database(), tobin, "owner"),
      () => removePerson(database(), tobin, mara.personId),
      () => changeRole(database(), tobin, mara.personId, "apprentice"),
      () => createJob(database(), tobin, emptyJob("Late")),
      () => deleteJob(database(), tobin, job.id),
      () => saveJob(database(), tobin, { id: job.id, revision: 1, job: emptyJob("Late") }),
      () => makeLink(database(), tobin, { jobId: job.id, page, days: 30 }),
    ])
      await expect(late()).rejects.toMatchObject({ status: 401 });
    expect((await getJob(database(), job.id))?.revision).toBe(1);
  });
  it("two owners who take each other out at the same moment leave one", async () => {
    for (let round = 0; round < 10; round++) {
      const { id, tobin, mara } = await both();
      await Promise.allSettled([removePerson(database(), mara, id), removePerson(database(), tobin, mara.personId)]);
      const left = (await database()("people").where({ workshop_id: workshopId }).select("role")) as { role: string }[];
      expect(left).toEqual([{ role: "owner" }]);
      for (const name of ["people", "credentials", "sessions"]) await database()(name).delete();
      await createPerson(database(), workshopId, { ...OWNER, role: "owner" });
    }
  });
  it("an apprentice's designs beside an allowed save are never taken", async () => {
    const { mara } = await both();
    const apprentice = { ...second, email: "wren@tests.invalid", name: "Wren" };
    const personId = await createPerson(database(), workshopId, { ...apprentice, role: "apprentice" });
    const wren = { workshopId, personId, name: "Wren" };
    const job = emptyJob("Raced");
    const { id } = await createJob(database(), mara, job);
    for (let revision = 1; revision <= cases(15, 100); revision++) {
      const allowed = { ...job, name: `Raced ${revision}` };
      const design = {
        ...job,
        name: "Taken",
        inverter: { ...job.inverter, count: { value: 9, origin: "plate" as const } },
      };
      const saves = await Promise.allSettled([
        saveJob(database(), mara, { id, revision, job: allowed }),
        // Half of them wait for the revision that the allowed save makes.
        ...Array.from({ length: 12 }, (_, i) =>
          saveJob(database(), wren, { id, revision: revision + (i % 2), job: design }),
        ),
      ]);
      expect(saves.slice(1).every((one) => one.status === "rejected" || one.value.outcome !== "saved")).toBe(true);
      expect((await getJob(database(), id))!.job.name).toBe(allowed.name);
    }
  });
});

describe("people of a workshop", () => {
  it("keep one owner at least", async () => {
    const me = await who(cookieOf(await signIn(OWNER.email, PASSWORD)));
    await expect(changeRole(database(), me, me.personId, "installer")).rejects.toThrow(/one owner/);
    await expect(removePerson(database(), me, me.personId)).rejects.toThrow(/one owner/);
  });
  it("who are taken out are signed out at once", async () => {
    const id = await createPerson(database(), workshopId, {
      ...OWNER,
      email: "tobin@tests.invalid",
      role: "installer",
    });
    const cookie = cookieOf(await signIn("tobin@tests.invalid", PASSWORD));
    const me = await who(cookieOf(await signIn(OWNER.email, PASSWORD)));
    expect(await removePerson(database(), me, id)).toBe(true);
    expect(await meOf(cookie)).toBe(401);
    expect((await signIn("tobin@tests.invalid", PASSWORD)).status).toBe(401);
    expect((await peopleOf(database(), me)).people.map(({ name }) => name)).toEqual(["Mara"]);
  });
  it("have a new role at once", async () => {
    const id = await createPerson(database(), workshopId, {
      ...OWNER,
      email: "tobin@tests.invalid",
      role: "installer",
    });
    const cookie = cookieOf(await signIn("tobin@tests.invalid", PASSWORD));
    await changeRole(database(), await who(cookieOf(await signIn(OWNER.email, PASSWORD))), id, "apprentice");
    expect(await meOf(cookie)).toMatchObject({ role: "apprentice" });
  });
});

describe("the first owner", () => {
  const first = { ...OWNER, email: "first@tests.invalid", workshop: "New" };
  const begin = (code: string) => send(beginRoute.POST, "POST", { ...first, code });
  beforeEach(async () => {
    for (const name of ["people", "workshops", "parts"]) await database()(name).delete();
  });
  it("is let in by the code that was printed, once", async () => {
    const code = await beginningCode(database());
    const answer = await begin(code);
    expect(await meOf(cookieOf(answer))).toMatchObject({ role: "owner", workshop: "New" });
    expect((await database()("parts").count({ all: "*" }))[0]!.all).toBeGreaterThan(20);
    expect((await begin(code)).status).toBe(403);
  });
  it("is refused by another code, by one of yesterday, and once there is an owner", async () => {
    expect((await begin("0123456789abcdef0123")).status).toBe(403);
    expect((await begin(await beginningCode(database(), Date.now() - 25 * 3_600_000))).status).toBe(403);
    const code = await beginningCode(database());
    await createPerson(database(), await createWorkshop(database(), "There"), { ...OWNER, role: "owner" });
    expect((await begin(code)).status).toBe(403);
  });
});

describe("the demo's button", () => {
  afterAll(() => {
    delete process.env.CHILLBANK_DEMO;
    delete process.env.CHILLBANK_URL;
  });
  it("signs in on this machine alone, and only in the demo", async () => {
    await createPerson(database(), workshopId, { ...OWNER, email: "owner@demo.invalid", role: "owner" });
    const look = (host: string) => send(demo.POST, "POST", { role: "owner" }, { host });
    expect((await look("127.0.0.1:3210")).status).toBe(403);
    process.env.CHILLBANK_DEMO = PASSWORD;
    process.env.CHILLBANK_URL = "https://workshop.example";
    expect((await look("workshop.example")).status).toBe(403);
    delete process.env.CHILLBANK_URL;
    await closeAuth();
    expect((await look("127.0.0.1:3210")).status).toBe(204);
  });
});
