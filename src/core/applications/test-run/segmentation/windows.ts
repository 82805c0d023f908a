import { dcAdded } from "../../../models/inverter/inverter";
import type { Blurred } from "./blurred";
import { meanwhile } from "./charged";
import { levelOf } from "./levels";
import type { Readings } from "../log/readings";
import { AT_LEVEL, type Several } from "./several";
import type { Cycle, Segments, Window } from "./segments";
import type { Site } from "../site/site";

/** A start's first moments are not its level. */
export const SETTLES_S = 75;
/** Longest unbroken window, and shortest one, s. */
const LONGEST_S = 900;
const SHORTEST_S = 420;
/** Pieces of the first pull-down, and how much of it is cut so fine, s: its shape tells cooling from load before anything else does. */
const FINE_S = 240;
const FINE_FOR_S = 3600;
/** Logs over this long are looked at by windows of an hour, s. */
const DAYS_S = 30 * 3600;
const HOUR_S = 3600;

/** Usual stretch that the share of several units is told over, and what it is off by over one, s. */
const SEVERAL_S = 1800;
const SEVERAL_OFF = 0.05;
/** Of a share told from means: what house loads put it off by, and what the half of a pace does that a mean comes late. */
const MEANS_SHARE_OFF = 0.03;
const MEANS_LATE = 0.25;

/** What windows are made from beside the segments. */
interface Windowed {
  readings: Readings;
  site: Site;
  gapLimit: number;
  blurred: Blurred | null;
  several: Several | null;
}

/** The windows of a log whose states and cycles are known, in order; a hole of over `gapLimit` seconds is in none. */
export function windowsOf(segments: Segments, { readings, site, gapLimit, blurred, several }: Windowed): Window[] {
  const { seconds, watts, state, firstOnS, pace, mainsApart, chargedAt } = segments;
  // Edges of several units bound nothing: even stretches, long enough for some cycles of each.
  const cycles = several ? [] : segments.cycles;
  const { values } = readings;
  const count = seconds.length;
  const end = seconds[count - 1]!;
  // A log of days says enough by the hour.
  const coarse = end > DAYS_S ? HOUR_S : 0;
  const shortest = Math.max(coarse, SHORTEST_S);
  const longest = Math.max(coarse, several ? SEVERAL_S : LONGEST_S);
  const bounds: number[] = [];
  let partFromS = Infinity;
  if (firstOnS === null) {
    for (let s = 0; s < end; s += longest) bounds.push(s);
    bounds.push(end);
  } else {
    for (let s = 0; s + longest <= firstOnS; s += longest) bounds.push(s);
    if (firstOnS > 0) bounds.push(firstOnS);
    else bounds.push(0);
    const even = (from: number, to: number, usual: number) => {
      const pieces = Math.max(1, Math.round((to - from) / usual));
      for (let p = 1; p <= pieces; p++) bounds.push(from + ((to - from) * p) / pieces);
    };
    const split = (from: number, to: number) => {
      const fineTo = coarse > 0 ? from : Math.min(to, firstOnS + FINE_FOR_S, segments.pullDown?.toS ?? Infinity);
      const fine = Math.max(FINE_S, 2 * pace);
      const cutFine = fineTo - from >= fine && fine < longest;
      if (cutFine) even(from, fineTo, fine);
      const rest = cutFine ? fineTo : from;
      if (!cutFine || to - rest >= 1) even(rest, to, longest);
    };
    // A variable unit that goes below its lowest speed cycles too; one that never does is one long run.
    let from = firstOnS;
    // Off edges close a window once it is long enough; a long run or a long rest is cut in pieces.
    for (const { onS, offS } of cycles) {
      if (offS - onS > 1.5 * longest) {
        if (onS - from > shortest) bounds.push(onS);
        split(bounds[bounds.length - 1]!, offS);
        from = offS;
      } else if (offS - from >= shortest) {
        bounds.push(offS);
        from = offS;
      }
    }
    const last = cycles[cycles.length - 1];
    const usual = last ? Math.max(shortest, last.offS - from || shortest) : shortest;
    const left = end - from;
    const running = state[count - 1] === 2;
    // What is left over is no whole cycle: it counts where it is longer than those before it, or is a level of its own.
    const before = cycles.length > 1 ? last!.offS - cycles[cycles.length - 2]!.offS : 0;
    const longRun = running && last !== undefined && last.offS < end - 3 * longest;
    const cycling = cycles.length > 0 && (site.unit.fixed || !longRun);
    const least = cycling ? Math.max(1.5 * before, usual, running ? 900 : 2400) : shortest;
    if (cycles.length === 0 || left > least) {
      // A rest and the run after it in pieces would say that it has stopped, and that it goes on for good.
      if (cycling && !site.unit.fixed && left < 3 * longest) {
        partFromS = from;
        bounds.push(end);
      } else split(from, end);
    }
  }
  const windows: Window[] = [];
  let k = 0;
  for (let b = 1; b < bounds.length; b++) {
    const [fromS, toS] = [bounds[b - 1]!, bounds[b]!];
    if (toS - fromS < 30) continue;
    while (k < count && seconds[k]! < fromS) k++;
    let n = 0;
    let widest = 0;
    const on: number[] = [];
    const off: number[] = [];
    const sums = { net: 0, amps: 0, volts: 0, cabin: 0, outdoor: 0, solar: 0, mains: 0 };
    const lasted = { net: 0, amps: 0, volts: 0, cabin: 0, outdoor: 0, solar: 0, mains: 0 };
    const last = b === bounds.length - 1;
    // A reading stands for what lies nearer to it than to the next: few readings in a window do not lean to either end.
    // In a hole nothing stands for its middle.
    const add = (j: number) => {
      const at = seconds[j]!;
      const reach = (gap: number) => (gap > gapLimit ? pace : gap) / 2;
      const before = j === 0 ? at : at - reach(at - seconds[j - 1]!);
      const after = j === count - 1 ? at : at + reach(seconds[j + 1]! - at);
      const weight = Math.min(after, toS) - Math.max(before, fromS);
      if (weight <= 0) return;
      const one = (key: keyof typeof sums, value: number) => {
        if (Number.isNaN(value)) return;
        sums[key] += value * weight;
        lasted[key] += weight;
      };
      one("net", watts[j]!);
      one("amps", -values.battery_current_a[j]!);
      one("volts", values.battery_voltage_v[j]!);
      one("cabin", values.cabin_temp_c[j]!);
      one("outdoor", values.outdoor_temp_c[j]!);
      one("solar", values.solar_power_w[j]!);
      if (mainsApart) one("mains", dcAdded(site.system.inverter, Math.max(0, values.ac_power_w[j]!)));
    };
    let changed = -Infinity;
    let i = k;
    if (k > 0) add(k - 1);
    for (; i < count && seconds[i]! < toS + (last ? 1 : 0); i++) {
      if (i > 0) widest = Math.max(widest, seconds[i]! - seconds[i - 1]!);
      if (i > 0 && (state[i] === 2) !== (state[i - 1] === 2)) changed = seconds[i]!;
      n++;
      if (chargedAt[i] === 1) {
        // Its level is not what the unit and the house take.
      } else if (several) {
        if (Math.abs(several.line[i]! - several.off) < AT_LEVEL * several.part) off.push(watts[i]!);
        if (Math.abs(several.line[i]! - several.on) < AT_LEVEL * several.part) on.push(watts[i]!);
      } else if (state[i] !== 2) off.push(watts[i]!);
      else if (seconds[i]! - changed >= SETTLES_S || pace > 120) on.push(watts[i]!);
      add(i);
    }
    if (i < count) add(i);
    const fed = meanwhile(segments.charged, fromS, toS);
    if (n === 0 || widest > gapLimit || (fed && !mainsApart)) {
      k = i;
      continue;
    }
    const mean = (key: keyof typeof sums) => (lasted[key] > 0 ? sums[key] / lasted[key] : NaN);
    let share = NaN;
    let spread = 0;
    if (several) {
      const drawn = several.house === null ? mean("net") : mean("mains") + several.house;
      share = Math.min(1, Math.max(0, (drawn - several.off) / (several.on - several.off)));
      spread = share > 0.99 ? 0.01 : SEVERAL_OFF * Math.sqrt(SEVERAL_S / (toS - fromS));
    } else if (blurred) {
      share = Math.min(1, Math.max(0, (mean("net") - blurred.off) / (blurred.on - blurred.off)));
      spread = MEANS_SHARE_OFF + (MEANS_LATE * pace * 2 * Math.sqrt(share * (1 - share))) / (toS - fromS);
    } else if (site.unit.fixed) {
      // By edges where they are sharp beside the cycle, else by the count of readings.
      let onTime = 0;
      for (const { onS, offS } of [...cycles, ...openRun(segments)])
        onTime += Math.max(0, Math.min(toS, offS) - Math.max(fromS, onS));
      share = Math.min(1, onTime / (toS - fromS));
      const edges = cycles.filter(
        ({ onS, offS }) => (onS > fromS && onS < toS) || (offS > fromS && offS <= toS),
      ).length;
      spread =
        share >= 0.999 || share <= 0.001 ? 0.005 : (0.45 * pace * Math.sqrt(2 * Math.max(1, edges))) / (toS - fromS);
    }
    windows.push({
      fromS,
      toS,
      whole: fromS < partFromS - 1,
      share,
      shareSpread: spread,
      net: mean("net"),
      on: blurred ? blurred.on : (levelOf(on)?.value ?? NaN),
      off: blurred ? blurred.off : (levelOf(off)?.value ?? NaN),
      // A bank that is charged stands far over its volts at rest.
      volts: fed ? NaN : mean("volts"),
      amps: mean("amps"),
      cabinC: mean("cabin"),
      outdoorC: mean("outdoor"),
      solar: mean("solar"),
      mains: mean("mains"),
    });
    k = i;
  }
  return windows;
}

/** The run that is still going at the end of a log, as a cycle that ends there. */
function openRun({ seconds, state, firstOnS, cycles }: Segments): Cycle[] {
  const count = seconds.length;
  if (firstOnS === null || state[count - 1] !== 2) return [];
  let i = count - 1;
  while (i > 0 && state[i - 1] === 2) i--;
  const onS = i === 0 ? seconds[0]! : cycles.length === 0 ? firstOnS : (seconds[i]! + seconds[i - 1]!) / 2;
  return [{ onS, offS: seconds[count - 1]!, nextS: NaN, share: NaN, watts: NaN }];
}
