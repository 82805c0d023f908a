import { seeded, type Random } from "../numeric/random";

/** A population of guesses, standard normal before a log, one row of `dimensions` a member. */
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
  /** Log-likelihood of the row at an offset. */
  explain(z: Float64Array, offset: number): number;
  /** Random-walk rounds at each temperature. */
  rounds?: number;
  /** Goes on from a population that explained an earlier, shorter log. */
  from?: Population | null;
  /** Told how far the tempering is, 0 to 1; true stops it. */
  progress?(done: number): boolean | void;
}

/** Lower triangle of a covariance's Cholesky factor; a little is added to the diagonal. */
function cholesky(cov: Float64Array, d: number): Float64Array {
  const L = new Float64Array(d * d);
  for (let i = 0; i < d; i++)
    for (let j = 0; j <= i; j++) {
      let sum = cov[i * d + j]! + (i === j ? 1e-6 : 0);
      for (let k = 0; k < j; k++) sum -= L[i * d + k]! * L[j * d + k]!;
      L[i * d + j] = i === j ? Math.sqrt(Math.max(1e-9, sum)) : sum / L[j * d + j]!;
    }
  return L;
}

function covarianceOf(z: Float64Array, count: number, d: number): Float64Array {
  const mean = new Float64Array(d);
  for (let n = 0; n < count; n++) for (let i = 0; i < d; i++) mean[i] = mean[i]! + z[n * d + i]! / count;
  const cov = new Float64Array(d * d);
  for (let n = 0; n < count; n++)
    for (let i = 0; i < d; i++)
      for (let j = 0; j <= i; j++)
        cov[i * d + j] =
          cov[i * d + j]! + ((z[n * d + i]! - mean[i]!) * (z[n * d + j]! - mean[j]!)) / Math.max(1, count - 1);
  return cov;
}

/**
 * Samples what a log leaves open: tempered from the prior (or from an earlier population) to the full likelihood, each
 * temperature chosen so that half of the population still counts, then resampled and moved by random walks along the
 * population's own covariance (Del Moral, Doucet and Jasra 2006, sequential Monte Carlo samplers). The same seed gives the
 * same population. Null where it was stopped.
 */
export function sample(call: SamplerCall): Population | null {
  const { count, dimensions: d, seed, explain, rounds = 3, from, progress } = call;
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
      explained[n] = explain(z, n * d);
    }
    // A log that says something new starts afresh; one that goes on as expected is only weighed again.
    if (weigh((n) => explained[n]! - from.explained[n % from.count]!) >= 0.3 * count) warm = 1;
  }
  if (warm === 0)
    for (let n = 0; n < count; n++) {
      for (let i = 0; i < d; i++) z[n * d + i] = random.normal();
      explained[n] = explain(z, n * d);
    }
  let scale = 2.38 / Math.sqrt(d);
  const trial = new Float64Array(d);
  const step = new Float64Array(d);
  for (let again = true; again;) {
    if (warm < 1) {
      // The next temperature: as far as half of the members still count.
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
    resample(z, explained, weights, count, d, random);
    const L = cholesky(covarianceOf(z, count, d), d);
    for (let round = 0; round < rounds + (warm === 1 ? 2 : 0); round++) {
      let accepted = 0;
      for (let n = 0; n < count; n++) {
        for (let i = 0; i < d; i++) step[i] = random.normal();
        let norm = 0;
        let normTrial = 0;
        const at = n * d;
        for (let i = 0; i < d; i++) {
          let move = 0;
          for (let j = 0; j <= i; j++) move += L[i * d + j]! * step[j]!;
          trial[i] = z[at + i]! + scale * move;
          norm += z[at + i]! * z[at + i]!;
          normTrial += trial[i]! * trial[i]!;
        }
        const value = explain(trial, 0);
        if (Math.log(1 - random.even()) < warm * (value - explained[n]!) + 0.5 * (norm - normTrial)) {
          z.set(trial, at);
          explained[n] = value;
          accepted++;
        }
      }
      const rate = accepted / count;
      scale *= rate < 0.15 ? 0.75 : rate > 0.35 ? 1.25 : 1;
    }
    again = warm < 1;
    if (progress?.(warm)) return null;
  }
  return { count, dimensions: d, z, explained };
}

/** Systematic resampling: each member as often as its weight asks, in place. */
function resample(
  z: Float64Array,
  explained: Float64Array,
  weights: Float64Array,
  count: number,
  d: number,
  random: Random,
): void {
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
