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

/** A log as rows of the project's own format: header first; columns that were never read are left out, but for the first two. */
export function logRows(readings: Readings, offsetAt: (ms: number) => number): { header: string[]; rows: string[][] } {
  const columns = COLUMNS.filter((column) => column === "battery_current_a" || has(readings, column));
  const notes = new Map<number, string>();
  for (const { at, text } of readings.notes) notes.set(at, notes.has(at) ? `${notes.get(at)}; ${text}` : text);
  const header = ["time", ...columns, ...(notes.size > 0 ? ["note"] : [])];
  const rows = Array.from(readings.timeMs, (ms, i) => [
    isoAt(ms, offsetAt(ms)),
    ...columns.map((column) => {
      const value = readings.values[column][i]!;
      return Number.isNaN(value) ? "" : String(Number(value.toFixed(DIGITS[column])));
    }),
    ...(notes.size > 0 ? [notes.get(i) ?? ""] : []),
  ]);
  return { header, rows };
}
