import { mainsAtBank, ofOneMoment } from "./blurred";
import { percentile } from "./levels";
import type { PowerLog } from "./power-log";

/*
 * Somebody starts the engine or plugs in while a log runs. What comes in then is in no model of a test run, and a mean that
 * holds it says that the unit draws less than it does. Such stretches are known by a battery that takes in more than its
 * panels give, or by a house that would give back.
 */

/** A stretch in which something else than the panels charged the bank. */
export interface Charged {
  fromS: number;
  toS: number;
  /** A that it gave, the unit's and the house's part included, in the mean. */
  amps: number;
}

export interface ChargedLog {
  spans: Charged[];
  /** By reading: 1 in such a stretch. */
  mask: Uint8Array;
  /** W that the system takes, by reading: what came in taken off where the mains was read, else held from before. */
  watts: Float64Array;
}

/** Whether anything charged the battery between two moments of a log. */
export const meanwhile = (charged: readonly Charged[], fromS: number, toS: number): boolean =>
  charged.some((span) => span.fromS < toS && span.toS > fromS);

/** What a shunt may be off by at rest: A, and W at the least. */
const ZERO_A = 2;
const ZERO_W = 60;
/** Of the mains side, what an inverter's loss may be off by. */
const LOSS_OFF = 0.1;
/**
 * What panels that were not read may give: over what all are rated for, in cold air and at the edge of a cloud; over a
 * usual day's at that hour, whose clouds a clear one has not; and of their rating by a sun that the model has set.
 */
const OVER_PLATE = 1.2;
const OVER_USUAL = 2.2;
const OVER_NONE = 0.05;
/** Shortest that is told: a reading at an edge is none. */
const LEAST_READINGS = 3;
const LEAST_S = 180;
/** Two this near to each other are one: the unit ran between them. */
const JOINED_S = 45 * 60;
/** A run beside a stretch belongs to it where its watts are nearer to a run less what is given. */
const NEARER = 0.5;

/**
 * Finds what was charged by engine, shore or generator. `seconds` by reading; `sunApart` whether what the sun gave was read
 * and is in the watts.
 */
export function chargedIn(
  { site, watts, mains, step, pace }: PowerLog,
  seconds: Float64Array,
  sunApart: boolean,
): ChargedLog {
  const count = seconds.length;
  const mask = new Uint8Array(count);
  const { bank } = site.system;
  const zero = Math.max(ZERO_W, ZERO_A * bank.nominalVoltage);
  const sunAt = (s: number) => {
    const usual = site.solar[Math.min(site.steps - 1, Math.floor(s / site.stepS))]!;
    return Math.min(OVER_PLATE * site.plateW, OVER_USUAL * usual + OVER_NONE * site.plateW);
  };
  const added = mains && mainsAtBank(site, mains);
  const one = step / site.parameters.units.length;
  const byMains = added !== null && ofOneMoment(watts, added, one, pace);
  const own = byMains ? added : new Float64Array(count);
  const spans: [number, number][] = [];
  let from = -1;
  for (let i = 0; i <= count; i++) {
    const given = i < count && watts[i]! - own[i]! < -zero - LOSS_OFF * own[i]! - (sunApart ? 0 : sunAt(seconds[i]!));
    if (given && from < 0) from = i;
    if (!given && from >= 0) {
      if (i - from >= LEAST_READINGS && seconds[i - 1]! - seconds[from]! >= LEAST_S) {
        const last = spans[spans.length - 1];
        if (last && seconds[from]! - seconds[last[1]]! < JOINED_S) last[1] = i - 1;
        else spans.push([from, i - 1]);
      }
      from = -1;
    }
  }
  if (spans.length === 0) return { spans: [], mask, watts };
  for (const [a, b] of spans) mask.fill(1, a, b + 1);

  /** A level of the readings outside; null where there is none. */
  const outside = (line: (i: number) => number, share: number): number | null => {
    const out: number[] = [];
    for (let i = 0; i < count; i++) if (mask[i] === 0) out.push(line(i));
    return out.length > 0
      ? percentile(
          out.sort((x, y) => x - y),
          share,
        )
      : null;
  };
  const usual = outside((i) => watts[i]! - own[i]!, byMains ? 0.5 : 0.05) ?? site.base;
  /** Of each stretch told without the mains: its level while the unit rests. */
  const lows: number[] = [];
  if (!byMains) {
    // A run beside the stretch that is fed by it, too, shows by a lower level than a run's.
    const run = Math.max(usual + step, outside((i) => watts[i]!, 0.95) ?? 0);
    for (const span of spans) {
      const lowest = percentile(
        Array.from(watts.subarray(span[0], span[1] + 1)).sort((x, y) => x - y),
        0.25,
      );
      lows.push(lowest);
      const fed = run - (usual - lowest);
      const belongs = (i: number) =>
        watts[i]! > usual + 0.2 * step
          ? Math.abs(watts[i]! - fed) < NEARER * Math.abs(watts[i]! - run)
          : watts[i]! < usual - NEARER * (usual - lowest);
      while (span[0] > 0 && belongs(span[0] - 1)) span[0]--;
      while (span[1] < count - 1 && belongs(span[1] + 1)) span[1]++;
      mask.fill(1, span[0], span[1] + 1);
    }
  }
  const taken = Float64Array.from(watts);
  let before = usual;
  for (let i = 0; i < count; i++)
    if (mask[i] === 0) before = watts[i]!;
    else taken[i] = byMains ? own[i]! + usual : before;
  const volts = bank.nominalVoltage;
  return {
    mask,
    watts: taken,
    spans: spans.map(([a, b], k) => {
      let given = 0;
      for (let i = a; i <= b; i++) given += (own[i]! + usual - watts[i]!) / (b - a + 1);
      return { fromS: seconds[a]!, toS: seconds[b]!, amps: (byMains ? given : usual - lows[k]!) / volts };
    }),
  };
}
