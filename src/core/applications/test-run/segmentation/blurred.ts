import { dcAdded } from "../../../models/inverter/inverter";
import { percentile } from "./levels";
import type { Site } from "../site/site";
import type { PowerLog } from "./power-log";

/*
 * Some monitors write the mean of the current since the last reading, and the mains watts of the moment beside it. Read
 * seldom beside a fixed-speed unit's cycles, most of its runs then fall between two mains readings, and its current is
 * seldom at either of its two levels; what it drew on average is exact all the same.
 */

/** Two levels of a fixed-speed unit's log whose current is of means, W at the battery; how many readings each rests on. */
export interface Blurred {
  off: number;
  on: number;
  offCount: number;
  onCount: number;
}

/** Readings nearer than this show a cycle's levels though they are means, s. */
const OFTEN_S = 45;
/** Share of readings at which current and mains disagree, or that lie between the levels, from which a log is one of means. */
const DISAGREE = 0.1;
const BETWEEN = 0.15;
/** Share of readings that disagree with both of their neighbours from which on it does, and by how much of the step. */
const LONE_SHARE = 0.04;
const LONE_OFF = 0.25;
/** Share of the step that a reading has to be off by to count as such. */
const OFF_BY = 0.3;
/** Where a line's low level and its high one are looked for. */
const LOW = 0.15;
const HIGH = 0.96;

/**
 * The levels of a log of means, or null where its current is of the moment, was read often enough, or shows no two levels.
 * `watts` at the battery and `mains` at the socket (NaN where not read, null where not known apart) by reading, `step` what
 * the running unit is expected to add, `pace` the usual seconds between readings. Readings in the sun of panels that were
 * not read are left out: what comes and goes with a cloud is no mean.
 */
export function blurredOf({ litAt, ...log }: PowerLog): Blurred | null {
  const dark = <L extends Float64Array>(line: L) => line.filter((_, i) => litAt[i] === 0);
  return inTheDark({ ...log, watts: dark(log.watts), mains: log.mains && dark(log.mains) });
}

function inTheDark({ site, watts, mains, step, pace }: Omit<PowerLog, "litAt">): Blurred | null {
  if (pace < OFTEN_S || watts.length < 5) return null;
  const line = [...watts].sort(ascending);
  const low = percentile(line, LOW);
  const high = percentile(line, HIGH);
  if (high - low < 0.45 * step) return null;
  if (!mains) {
    const between = watts.filter((w) => Math.abs((w - low) / (high - low) - 0.5) < OFF_BY).length;
    if (between < Math.max(3, BETWEEN * watts.length)) return null;
    return { off: low, on: high, ...counts(watts, (low + high) / 2) };
  }
  const added = (value: number) => dcAdded(site.system.inverter, Math.max(0, value));
  const read = [...mains].filter((value) => !Number.isNaN(value)).sort(ascending);
  if (read.length < 5) return null;
  const middle = (percentile(read, 0.05) + percentile(read, HIGH)) / 2;
  if (percentile(read, HIGH) - percentile(read, 0.05) < 0.3 * step) return null;
  if (ofOneMoment(watts, mainsAtBank(site, mains), step, pace)) return null;
  const house = Array.from(watts, (w, i) => w - added(mains[i]!)).filter((value) => !Number.isNaN(value));
  const usual = percentile([...house].sort(ascending), 0.5);
  const disagree = house.filter((value) => Math.abs(value - usual) > OFF_BY * step).length;
  if (disagree < Math.max(2, DISAGREE * house.length)) return null;
  const running = read.filter((value) => value > middle);
  const resting = read.filter((value) => value <= middle);
  // A mean that is of one level agrees with its moment; the others lie on either side of it.
  const off = usual + added(percentile(resting, 0.5));
  const on = usual + added(percentile(running, 0.6));
  return { off, on, ...counts(watts, (off + on) / 2) };
}

const ascending = (a: number, b: number) => a - b;

function counts(watts: Float64Array, middle: number): { offCount: number; onCount: number } {
  const onCount = watts.filter((w) => w > middle).length;
  return { onCount, offCount: watts.length - onCount };
}

/** What the mains side adds at the battery, W by reading: what was not read is as it was last. */
export function mainsAtBank(site: Site, mains: Float64Array): Float64Array {
  let added = 0;
  return Float64Array.from(mains, (value) => {
    if (!Number.isNaN(value)) added = dcAdded(site.system.inverter, Math.max(0, value));
    return added;
  });
}

/**
 * Whether current and mains were read at one moment, as they are where readings are close: else they disagree at lone readings, on either side of an edge. `watts`
 * at the battery and `own`, what the mains side adds there, by reading; `step` W that one running unit adds, `pace` the usual
 * seconds between readings.
 */
export function ofOneMoment(watts: Float64Array, own: Float64Array, step: number, pace: number): boolean {
  if (pace < OFTEN_S) return true;
  const off = (i: number, j: number) => watts[i]! - own[i]! - (watts[j]! - own[j]!);
  let lone = 0;
  for (let i = 1; i < watts.length - 1; i++) {
    const before = off(i, i - 1);
    const after = off(i, i + 1);
    if (before * after > 0 && Math.min(Math.abs(before), Math.abs(after)) > LONE_OFF * step) lone++;
  }
  return lone < Math.max(2, LONE_SHARE * watts.length);
}
