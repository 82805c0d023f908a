import { COLUMN_LIMITS, COLUMNS, emptyReadings, type Column, type Readings } from "./readings";

/** What was mended in a log before it was read, with how many readings it touched. */
export interface Repair {
  what: "unordered" | "repeated" | "clock-jump" | "no-current" | "out-of-range" | "spike" | "gap" | "sign";
  count: number;
  words: string;
}

export interface Repaired {
  readings: Readings;
  repairs: Repair[];
}

/** A gap worth telling of: this many usual intervals, and at least two minutes. */
const GAP_INTERVALS = 4;
const GAP_S = 120;

/**
 * Puts a log in order: sorts it, drops repeated moments (the later reading of one moment wins), takes back a clock that
 * jumped by a whole number of half hours, drops readings without a current, values no system has and lone spikes; tells gaps
 * but does not fill them. The input is not changed.
 */
export function repair(raw: Readings): Repaired {
  const repairs: Repair[] = [];
  const note = (what: Repair["what"], count: number, words: string) => {
    if (count > 0) repairs.push({ what, count, words });
  };
  const count = raw.timeMs.length;
  const order = Array.from({ length: count }, (_, i) => i);
  const times = Float64Array.from(raw.timeMs);
  note("clock-jump", takeBackJumps(times), "readings after the clock jumped were moved back");
  let unordered = 0;
  for (let i = 1; i < count; i++) if (times[i]! < times[i - 1]!) unordered++;
  if (unordered > 0) order.sort((a, b) => times[a]! - times[b]! || a - b);
  note("unordered", unordered, "readings were out of order and were sorted");

  const current = raw.values.battery_current_a;
  const kept: number[] = [];
  let repeated = 0;
  let empty = 0;
  let outside = 0;
  for (const i of order) {
    if (!Number.isFinite(current[i]!)) {
      // A note alone is no reading.
      if (COLUMNS.some((column) => !Number.isNaN(raw.values[column][i]!))) empty++;
      continue;
    }
    const [low, high] = COLUMN_LIMITS.battery_current_a;
    if (current[i]! < low || current[i]! > high) {
      outside++;
      continue;
    }
    const last = kept[kept.length - 1];
    if (last !== undefined && times[last] === times[i]) {
      repeated++;
      kept[kept.length - 1] = i;
    } else kept.push(i);
  }
  note("no-current", empty, "readings without a battery current are shown but not counted");
  note("repeated", repeated, "moments were read twice; the later reading counts");

  const readings = emptyReadings(kept.length);
  const place = new Map<number, number>();
  kept.forEach((i, k) => {
    place.set(i, k);
    readings.timeMs[k] = times[i]!;
    for (const column of COLUMNS) {
      const value = raw.values[column][i]!;
      const [low, high] = COLUMN_LIMITS[column];
      if (Number.isNaN(value)) continue;
      if (value < low || value > high) outside++;
      else readings.values[column][k] = value;
    }
  });
  readings.notes = raw.notes.filter(({ at }) => place.has(at)).map(({ at, text }) => ({ at: place.get(at)!, text }));
  note("out-of-range", outside, "values that no system has were left out");
  let spikes = 0;
  for (const column of ["battery_voltage_v", "soc_pct", "cabin_temp_c", "outdoor_temp_c"] as const)
    spikes += dropSpikes(readings.values[column], SPIKES[column]);
  note("spike", spikes, "lone values far from both neighbours were left out");
  note("gap", gapsOf(readings).length, "gaps; what was drawn in them is bridged between their ends");
  return { readings, repairs };
}

/** How far a lone value may be from both neighbours: a share of them, or K, or points. */
const SPIKES: Record<
  Exclude<Column, "battery_current_a" | "solar_power_w" | "ac_power_w">,
  (near: number) => number
> = {
  battery_voltage_v: (near) => 0.25 * Math.max(1, near),
  soc_pct: () => 25,
  cabin_temp_c: () => 15,
  outdoor_temp_c: () => 15,
};

function dropSpikes(line: Float64Array, limit: (near: number) => number): number {
  let dropped = 0;
  for (let i = 1; i + 1 < line.length; i++) {
    const [a, b, c] = [line[i - 1]!, line[i]!, line[i + 1]!];
    if (Number.isNaN(a) || Number.isNaN(b) || Number.isNaN(c)) continue;
    const far = limit((a + c) / 2);
    if (Math.abs(b - a) > far && Math.abs(b - c) > far && Math.abs(a - c) < far) {
      line[i] = NaN;
      dropped++;
    }
  }
  return dropped;
}

/**
 * Takes back jumps of a clock that is set while it logs: a step in time of a whole number of half hours, forward or back,
 * between readings that are otherwise evenly spaced, and only where the log goes on at its usual pace after it. Forward
 * steps are left alone (a gap looks the same); steps back would fold the log over itself.
 */
function takeBackJumps(times: Float64Array): number {
  const count = times.length;
  if (count < 8) return 0;
  const gaps = Array.from({ length: count - 1 }, (_, i) => times[i + 1]! - times[i]!);
  const forward = gaps.filter((gap) => gap > 0).sort((a, b) => a - b);
  const usual = forward[Math.floor(forward.length / 2)] ?? 0;
  if (usual <= 0) return 0;
  let moved = 0;
  let shift = 0;
  for (let i = 1; i < count; i++) {
    const gap = gaps[i - 1]!;
    const half = Math.round((gap - usual) / 1_800_000) * 1_800_000;
    if (half < 0 && Math.abs(gap - usual - half) <= Math.max(2 * usual, 5000) && i + 2 < count && gaps[i]! > 0)
      shift -= half;
    if (shift !== 0) {
      times[i] = times[i]! + shift;
      moved++;
    }
  }
  return moved;
}

export interface Gap {
  fromMs: number;
  toMs: number;
}

export function gapsOf({ timeMs }: Readings): Gap[] {
  const gaps: number[] = [];
  for (let i = 1; i < timeMs.length; i++) gaps.push(timeMs[i]! - timeMs[i - 1]!);
  const usual = [...gaps].sort((a, b) => a - b)[Math.floor(gaps.length / 2)] ?? 0;
  const limit = Math.max(GAP_INTERVALS * usual, GAP_S * 1000);
  return gaps.flatMap((gap, i) => (gap > limit ? [{ fromMs: timeMs[i]!, toMs: timeMs[i + 1]! }] : []));
}
