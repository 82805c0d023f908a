import { seeded, type Random } from "../../../units/random";

/** A population of particles, standard normal before a log, one row of `dimensions` a particle. */
export interface Population {
  count: number;
  dimensions: number;
  z: Float64Array;
  /** Log-likelihood of each. */
  explained: Float64Array;
}

export interface SamplerCall {
  count: number;
  dimensions: number;
  seed: number;
  /** Log-likelihood of the row at an offset; -Infinity will do where it is under `floor`. */
  logLikelihood(z: Float64Array, offset: number, floor: number): number;
  /** Rounds of moves at each temperature, and at the last. */
  rounds?: number;
  lastRounds?: number;
  /** Goes on from a population that explained an earlier, shorter log. */
  from?: Population | null;
  /** Told how far the tempering is, 0 to 1; true stops it. */
  progress?(done: number): boolean | void;
}

/** Rounds where a log takes many temperatures, as a long one does that the model explains badly. */
const LATE_ROUNDS = 4;
/** Shares of the dimensions that a move takes along. */
const CROSSINGS = [0.1, 0.2, 0.4];

/**
 * Samples what a log leaves open: tempered from the prior (or from an earlier population) to the full likelihood, each
 * temperature chosen so that half of the population still counts, then resampled and moved along differences of its own
 * particles, over some of the dimensions at a time (Del Moral, Doucet and Jasra 2006, sequential Monte Carlo samplers; ter
 * Braak 2006 and Vrugt et al. 2009, differential evolution Markov chains; from memory). The same seed gives the
 * same population. Null where it was stopped.
 */
// oxlint-disable-next-line max-lines-per-function -- the rounds of one algorithm, by the steps that its paper has
export function sample(call: SamplerCall): Population | null {
  const { count, dimensions: d, seed, logLikelihood: explain, rounds = 12, lastRounds = 90, from, progress } = call;
  const random = seeded(seed);
  const z = new Float64Array(count * d);
  const explained = new Float64Array(count);
  const weights = new Float64Array(count);
  const weigh = (value: (n: number) => number): number => {
    let most = -Infinity;
    for (let n = 0; n < count; n++) most = Math.max(most, value(n));
    let sum = 0;
    let squares = 0;
    for (let n = 0; n < count; n++) {
      const w = Math.exp(value(n) - most);
      weights[n] = w;
      sum += w;
      squares += w * w;
    }
    return (sum * sum) / squares;
  };
  let warm = 0;
  if (from) {
    for (let n = 0; n < count; n++) {
      const source = n % from.count;
      z.set(from.z.subarray(source * d, (source + 1) * d), n * d);
      explained[n] = explain(z, n * d, -Infinity);
    }
    // A log that says something new starts afresh; one that goes on as expected is only weighed again.
    if (weigh((n) => explained[n]! - from.explained[n % from.count]!) >= 0.3 * count) warm = 1;
  }
  if (warm === 0)
    for (let n = 0; n < count; n++) {
      for (let i = 0; i < d; i++) z[n * d + i] = random.normal();
      explained[n] = explain(z, n * d, -Infinity);
    }
  const before = new Float64Array(count * d);
  const testRun = new Float64Array(d);
  const chosen = new Uint8Array(d);
  let temperatures = 0;
  for (let again = true; again;) {
    if (warm < 1) {
      // The next temperature: as far as half of the particles still count.
      let next = 1;
      if (weigh((n) => (1 - warm) * explained[n]!) < 0.5 * count) {
        let low = warm;
        let high = 1;
        for (let k = 0; k < 24; k++) {
          next = (low + high) / 2;
          if (weigh((n) => (next - warm) * explained[n]!) < 0.5 * count) high = next;
          else low = next;
        }
        next = Math.max(low, warm + 1e-6);
      }
      weigh((n) => (next - warm) * explained[n]!);
      warm = next;
    }
    resample({ z, explained, count, dimensions: d }, weights, random);
    const turns = warm === 1 ? lastRounds : temperatures++ < 16 ? rounds : LATE_ROUNDS;
    for (let round = 0; round < turns; round++) {
      // Partners come from the round's beginning, so that the order of the particles does not matter.
      before.set(z);
      for (let n = 0; n < count; n++) {
        const at = n * d;
        const a = Math.floor(random.even() * count) * d;
        const b = Math.floor(random.even() * count) * d;
        const cross = CROSSINGS[Math.floor(random.even() * CROSSINGS.length)]!;
        testRun.set(z.subarray(at, at + d));
        let moved = 0;
        for (let i = 0; i < d; i++) {
          chosen[i] = random.even() < cross ? 1 : 0;
          moved += chosen[i]!;
        }
        if (moved === 0) {
          chosen[Math.floor(random.even() * d)] = 1;
          moved = 1;
        }
        const length = (random.even() < 0.1 ? 1 : (0.5 + random.even()) * (2.38 / Math.sqrt(2 * moved))) || 1;
        let norm = 0;
        for (let i = 0; i < d; i++) {
          if (chosen[i] === 0) continue;
          const old = testRun[i]!;
          const next = old + length * (before[a + i]! - before[b + i]!) + 0.02 * random.normal();
          norm += old * old - next * next;
          testRun[i] = next;
        }
        // What it has to reach is drawn first, so that a poor one need not be carried to its end.
        const floor = explained[n]! + (Math.log(1 - random.even()) - 0.5 * norm) / warm;
        const value = explain(testRun, 0, floor);
        if (value > floor) {
          z.set(testRun, at);
          explained[n] = value;
        }
      }
      if (progress?.(Math.min(0.99, warm * (0.5 + (0.5 * (round + 1)) / turns)))) return null;
    }
    again = warm < 1;
    if (progress?.(warm)) return null;
  }
  return { count, dimensions: d, z, explained };
}

/** Systematic resampling: each particle as often as its weight asks, in place. */
function resample({ z, explained, count, dimensions: d }: Population, weights: Float64Array, random: Random): void {
  const total = weights.reduce((sum, w) => sum + w, 0);
  const zs = Float64Array.from(z);
  const es = Float64Array.from(explained);
  let at = random.even();
  let sum = 0;
  let n = 0;
  for (let k = 0; k < count; k++) {
    sum += (weights[k]! / total) * count;
    while (n < count && at < sum) {
      z.set(zs.subarray(k * d, (k + 1) * d), n * d);
      explained[n] = es[k]!;
      n++;
      at++;
    }
  }
  for (; n < count; n++) {
    z.set(zs.subarray((count - 1) * d, count * d), n * d);
    explained[n] = es[count - 1]!;
  }
}
