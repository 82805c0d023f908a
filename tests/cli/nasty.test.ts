import { readdirSync, readFileSync } from "node:fs";
import { join } from "node:path";
import { NOTHING_SAID } from "@/core/applications/test-run/site/conditions";
import Papa from "papaparse";
import { describe, expect, it } from "vitest";
import { forecastOutput } from "@/cli/forecast";
import { readLog, writeLog } from "@/csv/log";
import { jobOf } from "../jobs";

const FOLDER = join(import.meta.dirname, "../nasty");
const textOf = (file: string) => readFileSync(join(FOLDER, file), "utf8");

/** What becomes of each file: why it is refused, or how many readings it gives and how many of its rows are told as refused. */
const MEANT: Record<string, RegExp | [readings: number, refused: number]> = {
  "deep.jsonl": /No battery current/,
  "empty.csv": /empty/,
  "formula-notes.csv": [4, 0],
  "formula-values.csv": [2, 2],
  "latin-one.csv": [2, 0],
  "long-cell.csv": [2, 0],
  "only-bom.csv": /empty/,
  "page.csv": /no table/,
  "proto.jsonl": [1, 0],
  "ragged.csv": [1, 2],
  "same-moment.csv": [500, 0],
  "two-headers.csv": [2, 1],
  "unclosed-quote.csv": /never closes/,
  "wide.csv": /No row holds a reading/,
  "wild-numbers.csv": [1, 4],
  "wild-times.csv": /No row holds a reading/,
  "zip.csv": /not text/,
};

it("every nasty file has a meaning here", () => expect(readdirSync(FOLDER).sort()).toEqual(Object.keys(MEANT).sort()));

describe.each(Object.entries(MEANT))("%s", (file, meant) => {
  const read = readLog(textOf(file), "Europe/Lisbon");
  it("is refused with its reason, or read with what was refused in it", () => {
    if (meant instanceof RegExp) expect(!read.ok && read.message).toMatch(meant);
    else expect(read.ok && [read.log.readings.timeMs.length, read.log.refused.count]).toEqual(meant);
    expect(({} as { polluted?: unknown }).polluted).toBeUndefined();
  });
  it("gives a forecast or a refusal on the command line", () => {
    const said = forecastOutput(jobOf(), textOf(file), {
      minutes: null,
      plan: null,
      settings: null,
      until: null,
      conditions: NOTHING_SAID,
    });
    expect(said.ok ? JSON.parse(said.text) : said.message).toBeTruthy();
  });
  it.runIf(read.ok)("is written without a cell that a spreadsheet would run", () => {
    const { readings } = (read as Extract<typeof read, { ok: true }>).log;
    const cells = Papa.parse<string[]>(writeLog(readings, () => 0)).data.flat();
    expect(cells.filter((cell) => /^[=+\-@\t\r]/.test(cell) && !/^[+-]?[\d.]+$/.test(cell))).toEqual([]);
  });
});
