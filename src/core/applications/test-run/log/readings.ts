/** The columns a log may have beside its time: the project's own names, units at the end. */
export const COLUMNS = [
  "battery_current_a",
  "battery_voltage_v",
  "soc_pct",
  "solar_power_w",
  "ac_power_w",
  "cabin_temp_c",
  "outdoor_temp_c",
] as const;
export type Column = (typeof COLUMNS)[number];

/** What each column is of. */
export const COLUMN_QUANTITY = {
  battery_current_a: "current",
  battery_voltage_v: "voltage",
  soc_pct: "percent",
  solar_power_w: "power",
  ac_power_w: "power",
  cabin_temp_c: "temperature",
  outdoor_temp_c: "temperature",
} as const satisfies Record<Column, string>;
export type ColumnQuantity = (typeof COLUMN_QUANTITY)[Column];

/** What each column may hold at all: a value outside is no reading of a system. */
export const COLUMN_LIMITS: Record<Column, readonly [low: number, high: number]> = {
  battery_current_a: [-5000, 5000],
  battery_voltage_v: [0, 1500],
  soc_pct: [0, 105],
  solar_power_w: [-50, 200_000],
  ac_power_w: [-100_000, 200_000],
  cabin_temp_c: [-60, 90],
  outdoor_temp_c: [-70, 70],
};

/** Readings of a run in order of time: Unix ms and one line a column, NaN where it was not read. Current is positive charging. */
export interface Readings {
  timeMs: Float64Array;
  values: Record<Column, Float64Array>;
  notes: { at: number; text: string }[];
}

export const readingCount = ({ timeMs }: Readings): number => timeMs.length;

/** Empty lines for `count` readings, every value missing. */
export function emptyReadings(count: number): Readings {
  return {
    timeMs: new Float64Array(count),
    values: Object.fromEntries(COLUMNS.map((column) => [column, new Float64Array(count).fill(NaN)])) as Record<
      Column,
      Float64Array
    >,
    notes: [],
  };
}

/** One reading as it is stored and sent. */
export interface Reading {
  timeMs: number;
  values: Partial<Record<Column, number>>;
  note?: string;
}

export function fromList(list: readonly Reading[]): Readings {
  const out = emptyReadings(list.length);
  list.forEach(({ timeMs, values, note }, i) => {
    out.timeMs[i] = timeMs;
    for (const column of COLUMNS) out.values[column][i] = values[column] ?? NaN;
    if (note) out.notes.push({ at: i, text: note });
  });
  return out;
}

/** Of a list of readings those that a log does not hold yet, of the same moment with the same values. */
export function notYetIn({ timeMs, values }: Readings, list: readonly Reading[]): Reading[] {
  const moments = new Map<number, number[]>(list.map((one) => [one.timeMs, []]));
  timeMs.forEach((t, i) => moments.get(t)?.push(i));
  const same = (one: Reading, i: number) =>
    // A packed log has a float's seven digits.
    COLUMNS.every((column) => Object.is(Math.fround(values[column][i]!), Math.fround(one.values[column] ?? NaN)));
  return list.filter((one) => !moments.get(one.timeMs)!.some((i) => same(one, i)));
}

/** Those within the first `minutes` of a log, its last moment included, whatever their order. */
export function firstMinutes(readings: Readings, minutes: number, fromMs = readings.timeMs[0] ?? 0): Readings {
  const end = fromMs + minutes * 60_000;
  const { timeMs } = readings;
  const kept = Array.from(timeMs.keys()).filter((i) => timeMs[i]! <= end);
  return pick(readings, kept);
}

/** The readings of some indices, in that order. */
export function pick({ timeMs, values, notes }: Readings, kept: readonly number[]): Readings {
  const out = emptyReadings(kept.length);
  const place = new Map(kept.map((i, k) => [i, k]));
  kept.forEach((i, k) => {
    out.timeMs[k] = timeMs[i]!;
    for (const column of COLUMNS) out.values[column][k] = values[column][i]!;
  });
  out.notes = notes.flatMap(({ at, text }) => (place.has(at) ? [{ at: place.get(at)!, text }] : []));
  return out;
}

export function has(readings: Readings, column: Column): boolean {
  return readings.values[column].some((value) => !Number.isNaN(value));
}
