import { numberOfCell, usesDecimalComma } from "../../units/cell-numbers";
import { readCapture, type ReadCapture } from "./capture";

/** What was passed over in a captured start's file. */
export interface CaptureReport {
  read: ReadCapture;
  samples: number;
  skipped: { line: number; why: string }[];
  skippedCount: number;
  /** Names of the two columns taken, or that they are the first two. */
  columns: string;
}

const SHOWN = 20;

/**
 * Reads a captured start out of a table: a column of time (s, or ms by its name) and one of current (A, or mA by its name).
 * Columns are found by name, else the first two are taken; rows without two numbers are passed over and told.
 */
export function captureOfTable(
  table: { header: string[]; rows: { line: number; cells: string[] }[] },
  mainsHz: number,
): CaptureReport {
  const headed = table.header.some((cell) => numberOfCell(cell, true) === null);
  const rows = headed ? table.rows : [{ line: 1, cells: table.header }, ...table.rows];
  const find = (pattern: RegExp, otherwise: number) => {
    const at = headed ? table.header.findIndex((name) => pattern.test(name)) : -1;
    return at < 0 ? otherwise : at;
  };
  const time = find(/^(time|t|sec|s)\b|\btime\b|second/i, 0);
  const amps = find(/^(current|amps?|a|i)\b|\b(current|amps?)\b/i, time === 1 ? 0 : 1);
  const scale = (at: number, pattern: RegExp) => (headed && pattern.test(table.header[at] ?? "") ? 1e-3 : 1);
  const [timeScale, ampScale] = [scale(time, /\bms\b|milli/i), scale(amps, /\bmA\b|milli/)];
  const comma = usesDecimalComma(rows.flatMap(({ cells }) => [cells[time] ?? "", cells[amps] ?? ""]));
  const skipped: CaptureReport["skipped"] = [];
  let skippedCount = 0;
  const samples: [number, number][] = [];
  for (const { line, cells } of rows) {
    const [t, a] = [numberOfCell(cells[time] ?? "", comma), numberOfCell(cells[amps] ?? "", comma)];
    if (t === null || a === null) {
      skippedCount++;
      if (skipped.length < SHOWN) skipped.push({ line, why: t === null ? "no time" : "no current" });
    } else samples.push([t * timeScale, a * ampScale]);
  }
  return {
    read: readCapture(samples, mainsHz),
    samples: samples.length,
    skipped,
    skippedCount,
    columns: headed ? `${table.header[time]} and ${table.header[amps]}` : "the first two",
  };
}
