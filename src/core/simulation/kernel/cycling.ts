/*
 * What starts cost a unit that cycles, for runs whose steps are longer than its cycles: each start is a lag in which the
 * compressor runs and does not cool.
 */

/** Most of a cycling unit's time that its starts may cost. */
const MOST_LOST = 0.9;

/**
 * Starts a second of a thermostat's cycling over x (1 - x), x its share of running: the air goes from one end of the band
 * to the other as an exponential, `swingK` the kelvins between where it would come to rest with the unit on and off,
 * `settlesS` its time constant. A parabola in x (AHRI 210/240 takes 3 an hour at half load; from memory). Behind the air by
 * its lag the thermostat's sensor lets it go beyond either end by what it moves meanwhile.
 * 0 where the unit cannot cross the band, and no more than its minimum rest lets through.
 */
export function startsOf(
  thermostat: { band: number; minimumOff: number; lagS: number },
  swingK: number,
  settlesS: number,
) {
  const { minimumOff, lagS } = thermostat;
  const band = Math.min(thermostat.band + (lagS * swingK) / settlesS, (thermostat.band + swingK) / 2);
  if (swingK <= thermostat.band) return 0;
  const half = settlesS * Math.log((swingK + band) / (swingK - band));
  return 2 / Math.max(half, minimumOff, 1);
}

/** Share of full time, at no load, that so many `starts` a second with a lag of `lagS` each cost. */
export function lostToStarts(starts: number, lagS: number): number {
  const lag = starts * lagS;
  return lag <= 0 ? 0 : Math.min(MOST_LOST, lag * (1 - Math.exp(-2 / lag)));
}

/** Share of running s that gives the cooling of a share x: x = s - lost s (1 - s). */
export function runningShare(x: number, lost: number): number {
  if (x >= 1) return 1;
  if (lost < 1e-6) return x;
  const b = 1 - lost;
  return (Math.sqrt(b * b + 4 * lost * x) - b) / (2 * lost);
}
