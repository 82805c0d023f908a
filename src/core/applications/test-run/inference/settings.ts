import { MODE } from "../../../simulation/kernel/control";
import type { RunSetting, SaidMode } from "../log/settings-said";
import { type Settings } from "./particle";
import { seenCabin } from "../segmentation/cabin-seen";
import { has, type Readings } from "../log/readings";
import type { Segments } from "../segmentation/segments";
import type { Site } from "../site/site";

/** A log as the settings are read from it; `logSteps` of the site's steps are in it. */
interface Seen {
  site: Site;
  readings: Readings;
  segments: Segments;
  logSteps: number;
}

/** What was last said of the set point and of the mode, as the settings are gone through in order of time. */
class LastSaid {
  setC: number | null = null;
  mode: number | null = null;
  /** Seconds of the log at which its cooling was last asked for. */
  coolingFromS = -Infinity;
  private next = 0;
  private cooling: number;

  constructor(
    private readonly said: readonly RunSetting[],
    private readonly startMs: number,
    usualMode: number,
  ) {
    this.cooling = usualMode;
  }

  /** Takes in what was said up to a second of the log. */
  goTo(second: number): void {
    for (; this.next < this.said.length; this.next++) {
      const { timeMs, setC, mode } = this.said[this.next]!;
      const at = (timeMs - this.startMs) / 1000;
      if (at > second) return;
      if (setC !== null) this.setC = setC;
      if (mode !== null) this.take(mode, at);
    }
  }

  private take(mode: SaidMode, at: number): void {
    this.mode = mode === "on" ? this.cooling : MODE[mode];
    if (this.mode < MODE.low) return;
    this.cooling = this.mode;
    this.coolingFromS = at;
  }
}

/** Seconds of the log from which on the set point is the one that it ends with. */
export function setSince({ startMs }: Site, said: readonly RunSetting[], lastS: number): number {
  const moments = said.filter(({ setC }) => setC !== null).map(({ timeMs }) => (timeMs - startMs) / 1000);
  return moments.reduce((last, at) => (at <= lastS ? Math.max(last, at) : last), -Infinity);
}

/**
 * How the unit was set through the log and after: as was said, else as it was seen to run, at the plan's set point or the usual
 * one. What was said last goes on.
 */
export function settingsOf({ site, readings, segments, logSteps }: Seen, said: readonly RunSetting[] = []): Settings {
  const { steps, stepS } = site;
  const settings: Settings = {
    mode: new Int8Array(steps),
    setC: new Float64Array(steps).fill(site.setPointC),
    outdoorC: Float64Array.from(site.outdoorC),
    shiftWeight: new Float64Array(steps).fill(1),
    sky: new Float64Array(steps).fill(1),
    seenC: seenCabin(site, readings, segments, logSteps),
    startsSeen: startsSeen(site, segments),
  };
  const { firstOnS, lastOnS, switchedOff } = segments;
  let planned = site.setPointC;
  const last = new LastSaid(said, site.startMs, site.usualMode);
  for (let i = 0; i < steps; i++) {
    const s = (i + 0.5) * stepS;
    const plan = site.planMode[i]!;
    // The plan's own set point at its hours; past them the one that was last in force.
    if (plan >= 2) planned = site.planSetC[i]!;
    last.goTo(s);
    settings.setC[i] = last.setC ?? planned;
    // A unit that never ran in the log is taken to wait for its thermostat.
    const on = firstOnS === null || (s >= firstOnS && !(switchedOff && s > lastOnS!));
    const asked = last.mode ?? (plan >= 2 ? plan : site.usualMode);
    const saidOn = last.coolingFromS > (lastOnS ?? -Infinity);
    settings.mode[i] = on || saidOn || (last.mode !== null && last.mode < MODE.low) ? asked : 0;
  }
  if (has(readings, "outdoor_temp_c")) readOutdoor({ site, readings, segments, logSteps }, settings);
  if (has(readings, "solar_power_w")) readSky({ site, readings, segments, logSteps }, settings.sky);
  return settings;
}

/** Cycles from which on the log's own are believed, and readings that each half of one has to have. */
const CYCLES_SEEN = 2;
const READINGS_OF_HALF = 3;

/** How often a fixed-speed unit starts, by the cycles of the log: the median over them. Null where it does not show. */
function startsSeen({ unit }: Site, { cycles, pace, several }: Segments): number | null {
  if (!unit.fixed || several) return null;
  const seen: number[] = [];
  for (const { onS, offS, nextS } of cycles) {
    const on = offS - onS;
    const off = nextS - offS;
    if (!(Math.min(on, off) >= READINGS_OF_HALF * pace)) continue;
    seen.push((on + off) / (on * off));
  }
  seen.sort((a, b) => a - b);
  return seen.length < CYCLES_SEEN ? null : seen[seen.length >> 1]!;
}

/** Panels see the sky that warms the cabin: their watts over a usual day's, smoothed over a quarter of an hour. */
function readSky({ site, readings: { values }, segments: { seconds }, logSteps }: Seen, sky: Float64Array): void {
  const { stepS, solar } = site;
  let from = 0;
  let to = 0;
  let read = 0;
  let usual = 0;
  const line = values.solar_power_w;
  const usualAt = (k: number) => solar[Math.min(site.steps - 1, Math.floor(seconds[k]! / stepS))]!;
  for (let i = 0; i < logSteps; i++) {
    const middle = (i + 0.5) * stepS;
    for (; to < seconds.length && seconds[to]! <= middle + 450; to++)
      if (!Number.isNaN(line[to]!)) {
        read += line[to]!;
        usual += usualAt(to);
      }
    for (; from < to && seconds[from]! < middle - 450; from++)
      if (!Number.isNaN(line[from]!)) {
        read -= line[from]!;
        usual -= usualAt(from);
      }
    if (usual > 20) sky[i] = Math.min(1.4, Math.max(0.2, read / usual));
    else if (i > 0) sky[i] = sky[i - 1]!;
  }
}

/** A day that is warmer than usual is mostly followed by another: seconds in which the difference fades. */
const WEATHER_KEPT_S = 40 * 3600;

/** Stretch that the day's drift from the usual is read from, and how long it goes on, s. */
const TREND_S = 2 * 3600;
const TREND_KEPT_S = 3 * 3600;

/** Slope of a line by least squares, a second; half of it where it is short of an hour: noise bends short lines. */
function slopeOf(line: Float64Array, stepS: number): number {
  const n = line.length;
  if (n < 4) return 0;
  const middle = (n - 1) / 2;
  const mean = line.reduce((sum, value) => sum + value, 0) / n;
  let over = 0;
  let under = 0;
  for (let i = 0; i < n; i++) {
    over += (i - middle) * (line[i]! - mean);
    under += (i - middle) * (i - middle);
  }
  const lasted = n * stepS;
  const trust = Math.min(1, (lasted / 3600) ** 2);
  return (0.7 * trust * over) / under / stepS;
}

function readOutdoor({ site, readings: { values }, segments: { seconds }, logSteps }: Seen, settings: Settings): void {
  const { stepS, outdoorC, steps } = site;
  const line = values.outdoor_temp_c;
  let at = 0;
  let last = line.find((value) => !Number.isNaN(value))!;
  const difference = new Float64Array(logSteps);
  for (let i = 0; i < logSteps; i++) {
    let sum = 0;
    let n = 0;
    while (at < seconds.length && seconds[at]! < (i + 1) * stepS) {
      if (!Number.isNaN(line[at]!)) {
        sum += line[at]!;
        n++;
      }
      at++;
    }
    if (n > 0) last = sum / n;
    settings.outdoorC[i] = last;
    difference[i] = last - outdoorC[i]!;
  }
  // What the day differs from the usual by: the mean of the last hour, carried on and forgotten slowly.
  const from = Math.max(0, logSteps - Math.round(3600 / stepS));
  const kept = difference.subarray(from).reduce((sum, k) => sum + k, 0) / Math.max(1, logSteps - from);
  const trend = slopeOf(difference.subarray(Math.max(0, logSteps - Math.round(TREND_S / stepS))), stepS);
  for (let i = logSteps; i < steps; i++) {
    const ahead = (i - logSteps) * stepS;
    const goesOn = trend * TREND_KEPT_S * (1 - Math.exp(-ahead / TREND_KEPT_S));
    settings.outdoorC[i] = outdoorC[i]! + (kept + goesOn) * Math.exp(-ahead / WEATHER_KEPT_S);
    settings.shiftWeight[i] = Math.sqrt(1 + 24 * (1 - Math.exp(-ahead / WEATHER_KEPT_S)));
  }
}
