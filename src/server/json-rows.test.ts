import { setImmediate as breathe } from "node:timers/promises";
import { describe, expect, it } from "vitest";
import { rowsOfJson } from "./json-rows";

const bytesOf = (text: string) => new TextEncoder().encode(text);
async function rowsOf(bytes: Uint8Array): Promise<unknown[]> {
  const rows: unknown[] = [];
  for await (const row of rowsOfJson(bytes)) rows.push(row);
  return rows;
}
/** Some 6 MB: rows of every kind of value, names and text beyond ASCII. */
const long = Array.from({ length: 40_000 }, (_, i) => ({
  timeMs: 1.7e12 + i,
  values: { battery_current_a: -41.25e-1, sun: null },
  note: i % 7 === 0 ? `Kühlung "an", 🌡 ${i}\n` : null,
  history: [[i, true, {}]],
}));

describe("rows of JSON", () => {
  it.each<[string, unknown[]]>([
    ["none", []],
    ["of one of each kind", [1, "a", null, true, [], {}, [[]], { a: { b: [1] } }]],
    ["longer than a piece", long],
  ])("are what the whole parsed in one go has: %s", async (_what, value) => {
    expect(await rowsOf(bytesOf(JSON.stringify(value)))).toEqual(value);
    expect(await rowsOf(bytesOf(`\n ${JSON.stringify(value, null, 2)}\n`))).toEqual(value);
  });
  it.each([
    "",
    " ",
    "{}",
    '{"a":1}',
    "7",
    '"text"',
    "null",
    "[1,2",
    "[1 2]",
    "[1]]",
    "[1] 2",
    "[nul]",
    '[{"a":}]',
    "x",
    "[01]",
    "[1.]",
    "[-]",
    '["\u0001"]',
    '["\\u12G4"]',
    "[1,]",
    '[{"a":1,}]',
    "[NaN]",
  ])("are none of %j", (text) => expect(rowsOf(bytesOf(text))).rejects.toThrow(SyntaxError));
  it("are none of what is no UTF-8", () =>
    expect(rowsOf(new Uint8Array([0x5b, 0x22, 0xc3, 0x28, 0x22, 0x5d]))).rejects.toThrow(SyntaxError));
  it("have a name of JavaScript's own as a name like any other", async () => {
    const [row] = (await rowsOf(bytesOf('[{"__proto__":{"timeMs":1}}]'))) as [object];
    expect(Object.keys(row)).toEqual(["__proto__"]);
    expect("timeMs" in row).toBe(false);
  });
  it("let others be answered meanwhile", async () => {
    const bytes = bytesOf(JSON.stringify(long));
    let turns = 0;
    let reading = true;
    const others = (async () => {
      for (; reading; turns++) await breathe();
    })();
    await rowsOf(bytes);
    reading = false;
    await others;
    expect(turns).toBeGreaterThan(bytes.length / 100_000);
  });
});
