import { chargeEfficiency, restedCurrent } from "../../../simulation/kernel/battery";
import { type Readings } from "../log/readings";
import type { Segments } from "../segmentation/segments";
import type { Site } from "../site/site";

/** A h out up to each reading, as a rested battery would show them; gaps bridged. */
export function countedCharge(site: Site, { values }: Readings, { seconds }: Segments): Float64Array {
  const current = values.battery_current_a;
  const out = new Float64Array(seconds.length);
  const efficiency = chargeEfficiency(site.parameters.lithium);
  const rested = (amps: number) => restedCurrent(efficiency, amps);
  for (let i = 1; i < seconds.length; i++)
    out[i] =
      out[i - 1]! + ((rested(-current[i]!) + rested(-current[i - 1]!)) / 2) * ((seconds[i]! - seconds[i - 1]!) / 3600);
  return out;
}

/** Spread of what a monitor's percentage is worth in amp-hours: it may be set to another capacity than the plate's. */
const MONITOR_OFF = 0.06;

/**
 * Share of running since the pull-down by the monitor's own count, which sees what is drawn between readings: for logs
 * too coarse for their cycles. Null where readings are close enough, or the percentage has moved too little.
 */
export function shownShare(
  site: Site,
  { values }: Readings,
  { seconds, windows, volts, pullDown, pace, levels, sunApart, cycles, charged }: Segments,
): { from: number; share: number; spread: number } | null {
  if (!site.unit.fixed || pace < 45 || !pullDown?.toS || !levels.between || !levels.running || !sunApart) return null;
  if (site.panels || site.parameters.lithium === false || cycles.length < 2 || charged.length > 0) return null;
  const from = windows.findIndex(({ fromS }) => fromS >= pullDown.toS! - 1);
  if (from < 0) return null;
  const startS = windows[from]!.fromS;
  const endS = windows[windows.length - 1]!.toS;
  const soc = values.soc_pct;
  let first = -1;
  let last = -1;
  for (let i = 0; i < seconds.length; i++) {
    if (Number.isNaN(soc[i]!) || seconds[i]! < startS || seconds[i]! > endS) continue;
    if (first < 0) first = i;
    last = i;
  }
  if (first < 0) return null;
  const fell = (soc[first]! - soc[last]!) / 100;
  const hours = (seconds[last]! - seconds[first]!) / 3600;
  if (fell < 0.02 || hours < 0.25) return null;
  const watts = ((fell * site.system.bank.capacityAh) / hours) * volts[last]!;
  const step = levels.running.value - levels.between.value;
  const share = (watts - levels.between.value) / step;
  const spread = Math.hypot(0.03, (MONITOR_OFF + 0.004 / fell) * (watts / step));
  return share > -0.2 && share < 1.2 ? { from, share: Math.min(1, Math.max(0, share)), spread } : null;
}
