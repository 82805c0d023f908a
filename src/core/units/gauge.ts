/**
 * American wire gauge.
 *
 * Gauge numbers below zero are the aughts: 1/0 is 0, 2/0 is -1, 3/0 is -2, 4/0 is -3.
 * Source: ASTM B258, d = 0.127 mm x 92^((36 - n) / 39).
 */

/** Cross-section in mm2 of a gauge number from -3 (4/0) to 40. */
export function gaugeAreaMm2(gauge: number): number {
  const diameterMm = 0.127 * Math.pow(92, (36 - gauge) / 39);
  return (Math.PI / 4) * diameterMm * diameterMm;
}

/** The gauge number, not rounded, whose cross-section is `areaMm2` (> 0). */
export function gaugeOfArea(areaMm2: number): number {
  const diameterMm = Math.sqrt((4 * areaMm2) / Math.PI);
  return 36 - (39 * Math.log(diameterMm / 0.127)) / Math.log(92);
}

/** "4", "1/0", "4/0" for a whole gauge number. */
export function gaugeName(gauge: number): string {
  return gauge <= 0 ? `${1 - gauge}/0` : String(gauge);
}

/** The whole gauge number whose cross-section is within 1 % of `areaMm2`, or null. */
export function wholeGauge(areaMm2: number): number | null {
  const gauge = Math.round(gaugeOfArea(areaMm2));
  if (gauge < -3 || gauge > 40) return null;
  return Math.abs(gaugeAreaMm2(gauge) / areaMm2 - 1) < 0.01 ? gauge : null;
}

/** Gauges that are sold as battery and wiring cable, thin to thick. */
export const SOLD_GAUGES = [18, 16, 14, 12, 10, 8, 6, 4, 2, 1, 0, -1, -2, -3] as const;
