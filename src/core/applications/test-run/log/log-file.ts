import { COLUMNS, has, type Column, type Readings } from "./readings";

/** ISO 8601 with the offset of a zone at that moment, to the second. */
export function isoAt(ms: number, offsetSeconds: number): string {
  const local = new Date(ms + offsetSeconds * 1000).toISOString().slice(0, 19);
  const minutes = Math.round(Math.abs(offsetSeconds) / 60);
  const two = (n: number) => String(n).padStart(2, "0");
  return `${local}${offsetSeconds < 0 ? "-" : "+"}${two(Math.floor(minutes / 60))}:${two(minutes % 60)}`;
}

const DIGITS: Record<Column, number> = {
  battery_current_a: 3,
  battery_voltage_v: 3,
  soc_pct: 2,
  solar_power_w: 1,
  ac_power_w: 1,
  cabin_temp_c: 2,
  outdoor_temp_c: 2,
};

/** A log in the project's own format: its header, and its rows by their numbers, so that a long one is written piece by piece. */
export interface LogTable {
  header: string[];
  count: number;
  /** Rows from `from` to before `to`. */
  rows(from: number, to: number): string[][];
}

/** A log as a table; columns that were never read are left out, but for the current. */
export function logTable(readings: Readings, offsetAt: (ms: number) => number): LogTable {
  const columns = COLUMNS.filter((column) => column === "battery_current_a" || has(readings, column));
  const notes = new Map<number, string>();
  for (const { at, text } of readings.notes) notes.set(at, notes.has(at) ? `${notes.get(at)}; ${text}` : text);
  const row = (i: number): string[] => [
    isoAt(readings.timeMs[i]!, offsetAt(readings.timeMs[i]!)),
    ...columns.map((column) => {
      const value = readings.values[column][i]!;
      return Number.isNaN(value) ? "" : String(Number(value.toFixed(DIGITS[column])));
    }),
    ...(notes.size > 0 ? [notes.get(i) ?? ""] : []),
  ];
  return {
    header: ["time", ...columns, ...(notes.size > 0 ? ["note"] : [])],
    count: readings.timeMs.length,
    rows: (from, to) => Array.from({ length: to - from }, (_, k) => row(from + k)),
  };
}
