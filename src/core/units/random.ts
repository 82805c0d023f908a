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
