import { openCircuitVoltage } from "../../../models/battery/battery";
import { chargeEfficiency, countedCurrent, settledResistance } from "../../../simulation/kernel/battery";
import { LOWEST_SPEED } from "../../../models/air-conditioner/air-conditioner";
import {
  propagate,
  startOf,
  trajectoryOf,
  variableShare,
  type Particle,
  type ParticleState,
  type Settings,
  type Trajectory,
} from "./particle";
import { heldCabin, seenCabin } from "../segmentation/cabin-seen";
import { has, type Readings } from "../log/readings";
import type { Segments, Window } from "../segmentation/segments";
import type { Site } from "../site/site";

/** How well a particle explains a log, and the state that it ends the log in. */
export interface Log {
  site: Site;
  segments: Segments;
  settings: Settings;
  /** Steps of the site's lines that the log covers. */
  steps: number;
  track: Trajectory;
  /** What the unit was seen to do in a window: share of running, or W over its fan, by a particle's own off level; NaN where it cannot be told. */
  drawn(k: number, particle: Particle): number;
  /** Effective A h out by the middle of each window, and by the end of the log; seconds too. */
  counted: Float64Array;
  countedAll: number;
  lastS: number;
  /** Log-likelihood of a particle, of windows that are each at most 1; -Infinity as soon as it is known to be under `floor`. */
  logLikelihood(particle: Particle, floor?: number): number;
  /** Runs the particle through the log; its state at the end, its window means kept in `shares`, `draws`. */
  propagateThrough(particle: Particle): ParticleState;
  shares: Float64Array;
  draws: Float64Array;
}

/** Of what model and truth differ by, squared: the share that is each window's own. */
const OWN_SHARE = 0.15;
/** K that the cabin of the model and the thermometer's corner of the true one differ by. */
const CABIN_OFF = 0.75;
/** Seconds in which a variable unit comes up, one in a minute and another in ten, and what its full draw may be off by meanwhile. */
const COMES_UP_S = 300;
const COMES_UP_OFF = 0.2;
/** Correlation time of what model and truth differ by, s. */
const MEMORY_S = 4500;
/** Spread of the share of running that the model cannot tell, of its size and at the least. */
const SHARE_OFF = 0.09;
const SHARE_LEAST = 0.03;
/** Of the spread of on and off, what is left in the mean of a window of a variable unit that cycles: of whole cycles, of a part. */
const CYCLES_OFF = 0.3;
const PART_OFF = 0.6;
/** Steps after which a guess that is already too unlikely is given up. */
const PIECE_STEPS = 16;
/** Volts a cell that a rest curve is off by for one bank, and from reading to reading. */
const CURVE_OFF = { lfp: 0.015, nmc: 0.02, agm: 0.012 } as const;
const CURVE_NOISE = { lfp: 0.02, nmc: 0.015, agm: 0.012 } as const;

/** How the unit was set through the log and after: as it was seen to run, at the plan's set point or the usual one. */
export function settingsOf(site: Site, readings: Readings, segments: Segments, logSteps: number): Settings {
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
  const usual = usualMode(site);
  let planned = site.setPointC;
  for (let i = 0; i < steps; i++) {
    const s = (i + 0.5) * stepS;
    const plan = site.planMode[i]!;
    // The plan's own set point at its hours; past them the one that was last in force.
    if (plan >= 2) planned = site.planSetC[i]!;
    settings.setC[i] = planned;
    // A unit that never ran in the log is taken to wait for its thermostat.
    const on = firstOnS === null || (s >= firstOnS && !(switchedOff && s > lastOnS!));
    settings.mode[i] = on ? (plan >= 2 ? plan : usual) : 0;
  }
  if (has(readings, "outdoor_temp_c")) readOutdoor(site, readings, segments, logSteps, settings);
  if (has(readings, "solar_power_w")) readSky(site, readings, segments, logSteps, settings.sky);
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
function readSky(site: Site, { values }: Readings, { seconds }: Segments, logSteps: number, sky: Float64Array): void {
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

/** The mode of the plan's use, automatic where it has none. */
function usualMode({ planMode }: Site): number {
  const used = planMode.find((mode) => mode >= 2);
  return used ?? 4;
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

function readOutdoor(
  site: Site,
  { values }: Readings,
  { seconds }: Segments,
  logSteps: number,
  settings: Settings,
): void {
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

/** Effective A h out up to each reading: Peukert where the chemistry asks for it, gaps bridged. */
export function countedCharge(site: Site, { values }: Readings, { seconds }: Segments): Float64Array {
  const { bank } = site.system;
  const current = values.battery_current_a;
  const out = new Float64Array(seconds.length);
  const efficiency = chargeEfficiency(site.run.lithium);
  const effective = (amps: number) => countedCurrent(bank, efficiency, amps);
  for (let i = 1; i < seconds.length; i++)
    out[i] =
      out[i - 1]! +
      ((effective(-current[i]!) + effective(-current[i - 1]!)) / 2) * ((seconds[i]! - seconds[i - 1]!) / 3600);
  return out;
}

/** Spread of what a monitor's percentage is worth in amp-hours: it may be set to another capacity than the plate's. */
const MONITOR_OFF = 0.06;

/**
 * Share of running since the pull-down by the monitor's own count, which sees what is drawn between readings: for logs
 * too coarse for their cycles. Null where readings are close enough, or the percentage has moved too little.
 */
function shownShare(
  site: Site,
  { values }: Readings,
  { seconds, windows, volts, pullDown, pace, levels, sunApart, cycles, charged }: Segments,
): { from: number; share: number; spread: number } | null {
  if (!site.unit.fixed || pace < 45 || !pullDown?.toS || !levels.between || !levels.running || !sunApart) return null;
  if (site.panels || site.run.lithium === false || cycles.length < 2 || charged.length > 0) return null;
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

/** As Math.hypot, which is ten times as slow for its care with numbers near the ends of the range. */
const rootOfSquares = (a: number, b: number, c = 0): number => Math.sqrt(a * a + b * b + c * c);

export function logOf(site: Site, readings: Readings, segments: Segments): Log {
  const { stepS, unit, system } = site;
  const { bank } = system;
  const { windows, seconds } = segments;
  const lastS = seconds[seconds.length - 1]!;
  const steps = Math.min(site.steps, Math.max(1, Math.round(lastS / stepS)));
  const settings = settingsOf(site, readings, segments, steps);
  const track = trajectoryOf(site.steps);
  const charge = countedCharge(site, readings, segments);
  const count = windows.length;
  const counted = new Float64Array(count);
  {
    let k = 0;
    windows.forEach(({ fromS, toS }, i) => {
      while (k < seconds.length - 1 && seconds[k]! < (fromS + toS) / 2) k++;
      counted[i] = charge[k]!;
    });
  }
  const lines = {
    draw: new Float64Array(steps + 1),
    share: new Float64Array(steps + 1),
    cabin: new Float64Array(steps + 1),
    full: new Float64Array(steps + 1),
    solar: new Float64Array(steps + 1),
  };
  for (let i = 0; i < steps; i++) lines.solar[i + 1] = lines.solar[i]! + site.solar[i]!;
  const between = (line: Float64Array, { fromS, toS }: Window) => {
    const a = Math.min(steps, fromS / stepS);
    const b = Math.min(steps, Math.max(a + 0.25, toS / stepS));
    const at = (x: number) => {
      const i = Math.min(steps - 1, Math.floor(x));
      return line[i]! + (line[i + 1]! - line[i]!) * (x - i);
    };
    return (at(b) - at(a)) / Math.max(1e-6, b - a);
  };
  const gaps = windows.map(({ fromS, toS }, i) => {
    if (i === 0) return 0;
    const before = windows[i - 1]!;
    return Math.exp(-((fromS + toS) / 2 - (before.fromS + before.toS) / 2) / MEMORY_S);
  });
  const levels = Math.sqrt(Math.max(1, count));
  const fan = unit.fanBetween ? unit.fan : 0;
  const cells = bank.cellsInSeries;
  const resistance = settledResistance(bank);
  const voltWindows = windows.filter(({ volts }) => !Number.isNaN(volts)).length;
  const pacedVolts = Math.sqrt(Math.max(1, voltWindows / 3));
  const sunRead = windows.some(({ solar }) => solar > 15);
  const ran = (window: Window) => segments.firstOnS === null || window.toS > segments.firstOnS + 1;
  const fanOn = (window: Window) => segments.restedFirst || ran(window);
  const { fan: fanLevel } = segments.levels;
  const fanSeen = fanLevel && fanLevel.count >= 3 ? fanLevel.value : fan;
  const shares = new Float64Array(count);
  const draws = new Float64Array(count);
  const drawn = (k: number, particle: Particle): number => {
    const window = windows[k]!;
    if (!ran(window)) return NaN;
    if (unit.fixed) return window.share;
    if (segments.mainsApart && !Number.isNaN(window.mains)) return window.mains - fanSeen;
    return segments.sunApart ? window.net - particle.offLevel : NaN;
  };

  // What a variable unit's mean draw cannot be told to, by what was read: a spread that went with the guess would favour
  // guesses of much draw, or, with its logarithm in the density, guesses of little.
  const fullDraw = Math.max(1, unit.power - fan);
  const lowest = variableShare(LOWEST_SPEED, 1) * fullDraw;
  const spreads = windows.map((window) => {
    const apart = segments.mainsApart && !Number.isNaN(window.mains);
    const solar = segments.sunApart ? 0 : between(lines.solar, window);
    const seen = apart ? window.mains - fanSeen : window.net + solar - site.base - fan;
    const draw = Math.min(1.2 * fullDraw, Math.max(0, seen));
    // Under its lowest speed it cycles, and a window holds some of its cycles only.
    const cycling = window.whole
      ? CYCLES_OFF * Math.sqrt(Math.max(0, draw * (lowest - draw)))
      : (PART_OFF * lowest) / 2;
    const comesUp = segments.firstOnS !== null && window.fromS < segments.firstOnS + COMES_UP_S ? COMES_UP_OFF : 0;
    return rootOfSquares(0.08 * draw + (0.015 + comesUp) * fullDraw + 3, cycling, apart ? 0 : 0.3 * solar);
  });

  // Step by which all that a window needs is carried.
  const ends = windows.map(() => 0);
  windows.forEach(({ fromS, toS }, k) => {
    const from = Math.min(steps, fromS / stepS);
    ends[k] = Math.max(ends[k - 1] ?? 0, Math.min(steps, Math.floor(Math.max(from + 0.25, toS / stepS)) + 1));
  });

  /** Carries a particle through the log piece by piece and shows each window as soon as it is passed; stops where told. */
  const pass = (particle: Particle, seen: ((k: number) => void) | null, enough: () => boolean): ParticleState => {
    const state = startOf(particle);
    const inner = { ...particle };
    let k = 0;
    for (let done = 0; done < steps && !enough();) {
      const next = Math.min(steps, done + PIECE_STEPS);
      propagate(site, inner, settings, state, done, next, track);
      for (let i = done; i < next; i++) {
        lines.draw[i + 1] = lines.draw[i]! + track.draw[i]!;
        lines.share[i + 1] = lines.share[i]! + track.share[i]!;
        lines.cabin[i + 1] = lines.cabin[i]! + track.cabinC[i]!;
        lines.full[i + 1] = lines.full[i]! + track.full[i]!;
      }
      for (; k < count && ends[k]! <= next; k++) {
        shares[k] = between(lines.share, windows[k]!);
        draws[k] = between(lines.draw, windows[k]!);
        seen?.(k);
      }
      done = next;
    }
    return state;
  };
  const carryThrough = (particle: Particle): ParticleState => pass(particle, null, () => false);

  const held = settings.seenC ? heldCabin(segments) : null;
  const heldSetC = settings.setC[steps - 1]!;
  const shown = shownShare(site, readings, segments);
  let before = 0;
  let beforeCabin = 0;
  /** Log-likelihood of one window after those before it: never above zero, on which stopping early rests. */
  const ofWindow = (k: number, particle: Particle): number => {
    let sum = 0;
    const window = windows[k]!;
    const on = ran(window);
    const keep = gaps[k]!;
    const solar = segments.sunApart ? 0 : between(lines.solar, window) * particle.solar;
    const full = between(lines.full, window);
    if (unit.fixed) {
      if (on) {
        const spread = Math.sqrt(
          window.shareSpread ** 2 +
            SHARE_LEAST ** 2 +
            (SHARE_OFF * Math.min(window.share, 1 - 0.5 * window.share)) ** 2,
        );
        const residual = (shares[k]! - window.share) / spread;
        const fresh = (residual - keep * before) / Math.sqrt(1 - keep * keep + OWN_SHARE);
        sum -= 0.5 * fresh * fresh;
        before = residual;
        if (!Number.isNaN(window.on)) {
          const r = (particle.offLevel + full - solar - window.on) / (rootOfSquares(0.02 * full, 0.3 * solar) * levels);
          sum -= 0.5 * r * r;
        }
      }
      if (!Number.isNaN(window.off)) {
        const r =
          (particle.offLevel - (fanOn(window) ? 0 : fan) - solar - window.off) /
          (rootOfSquares(0.08 * particle.offLevel + 3, 0.3 * solar) * levels);
        sum -= 0.5 * r * r;
      }
    } else {
      // Its mains watts, where they were read, say what the unit draws whatever the house and the sun do.
      const apart = segments.mainsApart && !Number.isNaN(window.mains);
      const predicted = apart ? draws[k]! + fanSeen : particle.offLevel - (fanOn(window) ? 0 : fan) + draws[k]! - solar;
      const spread = spreads[k]!;
      const residual = (predicted - (apart ? window.mains : window.net)) / spread;
      const fresh = (residual - keep * before) / Math.sqrt(1 - keep * keep + OWN_SHARE);
      sum -= 0.5 * fresh * fresh;
      before = residual;
    }
    if (!Number.isNaN(window.cabinC)) {
      const residual = (between(lines.cabin, window) - window.cabinC) / CABIN_OFF;
      const fresh = (residual - keep * beforeCabin) / Math.sqrt(1 - keep * keep + OWN_SHARE);
      sum -= 0.5 * fresh * fresh;
      beforeCabin = residual;
    }
    if (!Number.isNaN(window.volts)) {
      const hours = (window.fromS + window.toS) / 7200;
      const level = Math.min(
        1,
        Math.max(0, particle.startShare - (counted[k]! + particle.zero * hours) / particle.bankAh),
      );
      const predicted =
        openCircuitVoltage(bank, level) -
        window.amps * resistance * particle.resistance +
        particle.voltsOff * CURVE_OFF[bank.chemistry] * cells;
      const r = (predicted - window.volts) / (CURVE_NOISE[bank.chemistry] * cells * pacedVolts);
      sum -= 0.5 * Math.min(40, r * r);
    }
    if (sunRead && window.solar > 15) {
      const r = Math.log(Math.max(5, between(lines.solar, window) * particle.solar) / window.solar) / (0.35 * levels);
      sum -= 0.5 * r * r;
    }
    return sum;
  };
  const logLikelihood = (particle: Particle, floor = -Infinity): number => {
    let sum = 0;
    before = 0;
    beforeCabin = 0;
    pass(
      particle,
      (k) => {
        sum += ofWindow(k, particle);
      },
      () => sum < floor,
    );
    if (sum < floor) return -Infinity;
    if (held) {
      const r = (held.cabinC - heldSetC - particle.setShift) / held.spread;
      sum -= 0.5 * r * r;
    }
    if (shown) {
      let share = 0;
      let lasted = 0;
      for (let k = shown.from; k < count; k++) {
        const { fromS, toS } = windows[k]!;
        share += shares[k]! * (toS - fromS);
        lasted += toS - fromS;
      }
      const r = (share / lasted - shown.share) / shown.spread;
      sum -= 0.5 * r * r;
    }
    return sum;
  };
  return {
    site,
    segments,
    settings,
    steps,
    track,
    drawn,
    counted,
    countedAll: charge[charge.length - 1]!,
    lastS,
    logLikelihood: logLikelihood,
    propagateThrough: carryThrough,
    shares,
    draws,
  };
}
