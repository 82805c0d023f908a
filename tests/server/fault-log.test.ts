/* What a fault of the database may tell whoever reads the log: its code and what it was about, never what customers entered. */
import { inspect } from "node:util";
import type { Knex } from "knex";
import { afterAll, beforeAll, describe, expect, it, vi } from "vitest";
import { auth, closeAuth } from "@/server/auth";
import { connect } from "@/server/database";
import { ownDatabase } from "./own-database";

const ENTERED = "Jane O'Doe of Mill Lane";
let db: Knex;
beforeAll(async () => {
  process.env.DATABASE_URL = await ownDatabase();
  db = connect(process.env.DATABASE_URL);
});
afterAll(() => Promise.all([db.destroy(), closeAuth()]));

/** What a log would show of what some work throws. */
async function shownOf(work: PromiseLike<unknown>): Promise<string> {
  try {
    await work;
  } catch (error) {
    return inspect(error, { depth: 10, showHidden: true }) + String((error as Error).stack);
  }
  throw new Error("it did not fail");
}

describe("a statement's error holds none of its values where", () => {
  it.each<[string, string, () => PromiseLike<unknown>]>([
    ["the statement is refused", "ER_NO_SUCH_TABLE", () => db("nowhere").insert({ name: ENTERED })],
    [
      "a value is refused",
      "ER_DUP_ENTRY",
      () => db("workshops").insert([1, 2].map(() => ({ id: ENTERED, name: ENTERED, created_at: new Date() }))),
    ],
    ["what is read as a stream breaks off", "ER_NO_SUCH_TABLE", () => drained(db("nowhere").where({ name: ENTERED }))],
  ])("%s", async (_, code, work) => {
    const shown = await shownOf(work());
    expect(shown).toContain(code);
    expect(shown).not.toMatch(/Jane|Doe|Mill/);
  });

  it("the connection is lost under it", async () => {
    const other = connect(process.env.DATABASE_URL!);
    const asked = shownOf(db.raw("SELECT SLEEP(20), ?", [ENTERED]));
    let running: { Id: number }[] = [];
    while (running.length === 0) {
      const [all] = (await other.raw("SHOW PROCESSLIST")) as [{ Id: number; Info: string | null }[]];
      running = all.filter(({ Info }) => Info?.startsWith("SELECT SLEEP"));
    }
    await other.raw("KILL ?", [running[0]!.Id]);
    await other.destroy();
    const shown = await asked;
    expect(shown).toContain("SELECT SLEEP(20), ?");
    expect(shown).not.toMatch(/Jane|Doe|Mill/);
  });

  it("the sign-in asks for a session", async () => {
    const log = vi.spyOn(console, "error").mockImplementation(() => undefined);
    const headers = new Headers({ host: "127.0.0.1", "content-type": "application/json" });
    // It looks whether its tables are there once, at its first question.
    await auth().api.getSession({ headers: await signedHeaders(headers) });
    await db.schema.renameTable("sessions", "sessions_away");
    const body = { email: "jane@mill-lane.example", password: ENTERED };
    try {
      const shown = await shownOf(auth().api.listSessions({ headers: await signedHeaders(headers) }));
      await auth()
        .api.signInEmail({ body, headers, asResponse: true })
        .catch(() => undefined);
      expect(shown + inspect(log.mock.calls, { depth: 10 })).not.toContain(TOKEN);
    } finally {
      await db.schema.renameTable("sessions_away", "sessions");
      log.mockRestore();
    }
  });
});

const TOKEN = "0123456789abcdefghijklmnopqrstuv";

/** Headers with a session cookie that is signed as the sign-in signs its own. */
async function signedHeaders(headers: Headers): Promise<Headers> {
  const { secret } = await auth().$context;
  const { makeSignature } = await import("better-auth/crypto");
  return new Headers([
    ...headers,
    ["cookie", `chillbank.session_token=${TOKEN}.${encodeURIComponent(await makeSignature(TOKEN, secret))}`],
  ]);
}

async function drained(query: Knex.QueryBuilder): Promise<void> {
  await query.stream().toArray();
}
