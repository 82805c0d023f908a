/*
 * A compartment with a vent low and a vent high, warmed from inside: air driven by its own warmth through the vents, and
 * what the walls let through.
 */

const GRAVITY = 9.81;
/** Discharge coefficient of a sharp-edged opening (ASHRAE Fundamentals, natural ventilation; memory: 0.6 to 0.65). */
const DISCHARGE = 0.6;
/** J/(m3 K) of air near 40 degC. */
const AIR_HEAT = 1.12 * 1006;
/** W/K through the walls of a locker: about 1.5 m2 of ply, typical. */
export const WALLS = 3;
const OUTSIDE_K = 308;

/** W carried away at a rise of 1 K by two vents of `ventArea` m2: m3/s = C_d A / sqrt 2 sqrt(2 g H dT / T). */
export function draught(ventArea: number, height: number): number {
  return AIR_HEAT * DISCHARGE * (ventArea / Math.SQRT2) * Math.sqrt((2 * GRAVITY * height) / OUTSIDE_K);
}

/**
 * Kelvin that the air inside stands over the air outside for `heat` W, with vents of `ventArea` m2 each and `height` m
 * between them. Stack effect: ASHRAE Fundamentals, natural ventilation (memory), two equal openings in series.
 */
export function compartmentRise(heat: number, ventArea: number, height: number): number {
  if (heat <= 0) return 0;
  const carried = draught(ventArea, height);
  let [low, high] = [0, heat / WALLS];
  // Heat carried grows steadily with the rise: halving finds it to a part in a million in 40 steps.
  for (let step = 0; step < 40; step++) {
    const middle = (low + high) / 2;
    if (carried * middle * Math.sqrt(middle) + WALLS * middle > heat) high = middle;
    else low = middle;
  }
  return (low + high) / 2;
}

/** m2 that each of two vents must have for `heat` W at a rise of `rise` K; zero where the walls do. */
export function ventFor(heat: number, rise: number, height: number): number {
  const left = heat - WALLS * rise;
  return left <= 0 ? 0 : left / (draught(1, height) * rise * Math.sqrt(rise));
}
