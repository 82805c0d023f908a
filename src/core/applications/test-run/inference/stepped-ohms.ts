import type { Readings } from "../log/readings";
import type { Segments } from "../segmentation/segments";
import type { Site } from "../site/site";

/** Steps that a resistance is read from at the least. */
const LEAST_STEPS = 3;

/** Ohms of a battery, their spread, and the steps that they rest on: how many, of how many amps at the least. */
export interface SteppedOhms {
  ohms: number;
  spread: number;
  count: number;
  leastA: number;
}

/** Ohms of the battery by the volts that step when the draw does: the median over the steps; null where there are too few. */
export function steppedOhms(
  site: Site,
  readings: Readings,
  { seconds, pace, chargedAt }: Segments,
): SteppedOhms | null {
  const volts = readings.values.battery_voltage_v;
  const current = readings.values.battery_current_a;
  const leastA = Math.max(5, (0.3 * site.unit.power) / site.system.bank.nominalVoltage);
  const list: number[] = [];
  for (let i = 1; i < volts.length; i++) {
    const amps = current[i]! - current[i - 1]!;
    if (chargedAt[i] === 1 || chargedAt[i - 1] === 1) continue;
    if (Math.abs(amps) < leastA || seconds[i]! - seconds[i - 1]! > Math.max(2 * pace, 120)) continue;
    const step = volts[i]! - volts[i - 1]!;
    if (Number.isFinite(step)) list.push(step / amps);
  }
  const count = list.length;
  if (count < LEAST_STEPS) return null;
  list.sort((a, b) => a - b);
  const ohms = list[Math.floor(count / 2)]!;
  if (ohms <= 0) return null;
  const between = list[Math.floor(0.75 * (count - 1))]! - list[Math.floor(0.25 * (count - 1))]!;
  return { ohms, spread: Math.max((0.74 * between) / Math.sqrt(count), 0.02 * ohms), count, leastA };
}
