import Papa from "papaparse";
import { say } from "../core/messages/say";

/** A table of text, with the line in the file at which each row begins. */
export interface Table {
  header: string[];
  rows: { line: number; cells: string[] }[];
  separator: string;
}

export type ReadTable = { ok: true; table: Table } | { ok: false; message: string };

const LARGEST_CHARS = 16_000_000;

/**
 * Reads CSV text of any usual separator (comma, semicolon, tab, bar), quoted or not, with or without a byte-order mark.
 * Empty lines are passed over. The first row is the header.
 */
export function readTable(text: string): ReadTable {
  if (text.length > LARGEST_CHARS)
    return { ok: false, message: say("input.file.large", { most: LARGEST_CHARS / 1e6 }) };
  if (text.includes("\u0000")) return { ok: false, message: say("input.file.noText") };
  const clean = text.replace(/^\ufeff/, "");
  if (clean.trim() === "") return { ok: false, message: say("input.file.empty") };
  const parsed = Papa.parse<string[]>(clean, {
    skipEmptyLines: false,
    delimitersToGuess: [",", ";", "\t", "|"],
  });
  const broken = parsed.errors.find(({ type, code }) => type === "Quotes" && code === "MissingQuotes");
  if (broken) return { ok: false, message: say("input.file.quotation", { row: (broken.row ?? 0) + 1 }) };
  const rows = parsed.data
    .map((cells, i) => ({ line: i + 1, cells }))
    .filter(({ cells }) => cells.some((cell) => cell.trim() !== ""));
  const [first, ...rest] = rows;
  return {
    ok: true,
    table: { header: first!.cells.map((cell) => cell.trim()), rows: rest, separator: parsed.meta.delimiter },
  };
}

/** CSV text of rows, with cells that a spreadsheet would run as formulas made plain text. */
export function writeTable(header: string[], rows: (string | number)[][]): string {
  return `${Papa.unparse([header, ...rows], { escapeFormulae: true, newline: "\n" })}\n`;
}
