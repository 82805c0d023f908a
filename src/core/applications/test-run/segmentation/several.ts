import { mainsAtBank, ofOneMoment } from "./blurred";
import { percentile } from "./levels";
import type { PowerLog } from "./power-log";

/*
 * Several fixed-speed units on one system come and go by their own thermostats: their draw has more than two levels, and an
 * edge is one unit's. What they run together, as a share of all, is told by what is drawn between all at rest and all running.
 */

export interface Several {
  /** W at the battery with all at rest, fans on where they go on, and with all running. */
  off: number;
  on: number;
  /** W that one of them adds. */
  part: number;
  /** W at the battery by reading: by the mains watts over the usual house where both were of one moment. */
  line: Float64Array;
  /** W of that house; null where the line is the battery's own. */
  house: number | null;
}

/** Of the step of all, what the log has to span before both of its ends are believed. */
const SPANS = 0.8;
/** Of one unit's step, how near to a level a reading counts as at it. */
export const AT_LEVEL = 0.35;

/**
 * The levels of a system of several fixed-speed units; null for any other job. `watts` at the battery and `mains` at the socket
 * (null where it was not read) by reading, `step` W that all of them add, `pace` the usual seconds between readings.
 */
export function severalOf({ site, watts, mains, step, pace }: PowerLog): Several | null {
  const count = site.parameters.units.length;
  if (!site.unit.fixed || count < 2) return null;
  const sorted = (list: ArrayLike<number>) => Array.from(list).sort((a, b) => a - b);
  let line = watts;
  let house: number | null = null;
  if (mains) {
    const own = mainsAtBank(site, mains);
    if (ofOneMoment(watts, own, step / count, pace)) {
      const usual = percentile(sorted(watts.map((w, i) => w - own[i]!)), 0.5);
      house = usual;
      line = own.map((w) => w + usual);
    }
  }
  const whole = sorted(line);
  const low = percentile(whole, 0.03);
  const high = percentile(whole, 0.97);
  const part = step / count;
  const described = (house ?? site.base) + site.rest;
  let off = low;
  let on = high;
  if (high - low < SPANS * step) {
    // One end was not seen: which of them is told by what the system's document leads to expect.
    if (low < described + 0.5 * part) on = low + step;
    else if (high > described + step - 0.5 * part) off = high - step;
    else {
      off = described;
      on = described + step;
    }
  }
  return { off, on, part: (on - off) / count, line, house };
}
