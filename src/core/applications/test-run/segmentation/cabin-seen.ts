import { has, type Readings } from "../log/readings";
import type { Segments } from "./segments";
import type { Site } from "../site/site";

/*
 * How a variable unit's control comes down after a pull-down differs from maker to maker: it winds up, overshoots, hunts,
 * and what it draws meanwhile is easily taken for the cabin's heat. Where the cabin was read, a particle need not estimate
 * it: it takes out what brings its cabin to the temperature that was read.
 */

/** Half the stretch that the cabin's temperature is read off: most of it, s, and least of it, in paces between readings. */
const HALF_S = 420;
const HALF_PACES = 1.6;
/** In a pull-down, which is steep at first: of the time that it has lasted. */
const HALF_OF_PULL_DOWN = 0.35;
/** Seconds of a pull-down that are too steep to be read off; a unit gives all it has in them anyway. */
const STEEP_S = 600;

/**
 * The cabin as it was read, degC, at the beginning of each step of a log and at its end: a line by least squares through
 * the readings about it. NaN before and early in the pull-down, where few were read, and past the log's `steps`; null
 * where the unit is of fixed speed, whose cycles say what its cabin asks, or the cabin was not read.
 */
export function seenCabin(site: Site, readings: Readings, segments: Segments, steps: number): Float64Array | null {
  const { seconds, pullDown, pace } = segments;
  if (site.unit.fixed || !pullDown || !has(readings, "cabin_temp_c")) return null;
  const read = readings.values.cabin_temp_c;
  const out = new Float64Array(site.steps + 1).fill(NaN);
  const begins = Math.min(pullDown.toS ?? Infinity, pullDown.fromS + STEEP_S);
  const halfAt = (s: number) => Math.max(HALF_PACES * pace, Math.min(HALF_S, HALF_OF_PULL_DOWN * (s - pullDown.fromS)));
  let from = 0;
  for (let i = Math.ceil(begins / site.stepS); i <= Math.min(steps, site.steps); i++) {
    const at = i * site.stepS;
    const half = halfAt(at);
    while (from < seconds.length && seconds[from]! < at - half) from++;
    const line = { n: 0, x: 0, y: 0, xx: 0, xy: 0 };
    for (let k = from; k < seconds.length && seconds[k]! <= at + half; k++) {
      const value = read[k]!;
      if (Number.isNaN(value)) continue;
      const s = seconds[k]! - at;
      line.n++;
      line.x += s;
      line.y += value;
      line.xx += s * s;
      line.xy += s * value;
    }
    const { n, x, y, xx, xy } = line;
    const spread = n * xx - x * x;
    // Two readings are a mean, not a slope.
    if (n === 2 || (n > 2 && spread < 1)) out[i] = y / n;
    else if (n > 2) out[i] = (xx * y - x * xy) / spread;
  }
  return out;
}

/** Seconds after the pull-down that a control overshoots in. */
const OVERSHOOTS_S = 600;
/** K that a mean of the held temperature is off the set point by: always, and over the first half hour. */
const HELD_OFF = 0.3;
const HELD_EARLY = 0.7;

/**
 * Where the cabin was held once it had come down, degC with one sigma: what a set point has to be near. Of a set point that was
 * changed at `sinceS` from there on. Null where it shows none.
 */
export function heldCabin(
  { windows, pullDown }: Segments,
  sinceS = -Infinity,
): { cabinC: number; spread: number } | null {
  const over = pullDown?.toS ?? null;
  if (over === null) return null;
  let sum = 0;
  let lasted = 0;
  for (const { fromS, toS, cabinC } of windows) {
    if (fromS < Math.max(over, sinceS) + OVERSHOOTS_S || Number.isNaN(cabinC)) continue;
    sum += cabinC * (toS - fromS);
    lasted += toS - fromS;
  }
  if (lasted === 0) return null;
  return { cabinC: sum / lasted, spread: Math.hypot(HELD_OFF, HELD_EARLY / Math.sqrt(1 + lasted / 1800)) };
}
