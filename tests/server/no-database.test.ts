/* A database that cannot be used is one plain line, by the errors of a real one. */
import { expect, inject, it } from "vitest";
import { connect } from "@/server/database";
import { wordsOfNoDatabase } from "../../tools/no-database";

const changed = (change: (url: URL) => void) => {
  const url = new URL(inject("databaseUrl"));
  change(url);
  return url.href;
};
it.each<[string, (url: URL) => void, RegExp]>([
  [
    "a wrong password",
    (url) => void (url.password = "not-it"),
    /^DATABASE_URL: the database at [\d.]+:\d+ refuses the user/,
  ],
  ["a user who is none", (url) => void (url.username = "nobody"), /refuses the user nobody/],
  [
    "a database that is none",
    (url) => void (url.pathname = "/none_such"),
    /no database none_such|no rights to the database none_such/,
  ],
  ["a port where nothing is", (url) => void (url.port = "9"), /no database answers at [\d.]+:9/],
])("%s", async (_, change, words) => {
  const address = changed(change);
  const db = connect(address);
  const error: unknown = await db.raw("SELECT 1").catch((fault: unknown) => fault);
  await db.destroy();
  const line = wordsOfNoDatabase(error, address)!;
  expect(line).toMatch(words);
  expect(line).not.toContain("\n");
  expect(line).not.toContain("not-it");
});
it("something else is none of it", () => expect(wordsOfNoDatabase(new Error("x"), "mysql://a@b/c")).toBeNull());
