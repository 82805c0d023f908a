/* Addresses to go on to after signing in. What browsers make of them: the URL Standard (WHATWG), from memory. */
import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { ownPath } from "./own-path";

describe("an address to go on to", () => {
  it.each([
    ["/jobs/1/wiring", "/jobs/1/wiring"],
    ["/jobs/1/wiring?part=main.0#checks", "/jobs/1/wiring?part=main.0#checks"],
    ["/people", "/people"],
    ["/jobs/../people", "/people"],
    ["/a name", "/a%20name"],
  ])("%s is this application's", (to, path) => expect(ownPath(to)).toBe(path));
  it.each([
    "//evil.invalid",
    "///evil.invalid",
    "/\\evil.invalid",
    "\\\\evil.invalid",
    "/\t/evil.invalid",
    "/\n/evil.invalid",
    "\t//evil.invalid",
    "/%2f/evil.invalid",
    "/%2Fevil.invalid",
    "/%5cevil.invalid",
    "/%09/evil.invalid",
    "/.//evil.invalid",
    "/a/..//evil.invalid",
    "http://evil.invalid",
    "https:evil.invalid",
    "javascript:alert(1)",
    "data:text/html,x",
    "/\u0000",
    "/\u200b/evil.invalid",
    "evil.invalid",
    "",
    `/${"a".repeat(500)}`,
  ])("%j leads to the list of jobs", (to) => expect(ownPath(to)).toBe("/"));
  it("never leaves the origin, whatever is asked", () => {
    const pieces = fc.constantFrom(
      "/",
      "\\",
      "\t",
      "\n",
      ".",
      "..",
      "%2f",
      "%5C",
      "@",
      ":",
      "evil.invalid",
      "http:",
      "?",
      "#",
      " ",
    );
    fc.assert(
      fc.property(fc.array(fc.oneof(pieces, fc.string({ maxLength: 4 })), { maxLength: 8 }), (list) => {
        const to = new URL(ownPath(list.join("")), "https://chillbank.invalid");
        expect(to.origin).toBe("https://chillbank.invalid");
      }),
      { numRuns: 2000 },
    );
  });
  it.each([[undefined], [["/a", "/b"]], [7], [null]])("%j is none", (to) => expect(ownPath(to)).toBe("/"));
});
