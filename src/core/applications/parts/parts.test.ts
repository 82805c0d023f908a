import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { readTable, writeTable } from "@/csv/read";
import { genericParts } from "../../../../db/generic-parts";
import { q, jobOf } from "../../../../tests/jobs";
import { readJob } from "../../document/schema";
import { assess } from "../../assessment/verdicts/assess";
import { pickInto, shelfUses, updateUses } from "./pick";
import { emptyEntry, readEntry, SHELF_KIND_KEYS, shelfKind, type ShelfEntry } from "./shelf";
import { entriesOfTable, rowOfEntry, SHELF_COLUMNS } from "./table";

const GENERIC_ENTRIES = genericParts();
const importText = (text: string) => {
  const table = readTable(text);
  return table.ok ? entriesOfTable(table.table) : table;
};
const unit = GENERIC_ENTRIES.find(({ name }) => name.startsWith("Roof unit, 13,500 BTU/h, 230"))!;
const ref = { id: "019341f0-0000-7000-8000-000000000001", revision: 3 };

describe("the shelf's entries", () => {
  it("that ship are all readable, of every kind, each name once in its kind", () => {
    for (const entry of GENERIC_ENTRIES) expect(readEntry(entry), entry.name).toMatchObject({ ok: true });
    expect(new Set(GENERIC_ENTRIES.map(({ kind }) => kind))).toEqual(new Set(SHELF_KIND_KEYS));
    expect(new Set(GENERIC_ENTRIES.map(({ kind, name }) => `${kind} ${name}`)).size).toBe(GENERIC_ENTRIES.length);
  });
  it("that ship lie in the plausible ranges of their kinds", () => {
    const outside = GENERIC_ENTRIES.flatMap(({ kind, name, values }) =>
      Object.entries(values).flatMap(([key, value]) => {
        const { low, high } = shelfKind(kind).fields[key]!;
        // An interrupting rating or a battery's volts may lie at the edge of what is usual.
        return value < low * 0.5 || value > high * 2 ? [`${name}: ${key} ${value}`] : [];
      }),
    );
    expect(outside).toEqual([]);
  });
  it.each<[string, unknown, string]>([
    ["nothing", null, "kind"],
    ["an unknown kind", { kind: "toaster" }, "kind"],
    ["no name", { ...emptyEntry("fuse"), name: " " }, "name"],
    ["a quantity of another kind", { ...emptyEntry("fuse", "F"), values: { coolingPower: 3000 } }, "values"],
    ["an absurd value", { ...emptyEntry("fuse", "F"), values: { rating: 1e9 } }, "values.rating"],
    ["NaN", { ...emptyEntry("fuse", "F"), values: { rating: NaN } }, "values.rating"],
    [
      "a word that is none of its choices",
      { ...emptyEntry("fuse", "F"), choices: { fuseKind: "wet string" } },
      "choices.fuseKind",
    ],
  ])("refuses %s with its path", (_, value, path) => {
    const read = readEntry(value);
    expect(read).toMatchObject({ ok: false, faults: [{ path }] });
  });
});

describe("picked into a system", () => {
  it("gives its values with origin plate, and the reference", () => {
    const job = pickInto(jobOf({ unit: { name: "Front" } }), "units.0", unit, ref);
    expect(job.units[0]).toMatchObject({
      name: unit.name,
      runningCurrent: q(6.2),
      lockedRotorCurrent: q(33),
      shelf: ref,
    });
    expect(readJob(JSON.parse(JSON.stringify(job)))).toMatchObject({ ok: true });
    expect(shelfUses(job)).toEqual([{ path: "units.0", kind: "unit", ...ref }]);
  });
  it("clears what was another part's, but keeps what was measured", () => {
    const job = jobOf({ unit: { ratedPower: q(999), startTime: q(0.41, "measured"), powerPerKelvin: q(0.02) } });
    const picked = pickInto(job, "units.0", { ...unit, values: { runningCurrent: 5 } }, ref).units[0]!;
    expect(picked.ratedPower).toBeUndefined();
    expect(picked.startTime).toEqual(q(0.41, "measured"));
    // No quantity of the shelf's: the job's own stays.
    expect(picked.powerPerKelvin).toEqual(q(0.02));
  });
  it.each([
    ["soft-starter", "units.0"],
    ["inverter", "inverter"],
    ["battery", "bank"],
    ["cable", "wiring.main.3"],
    ["fuse", "wiring.main.0"],
  ] as const)("a %s goes to %s, and the system is valid and assessed", (kind, path) => {
    const entry = GENERIC_ENTRIES.find((one) => one.kind === kind)!;
    const job = pickInto(jobOf(), path, entry, ref);
    const read = readJob(JSON.parse(JSON.stringify(job)));
    expect(read).toMatchObject({ ok: true });
    expect(() => assess(job)).not.toThrow();
    expect(shelfUses(job)).toMatchObject([{ path, kind, ...ref }]);
  });
  it("a changed part reaches the system only by an update, which keeps the job's name for a unit", () => {
    const job = pickInto(jobOf(), "units.0", unit, ref);
    job.units[0]!.name = "Over the bed";
    const changed: ShelfEntry = { ...unit, values: { ...unit.values, lockedRotorCurrent: 40 } };
    const updated = updateUses(job, changed, { ...ref, revision: 4 });
    expect(updated.units[0]).toMatchObject({
      name: "Over the bed",
      lockedRotorCurrent: q(40),
      shelf: { ...ref, revision: 4 },
    });
    expect(job.units[0]!.lockedRotorCurrent).toEqual(q(33));
    expect(updateUses(job, changed, { id: "other", revision: 9 })).toEqual(job);
  });
});

describe("the shelf as CSV", () => {
  it("written and read again is the same, name for name and figure for figure", () => {
    const text = writeTable(SHELF_COLUMNS, GENERIC_ENTRIES.map(rowOfEntry));
    const read = importText(text);
    expect(read).toMatchObject({ ok: true, import: { skippedCount: 0, unknownColumns: [] } });
    if (read.ok) expect(read.import.entries).toEqual(GENERIC_ENTRIES);
  });
  it.each<[string, string]>([
    ["commas", "kind,name,rating\nfuse,F 100,100.5"],
    ["semicolons and decimal commas", "kind;name;rating\nfuse;F 100;100,5"],
    ["tabs", "kind\tname\trating\nfuse\tF 100\t100.5"],
    ["bars", "kind|name|rating\nfuse|F 100|100.5"],
    ["a byte-order mark and Windows line ends", "\ufeffkind,name,rating\r\nfuse,F 100,100.5\r\n"],
    ["quotes, blanks and empty lines", '"kind" , name,rating\n\n"fuse" ,"F 100", 100.5\n\n'],
    ["capitals in the header", "Kind,NAME,Rating\nFuse,F 100,100.5"],
  ])("reads %s", (_, text) => {
    expect(importText(text)).toMatchObject({
      ok: true,
      import: { entries: [{ kind: "fuse", name: "F 100", values: { rating: 100.5 } }] },
    });
  });
  it("passes over junk rows, each with its line and the reason", () => {
    const text =
      "kind,name,rating\nfuse,Good,100\ntoaster,T,1\nfuse,,5\nfuse,Bad,abc\nfuse,Huge,1e12\n???\nfuse,Also good,60";
    const read = importText(text);
    expect(read.ok && read.import.entries.map(({ name }) => name)).toEqual(["Good", "Also good"]);
    expect(read.ok && read.import.skipped.map(({ line }) => line)).toEqual([3, 4, 5, 6, 7]);
    expect(read.ok && read.import.skipped[2]!.why).toMatch(/rating: “abc” is not a number/);
  });
  it.each<[string, string, RegExp]>([
    ["nothing", "", /empty/],
    ["no header", "fuse,F,100", /“kind” is missing/],
    ["no good row", "kind,name\ntoaster,T", /No row could be read.*Line 2/],
    ["a header alone", "kind,name", /no rows/],
    ["a quotation that never closes", 'kind,name\nfuse,"F', /never closes/],
    ["zero bytes", "kind,name\u0000\n", /not text/],
    ["a column twice", "kind,name,rating,rating\nfuse,F,1,2", /there twice/],
  ])("refuses whole, with the reason: %s", (_, text, reason) => {
    expect(importText(text)).toMatchObject({ ok: false, message: expect.stringMatching(reason) });
  });
  it("a name that a spreadsheet would run is written as text and read back as it was", () => {
    const entry = { ...emptyEntry("cable", "=HYPERLINK(1)"), note: "@sum" };
    const text = writeTable(SHELF_COLUMNS, [rowOfEntry(entry)]);
    expect(text).toContain("'=HYPERLINK");
    const read = importText(text);
    expect(read.ok && read.import.entries[0]).toMatchObject({ name: "=HYPERLINK(1)", note: "@sum" });
  });
  it("never throws on any text", () => {
    fc.assert(
      fc.property(fc.string({ maxLength: 400, unit: "binary" }), (text) => {
        expect(typeof importText(text).ok).toBe("boolean");
      }),
      { numRuns: 300 },
    );
  });
  it("reads 50,000 rows with their junk told", () => {
    const rows = Array.from({ length: 50_000 }, (_, i) =>
      i % 100 === 99 ? "junk,row" : `fuse;F ${i};${100 + (i % 300)},5`,
    );
    const read = importText(`kind;name;rating\n${rows.join("\n")}`);
    expect(read).toMatchObject({ ok: true, import: { skippedCount: 500 } });
    if (read.ok) {
      expect(read.import.entries).toHaveLength(49_500);
      expect(read.import.skipped).toHaveLength(100);
    }
  });
});
