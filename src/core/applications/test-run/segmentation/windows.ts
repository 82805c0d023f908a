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
/**
 * Longest run after the first that is a part of a cycle, s: a large unit in a heavy cabin runs for an hour and a half at a time,
 * and a window of its run alone, or of its rest, would say that it never rests, or never runs.
 */
const LONGEST_RUN_S = 2 * 3600;
/** Of the spread of on and off, what is left in the share of a stretch that is no whole cycle. */
const PART_OFF = 0.5;
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
export function windowsOf(segments: Segments, source: Windowed): Window[] {
  const { bounds, partFromS } = boundsOf(segments, source);
  const windows: Window[] = [];
  let k = 0;
  for (let b = 1; b < bounds.length; b++) {
    const span: Span = { fromS: bounds[b - 1]!, toS: bounds[b]!, last: b === bounds.length - 1 };
    if (span.toS - span.fromS < 30) continue;
    while (k < segments.seconds.length && segments.seconds[k]! < span.fromS) k++;
    const read = readSpan(segments, source, span, k);
    k = read.next;
    const fed = meanwhile(segments.charged, span.fromS, span.toS);
    if (read.count === 0 || read.widest > source.gapLimit || (fed && !segments.mainsApart)) continue;
    const whole = span.fromS < partFromS - 1;
    const window = windowOf(segments, source, span, read);
    if (!whole)
      window.shareSpread = Math.hypot(window.shareSpread, PART_OFF * Math.sqrt(window.share * (1 - window.share)));
    windows.push({ ...window, whole, ...(fed ? FED : {}) });
  }
  return windows;
}

/** A battery that is charged stands far over its volts at rest. */
const FED = { volts: NaN };

/** A stretch of the log. */
interface Span {
  fromS: number;
  toS: number;
  /** Whether the log ends with it. */
  last: boolean;
}

/** Where the windows begin and end, s; from `partFromS` on they hold no whole cycle. */
function boundsOf(segments: Segments, { site, several }: Windowed): { bounds: number[]; partFromS: number } {
  const { seconds, state, firstOnS, pace } = segments;
  // Edges of several units bound nothing: even stretches, long enough for some cycles of each.
  const cycles = several ? [] : segments.cycles;
  const end = seconds[seconds.length - 1]!;
  // A log of days says enough by the hour.
  const coarse = end > DAYS_S ? HOUR_S : 0;
  const shortest = Math.max(coarse, SHORTEST_S);
  const longest = Math.max(coarse, several ? SEVERAL_S : LONGEST_S);
  const bounds: number[] = [];
  if (firstOnS === null) {
    for (let s = 0; s < end; s += longest) bounds.push(s);
    return { bounds: [...bounds, end], partFromS: Infinity };
  }
  for (let s = 0; s + longest <= firstOnS; s += longest) bounds.push(s);
  bounds.push(Math.max(0, firstOnS));
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
  for (const [i, { onS, offS }] of cycles.entries()) {
    if (offS - onS > (i === 0 ? 1.5 * longest : LONGEST_RUN_S)) {
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
  const running = state[state.length - 1] === 2;
  // What is left over is no whole cycle: it counts where it is longer than those before it, or is a level of its own.
  const before = cycles.length > 1 ? last!.offS - cycles[cycles.length - 2]!.offS : 0;
  const longRun = running && last !== undefined && last.offS < end - 3 * longest;
  const cycling = cycles.length > 0 && (site.unit.fixed || !longRun);
  const least = cycling ? Math.max(1.5 * before, usual, running ? 900 : 2400) : shortest;
  if (cycles.length > 0 && left <= least) return { bounds, partFromS: Infinity };
  // A rest and the run after it in pieces would say that it has stopped, and that it goes on for good.
  // So would the first rest of a fixed one, whose cycles may be as long as its pull-down.
  const soon = site.unit.fixed ? cycles.length === 1 && left < LONGEST_RUN_S : left < 3 * longest;
  if (cycling && soon) return { bounds: [...bounds, end], partFromS: from };
  split(from, end);
  return { bounds, partFromS: Infinity };
}

type MeasuredKey = "net" | "amps" | "volts" | "cabin" | "outdoor" | "solar" | "mains";

/** What the readings of a stretch say. */
interface SpanRead {
  /** Readings in it, and the widest gap between them, s. */
  count: number;
  widest: number;
  /** W of those at the running level and at rest. */
  on: number[];
  off: number[];
  /** Mean over time; NaN where nothing was read. */
  mean: (key: MeasuredKey) => number;
  /** Index of the first reading behind it. */
  next: number;
}

/** Reads a stretch, `first` being its first reading. */
function readSpan(segments: Segments, source: Windowed, span: Span, first: number): SpanRead {
  const { seconds, watts, state, pace, chargedAt } = segments;
  const { several } = source;
  const means = new Means(segments, source, span);
  const on: number[] = [];
  const off: number[] = [];
  let widest = 0;
  let count = 0;
  let changed = -Infinity;
  let i = first;
  if (first > 0) means.add(first - 1);
  for (; i < seconds.length && seconds[i]! < span.toS + (span.last ? 1 : 0); i++) {
    if (i > 0) widest = Math.max(widest, seconds[i]! - seconds[i - 1]!);
    if (i > 0 && (state[i] === 2) !== (state[i - 1] === 2)) changed = seconds[i]!;
    count++;
    if (chargedAt[i] === 1) {
      // Its level is not what the unit and the house take.
    } else if (several) {
      if (Math.abs(several.line[i]! - several.off) < AT_LEVEL * several.part) off.push(watts[i]!);
      if (Math.abs(several.line[i]! - several.on) < AT_LEVEL * several.part) on.push(watts[i]!);
    } else if (state[i] !== 2) off.push(watts[i]!);
    else if (seconds[i]! - changed >= SETTLES_S || pace > 120) on.push(watts[i]!);
    means.add(i);
  }
  if (i < seconds.length) means.add(i);
  return { count, widest, on, off, mean: (key) => means.of(key), next: i };
}

/**
 * Means over a stretch. A reading stands for what lies nearer to it than to the next: few readings in a window do not lean
 * to either end. In a hole nothing stands for its middle.
 */
class Means {
  private readonly sums: Record<MeasuredKey, number> = zeros();
  private readonly lasted: Record<MeasuredKey, number> = zeros();

  constructor(
    private readonly segments: Segments,
    private readonly source: Windowed,
    private readonly span: Span,
  ) {}

  add(j: number): void {
    const { seconds, watts, pace, mainsApart } = this.segments;
    const { readings, site, gapLimit } = this.source;
    const { values } = readings;
    const at = seconds[j]!;
    const reach = (gap: number) => (gap > gapLimit ? pace : gap) / 2;
    const before = j === 0 ? at : at - reach(at - seconds[j - 1]!);
    const after = j === seconds.length - 1 ? at : at + reach(seconds[j + 1]! - at);
    const weight = Math.min(after, this.span.toS) - Math.max(before, this.span.fromS);
    if (weight <= 0) return;
    this.one("net", watts[j]!, weight);
    this.one("amps", -values.battery_current_a[j]!, weight);
    this.one("volts", values.battery_voltage_v[j]!, weight);
    this.one("cabin", values.cabin_temp_c[j]!, weight);
    this.one("outdoor", values.outdoor_temp_c[j]!, weight);
    this.one("solar", values.solar_power_w[j]!, weight);
    if (mainsApart) this.one("mains", dcAdded(site.system.inverter, Math.max(0, values.ac_power_w[j]!)), weight);
  }

  private one(key: MeasuredKey, value: number, weight: number): void {
    if (Number.isNaN(value)) return;
    this.sums[key] += value * weight;
    this.lasted[key] += weight;
  }

  of(key: MeasuredKey): number {
    return this.lasted[key] > 0 ? this.sums[key] / this.lasted[key] : NaN;
  }
}

const zeros = (): Record<MeasuredKey, number> => ({
  net: 0,
  amps: 0,
  volts: 0,
  cabin: 0,
  outdoor: 0,
  solar: 0,
  mains: 0,
});

function windowOf(segments: Segments, source: Windowed, span: Span, read: SpanRead): Omit<Window, "whole"> {
  const { blurred } = source;
  const { mean, on, off } = read;
  const [share, shareSpread] = shareOf(segments, source, span, mean);
  return {
    fromS: span.fromS,
    toS: span.toS,
    share,
    shareSpread,
    net: mean("net"),
    on: blurred ? blurred.on : (levelOf(on)?.value ?? NaN),
    off: blurred ? blurred.off : (levelOf(off)?.value ?? NaN),
    volts: mean("volts"),
    amps: mean("amps"),
    cabinC: mean("cabin"),
    outdoorC: mean("outdoor"),
    solar: mean("solar"),
    mains: mean("mains"),
  };
}

/** Share of the window that the compressor ran, and what that may be off by; NaN for a variable unit. */
function shareOf(
  segments: Segments,
  { site, blurred, several }: Windowed,
  { fromS, toS }: Span,
  mean: SpanRead["mean"],
): [share: number, spread: number] {
  const within = (share: number) => Math.min(1, Math.max(0, share));
  if (several) {
    const drawn = several.house === null ? mean("net") : mean("mains") + several.house;
    const share = within((drawn - several.off) / (several.on - several.off));
    return [share, share > 0.99 ? 0.01 : SEVERAL_OFF * Math.sqrt(SEVERAL_S / (toS - fromS))];
  }
  if (blurred) {
    const share = within((mean("net") - blurred.off) / (blurred.on - blurred.off));
    const late = (MEANS_LATE * segments.pace * 2 * Math.sqrt(share * (1 - share))) / (toS - fromS);
    return [share, MEANS_SHARE_OFF + late];
  }
  if (!site.unit.fixed) return [NaN, 0];
  // By edges where they are sharp beside the cycle, else by the count of readings.
  const { cycles, pace } = segments;
  let onTime = 0;
  for (const { onS, offS } of [...cycles, ...openRun(segments)])
    onTime += Math.max(0, Math.min(toS, offS) - Math.max(fromS, onS));
  const share = Math.min(1, onTime / (toS - fromS));
  const edges = cycles.filter(({ onS, offS }) => (onS > fromS && onS < toS) || (offS > fromS && offS <= toS)).length;
  const sharp = share >= 0.999 || share <= 0.001;
  return [share, sharp ? 0.005 : (0.45 * pace * Math.sqrt(2 * Math.max(1, edges))) / (toS - fromS)];
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
