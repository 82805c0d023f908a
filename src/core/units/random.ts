/** A seeded source of numbers: the same seed gives the same days on every machine. */
export interface Random {
  /** Even in [0, 1). */
  even(): number;
  /** Normal, mean 0 and spread 1. */
  normal(): number;
}

/** Mulberry32 (public domain), with Box and Muller's normals. `seed` is any whole number. */
export function seeded(seed: number): Random {
  let state = (seed * 2654435761) >>> 0;
  const even = () => {
    state = (state + 0x6d2b79f5) >>> 0;
    let t = state;
    t = Math.imul(t ^ (t >>> 15), t | 1);
    t ^= t + Math.imul(t ^ (t >>> 7), t | 61);
    return ((t ^ (t >>> 14)) >>> 0) / 4294967296;
  };
  return {
    even,
    normal: () => Math.sqrt(-2 * Math.log(1 - even())) * Math.cos(2 * Math.PI * even()),
  };
}

/** Root above 1 of x^(d + 1) = x + 1: the golden ratio for one dimension, and its like for more. */
function goldenOf(dimensions: number): number {
  let x = 2;
  for (let k = 0; k < 60; k++) x = (1 + x) ** (1 / (dimensions + 1));
  return x;
}

/**
 * The first `dimensions` numbers of each of many sources spread evenly over all of them, the rest of each its own: the nth
 * point of an additive recurrence by the powers of `goldenOf` (Roberts 2018, the R sequence; from memory).
 */
export function spreadSources(dimensions: number): (n: number, random: Random) => Random {
  const golden = goldenOf(dimensions);
  const steps = Array.from({ length: dimensions }, (_, k) => golden ** -(k + 1));
  return (n, random) => {
    let drawn = 0;
    const even = () => (drawn < dimensions ? (0.5 + (n + 1) * steps[drawn++]!) % 1 : random.even());
    return {
      even,
      normal: () => Math.sqrt(-2 * Math.log(1 - even())) * Math.cos(2 * Math.PI * even()),
    };
  };
}
