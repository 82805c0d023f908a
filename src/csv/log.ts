import Papa from "papaparse";
import { logTable } from "../core/applications/test-run/log/log-file";
import { recognise, rowReader, type Mapping, type Understood } from "../core/applications/test-run/log/recognise";
import { fromList, type Reading, type Readings } from "../core/applications/test-run/log/readings";
import { joinDeltas, readDelta } from "../core/applications/test-run/log/signalk";
import { say } from "../core/messages/say";

/** Rows that a table is recognised by. */
export const SAMPLE_ROWS = 400;
/** Largest log that is taken, characters: a million rows of the project's own format and more. */
export const LARGEST_LOG = 200_000_000;

export interface LogRead {
  kind: "table" | "signal-k";
  readings: Readings;
  understood: Understood | null;
  /** Rows that held no reading, with why: the first few. */
  refused: { count: number; first: { line: number; message: string }[] };
}

export type ReadLog = { ok: true; log: LogRead } | { ok: false; message: string };

const FIRST_REFUSED = 5;

/** Text that a spreadsheet would run, but for plain numbers with their sign. */
const FORMULA = /^(?![+-]?[\d.]+$)[=+\-@\t\r]/;

/** A log as CSV in the project's own format, times with the offset of `offsetAt` (seconds ahead of UTC at a moment). */
export function writeLog(readings: Readings, offsetAt: (ms: number) => number): string {
  return [...logPieces(readings, offsetAt)].join("");
}

/** Rows to a piece: some milliseconds of work. */
const ROWS_A_PIECE = 2000;

/** The same piece by piece. */
export function* logPieces(readings: Readings, offsetAt: (ms: number) => number): Generator<string> {
  const { header, count, rows } = logTable(readings, offsetAt);
  const lines = (table: string[][]) => `${Papa.unparse(table, { escapeFormulae: FORMULA, newline: "\n" })}\n`;
  yield lines([header]);
  for (let from = 0; from < count; from += ROWS_A_PIECE) yield lines(rows(from, Math.min(count, from + ROWS_A_PIECE)));
}

/** Whether a text is Signal K deltas, one JSON a line. */
export function isSignalK(text: string): boolean {
  const line = text
    .slice(0, 4000)
    .split("\n")
    .find((one) => one.trim() !== "");
  if (!line?.trim().startsWith("{")) return false;
  return /"updates"\s*:/.test(line) || /"self"\s*:/.test(line);
}

/** Reads a whole log of readings: CSV of any usual separator, or Signal K deltas. `mapping` is one that was kept, or nothing. */
export function readLog(text: string, timeZone: string, mapping?: Mapping): ReadLog {
  const bad = badText(text);
  if (bad) return { ok: false, message: bad };
  return isSignalK(text) ? readSignalK(text) : readTableLog(text, timeZone, mapping);
}

/** Why a text is no log at all, or null. */
export function badText(text: string): string | null {
  if (text.length > LARGEST_LOG) return say("input.file.large", { most: LARGEST_LOG / 1e6 });
  if (text.slice(0, 100_000).includes("\u0000")) return say("input.file.noText");
  if (text.trim() === "") return say("input.file.empty");
  return null;
}

function readSignalK(text: string): ReadLog {
  const parts: Reading[] = [];
  const refused: LogRead["refused"] = { count: 0, first: [] };
  text.split("\n").forEach((line, i) => {
    if (line.trim() === "") return;
    let message: unknown;
    try {
      message = JSON.parse(line);
    } catch {
      message = undefined;
    }
    const read = message === undefined ? null : readDelta(message);
    if (read) parts.push(...read);
    else if (typeof message !== "object" || !(message && "self" in message))
      refuse(refused, i + 1, "not a Signal K delta");
  });
  const readings = joinDeltas(parts);
  if (readings.length === 0) return { ok: false, message: say("input.file.noCurrent") };
  return { ok: true, log: { kind: "signal-k", readings: fromList(readings), understood: null, refused } };
}

export function refuse(refused: LogRead["refused"], line: number, message: string): void {
  refused.count++;
  if (refused.first.length < FIRST_REFUSED) refused.first.push({ line, message });
}

/** First line that is a header: of several cells, most of them words. Lines before it are a logger's preamble. */
export function headerRow(rows: string[][]): number {
  for (let i = 0; i < Math.min(rows.length, 30); i++) {
    const filled = rows[i]!.filter((cell) => cell.trim() !== "");
    const words = filled.filter((cell) => /[a-zA-Z\u00c0-\u024f]/.test(cell) && !/^\d{4}-\d{2}/.test(cell.trim()));
    if (filled.length >= 2 && words.length >= 0.7 * filled.length) return i;
  }
  return 0;
}

/**
 * The separator of a table: a semicolon, tab or bar where most lines have one (commas beside them are decimal), else the
 * comma.
 */
export function separatorOf(text: string): string {
  const lines = text
    .slice(0, 20_000)
    .split(/\r?\n/)
    .filter((line) => line.trim() !== "")
    .slice(0, 60);
  const share = (separator: string) =>
    lines.filter((line) => line.includes(separator)).length / Math.max(1, lines.length);
  const [best] = [";", "\t", "|"]
    .map((separator) => ({ separator, share: share(separator) }))
    .sort((a, b) => b.share - a.share);
  return best!.share >= 0.6 ? best!.separator : ",";
}

/** Rows of CSV text, its separator guessed where none is given. */
export function parseRows(
  text: string,
  separator?: string,
): { rows: string[][]; separator: string; unclosed: number | null } {
  const parsed = Papa.parse<string[]>(text.replace(/^\ufeff/, ""), {
    skipEmptyLines: "greedy",
    delimiter: separator ?? separatorOf(text),
  });
  const broken = parsed.errors.find(({ type, code }) => type === "Quotes" && code === "MissingQuotes");
  return { rows: parsed.data, separator: parsed.meta.delimiter, unclosed: broken ? (broken.row ?? 0) + 1 : null };
}

function readTableLog(text: string, timeZone: string, given?: Mapping): ReadLog {
  const parsed = parseRows(text);
  if (parsed.unclosed !== null) return { ok: false, message: say("input.file.quotation", { row: parsed.unclosed }) };
  const at = headerRow(parsed.rows);
  const header = parsed.rows[at] ?? [];
  const rows = parsed.rows.slice(at + 1);
  if (header.length < 2) return { ok: false, message: say("input.file.noTable") };
  const understood = recognise({ header, rows: rows.slice(0, SAMPLE_ROWS), separator: parsed.separator }, timeZone);
  const mapping = given ?? understood.mapping;
  const reader = rowReader(mapping);
  const readings: Reading[] = [];
  const refused: LogRead["refused"] = { count: 0, first: [] };
  rows.forEach((cells, i) => {
    const read = reader.read(cells);
    if (read.ok) readings.push(read.reading);
    else refuse(refused, at + i + 2, read.message);
  });
  if (readings.length === 0)
    return {
      ok: false,
      message: say("input.file.noReading", { why: refused.first[0]?.message ?? "the table is empty" }),
    };
  return {
    ok: true,
    log: { kind: "table", readings: fromList(readings), understood: { ...understood, mapping }, refused },
  };
}
