import { interpolateLogLog } from "../../units/interpolate";
import { wholeGauge } from "../../units/gauge";

/** Temperature coefficient of copper's resistance at 20 degC, per K (IEC 60228 annex). */
export const COPPER_ALPHA = 0.00393;

/** Class 5 flexible copper at 20 degC: mm2 and ohm/km, IEC 60228 table 3 (memory). */
export const CLASS5_MM2 = [0.5, 0.75, 1, 1.5, 2.5, 4, 6, 10, 16, 25, 35, 50, 70, 95, 120, 150, 185, 240] as const;
export const CLASS5_OHM_PER_KM = [
  39.0, 26.0, 19.5, 13.3, 7.98, 4.95, 3.3, 1.91, 1.21, 0.78, 0.554, 0.386, 0.272, 0.206, 0.161, 0.129, 0.106, 0.0801,
] as const;

/** Resistivity of annealed copper, IEC 60028: 1/58 ohm mm2/m at 20 degC. */
const COPPER_OHM_MM2_PER_M = 1 / 58;

/**
 * Resistance of copper cable at 20 degC in ohm per metre, one way, for a cross-section in mm2 (> 0).
 * Metric sizes from IEC 60228 class 5 (log-log between them); AWG sizes from their geometry (ASTM B258), as solid copper.
 */
export function cableResistancePerMetre(areaMm2: number): number {
  const listed = CLASS5_MM2.some((size) => Math.abs(size / areaMm2 - 1) < 0.005);
  if (!listed && wholeGauge(areaMm2) !== null) return COPPER_OHM_MM2_PER_M / areaMm2;
  return interpolateLogLog(CLASS5_MM2, CLASS5_OHM_PER_KM, areaMm2) / 1000;
}

/** Resistance in ohm of `count` cables side by side over `length` m one way, conductor at `conductorC` degC. */
export function cableResistance(areaMm2: number, length: number, count: number, conductorC: number): number {
  return (cableResistancePerMetre(areaMm2) * length * (1 + COPPER_ALPHA * (conductorC - 20))) / count;
}
