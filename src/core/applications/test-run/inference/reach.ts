import { ahead } from "./forecast";
import { type TestRun } from "./test-run";
import { type WhatIf } from "./propagation";
import { DIMENSIONS } from "./particle";
import type { Population } from "./sampler";

/*
 * What has to be set from now on so that the charge lasts until a wished time: of set point by the half degree, fan, and hours
 * off at the end, the settings that reach it in nine of ten particles with the least that the cabin is warmer than it is set to now.
 */

/** Settings of the rest of a test run, and what comes of them. */
export interface Way {
  whatIf: WhatIf;
  /** degC, fan, and from which second of the log the unit is off; null where that stays as it is. */
  setC: number | null;
  fan: "low" | "medium" | null;
  offFromS: number | null;
  /** Share of the particles that reach the wished time above the reserve. */
  chance: number;
  /** K h that the cabin is warmer until then than it is set to now, in the mean. */
  warmerKh: number;
}

export interface Reach {
  /** Seconds from the first reading to the wished time. */
  untilS: number;
  asItIs: Way;
  /** The least uncomfortable way that reaches it; null where none does. */
  way: Way | null;
  /** Where none does, the one that comes nearest. */
  nearest: Way | null;
}

/** Particles that have to reach it, and how many are asked. */
const SURE = 0.9;
const ASKED = 120;
/** Steps and most of a set point's rise, K; the warmest that is set. */
const STEP_K = 0.5;
const MOST_K = 8;
const WARMEST_C = 31;
/** Steps of hours off, s, and set points over now's that they are tried with, K. */
const OFF_STEP_S = 1800;
/** Off for more of the time than this is no way to keep a cabin cool. */
const MOST_OFF = 0.5;
const WITH_OFF_K = [0, 2, 4] as const;
const FANS = [null, "medium", "low"] as const;

/** Particles evenly out of a population: enough to tell nine of ten. */
function someOf({ count, dimensions, z, explained }: Population): Population {
  const few = Math.min(ASKED, count);
  const some = { count: few, dimensions, z: new Float64Array(few * dimensions), explained: new Float64Array(few) };
  for (let n = 0; n < few; n++) {
    const from = Math.floor((n * count) / few);
    some.z.set(z.subarray(from * DIMENSIONS, (from + 1) * DIMENSIONS), n * DIMENSIONS);
    some.explained[n] = explained[from]!;
  }
  return some;
}

/** The first of `count` steps that holds, by halving: holding once, all later ones hold. `count` where none does. */
function firstThat(count: number, holds: (step: number) => boolean): number {
  let [low, high] = [0, count];
  while (low < high) {
    const middle = (low + high) >> 1;
    if (holds(middle)) high = middle;
    else low = middle + 1;
  }
  return low;
}

/** What to set so that the charge lasts until a second of the log that is still to come. */
export function reachUntil(testRun: TestRun, population: Population, untilS: number): Reach {
  const { site, log } = testRun;
  const some = someOf(population);
  const nowC = log.settings.setC[Math.min(site.steps - 1, log.steps)]!;
  const left = (untilS - log.lastS) / 3600;
  const ways: Way[] = [];
  const tried = (setC: number | null, fan: Way["fan"], offFromS: number | null): Way => {
    const whatIf: WhatIf = {
      ...(setC === null ? {} : { setC }),
      ...(fan === null ? {} : { fan }),
      ...(offFromS === null ? {} : { offFromS }),
    };
    const { reserveHours, means } = ahead(testRun, some, { whatIf, toReserve: true, untilS });
    let warmerKh = 0;
    for (let i = 0; i < means.cabinC.length && i * site.stepS < left * 3600; i++)
      warmerKh += (Math.max(0, means.cabinC[i]! - nowC) * site.stepS) / 3600;
    const chance = reserveHours.filter((hours) => hours >= left).length / reserveHours.length;
    const way = { whatIf, setC, fan, offFromS, chance, warmerKh };
    ways.push(way);
    return way;
  };
  const reaches = (way: Way) => way.chance >= SURE;
  const asItIs = tried(null, null, null);
  if (reaches(asItIs)) return { untilS, asItIs, way: asItIs, nearest: null };
  const highestC = Math.min(WARMEST_C, nowC + MOST_K);
  const sets = Math.max(0, Math.floor((highestC - nowC) / STEP_K));
  const setAt = (step: number) => Math.round((nowC + (step + 1) * STEP_K) * 2) / 2;
  for (const fan of FANS) {
    if (fan !== null && reaches(tried(null, fan, null))) continue;
    firstThat(sets, (step) => reaches(tried(setAt(step), fan, null)));
  }
  const offs = Math.floor((MOST_OFF * left * 3600) / OFF_STEP_S);
  for (const overK of WITH_OFF_K) {
    const setC = overK === 0 ? null : Math.min(highestC, nowC + overK);
    firstThat(offs, (step) => reaches(tried(setC, null, Math.max(log.lastS, untilS - (step + 1) * OFF_STEP_S))));
  }
  const enough = ways.filter(reaches).sort((a, b) => a.warmerKh - b.warmerKh);
  const nearest = [...ways].sort((a, b) => b.chance - a.chance || a.warmerKh - b.warmerKh)[0]!;
  return { untilS, asItIs, way: enough[0] ?? null, nearest: enough.length > 0 ? null : nearest };
}
