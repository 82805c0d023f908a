import { openCircuitVoltage } from "../../../models/battery/battery";
import { settledResistance } from "../../../simulation/kernel/battery";
import { LOWEST_SPEED, variablePowerShare } from "../../../models/air-conditioner/air-conditioner";
import {
  propagate,
  startOf,
  trajectoryOf,
  type Particle,
  type ParticleState,
  type Settings,
  type Trajectory,
} from "./particle";
import { heldCabin } from "../segmentation/cabin-seen";
import { type Readings } from "../log/readings";
import type { RunSetting } from "../log/settings-said";
import type { Segments, Window } from "../segmentation/segments";
import type { Site } from "../site/site";
import { countedCharge, shownShare } from "./counted";
import { setSince, settingsOf } from "./settings";

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
/** Steps after which a particle that is already too unlikely is given up. */
const PIECE_STEPS = 16;
/** Volts a cell that a rest curve is off by for one battery, and from reading to reading. */
const CURVE_OFF = { lfp: 0.015, nmc: 0.02, agm: 0.012 } as const;
const CURVE_NOISE = { lfp: 0.02, nmc: 0.015, agm: 0.012 } as const;

/** As Math.hypot, which is ten times as slow for its care with numbers near the ends of the range. */
const rootOfSquares = (a: number, b: number, c = 0): number => Math.sqrt(a * a + b * b + c * c);

export function logOf(site: Site, readings: Readings, segments: Segments, said: readonly RunSetting[] = []): Log {
  return new Explained(site, readings, segments, said);
}

/** Sums of a trajectory from the log's beginning, one more than its steps: a mean between two moments is a difference. */
interface Sums {
  draw: Float64Array;
  share: Float64Array;
  cabin: Float64Array;
  full: Float64Array;
  solar: Float64Array;
}

/** A log held against particles. */
class Explained implements Log {
  readonly settings: Settings;
  readonly steps: number;
  readonly track: Trajectory;
  readonly counted: Float64Array;
  readonly countedAll: number;
  readonly lastS: number;
  readonly shares: Float64Array;
  readonly draws: Float64Array;

  private readonly windows: Window[];
  private readonly sums: Sums;
  /** W of the fan between runs: as the job has it, and as the log shows it. */
  private readonly fan: number;
  private readonly fanSeen: number;
  /** How much of a window's difference is that of the window before. */
  private readonly keeps: number[];
  /** Spread of a variable unit's mean draw, by window. */
  private readonly spreads: number[];
  /** Step by which all that a window needs is carried. */
  private readonly ends: number[];
  private readonly paced: { levels: number; volts: number };
  private readonly sunRead: boolean;
  private readonly resistance: number;
  private readonly held: ReturnType<typeof heldCabin> | null;
  private readonly shown: ReturnType<typeof shownShare>;
  /** Differences of the window before, of draw and of cabin, in spreads. */
  private before = 0;
  private beforeCabin = 0;

  constructor(
    readonly site: Site,
    readings: Readings,
    readonly segments: Segments,
    said: readonly RunSetting[],
  ) {
    const { stepS } = site;
    const { windows, seconds } = segments;
    const count = windows.length;
    this.windows = windows;
    this.lastS = seconds[seconds.length - 1]!;
    this.steps = Math.min(site.steps, Math.max(1, Math.round(this.lastS / stepS)));
    this.settings = settingsOf({ site, readings, segments, logSteps: this.steps }, said);
    this.track = trajectoryOf(site.steps);
    const charge = countedCharge(site, readings, segments);
    this.counted = countedByWindow(segments, charge);
    this.countedAll = charge[charge.length - 1]!;
    this.shares = new Float64Array(count);
    this.draws = new Float64Array(count);
    this.sums = sumsOf(this.steps, site.solar);
    this.fan = site.rest;
    const { fan: fanLevel } = segments.levels;
    this.fanSeen = fanLevel && fanLevel.count >= 3 ? fanLevel.value : this.fan;
    this.keeps = windows.map(({ fromS, toS }, i) => {
      if (i === 0) return 0;
      const before = windows[i - 1]!;
      return Math.exp(-((fromS + toS) / 2 - (before.fromS + before.toS) / 2) / MEMORY_S);
    });
    const voltWindows = windows.filter(({ volts }) => !Number.isNaN(volts)).length;
    this.paced = { levels: Math.sqrt(Math.max(1, count)), volts: Math.sqrt(Math.max(1, voltWindows / 3)) };
    this.sunRead = windows.some(({ solar }) => solar > 15);
    this.resistance = settledResistance(site.system.bank);
    this.spreads = windows.map((window) => this.spreadOf(window));
    this.ends = [];
    for (const { fromS, toS } of windows) {
      const from = Math.min(this.steps, fromS / stepS);
      const end = Math.min(this.steps, Math.floor(Math.max(from + 0.25, toS / stepS)) + 1);
      this.ends.push(Math.max(this.ends.at(-1) ?? 0, end));
    }
    this.held = this.settings.seenC ? heldCabin(segments, setSince(site, said, this.lastS)) : null;
    this.shown = shownShare(site, readings, segments);
  }

  drawn(k: number, particle: Particle): number {
    const { unit } = this.site;
    const window = this.windows[k]!;
    if (!this.ran(window)) return NaN;
    if (unit.fixed) return window.share;
    if (this.mainsTold(window)) return window.mains - this.fanSeen;
    return this.segments.sunApart ? window.net - particle.offLevel : NaN;
  }

  private ran({ toS }: Window): boolean {
    const { firstOnS } = this.segments;
    return firstOnS === null || toS > firstOnS + 1;
  }

  /** Whether the unit's own watts were read in a window. */
  private mainsTold({ mains }: Window): boolean {
    return this.segments.mainsApart && !Number.isNaN(mains);
  }

  /** Mean of a summed line over a window. */
  private mean(line: Float64Array, { fromS, toS }: Window): number {
    const { stepS } = this.site;
    const { steps } = this;
    const a = Math.min(steps, fromS / stepS);
    const b = Math.min(steps, Math.max(a + 0.25, toS / stepS));
    return (sumAt(line, b, steps) - sumAt(line, a, steps)) / Math.max(1e-6, b - a);
  }

  /**
   * What a variable unit's mean draw cannot be told to, by what was read: a spread that went with the particle would favour
   * particles of much draw, or, with its logarithm in the density, particles of little.
   */
  private spreadOf(window: Window): number {
    const { unit, base } = this.site;
    const { sunApart, firstOnS } = this.segments;
    const fullDraw = Math.max(1, unit.power - this.fan);
    const lowest = variablePowerShare(LOWEST_SPEED) * fullDraw;
    const apart = this.mainsTold(window);
    const solar = sunApart ? 0 : this.mean(this.sums.solar, window);
    const seen = apart ? window.mains - this.fanSeen : window.net + solar - base - this.fan;
    const draw = Math.min(1.2 * fullDraw, Math.max(0, seen));
    // Under its lowest speed it cycles, and a window holds some of its cycles only.
    const cycling = window.whole
      ? CYCLES_OFF * Math.sqrt(Math.max(0, draw * (lowest - draw)))
      : (PART_OFF * lowest) / 2;
    const comesUp = firstOnS !== null && window.fromS < firstOnS + COMES_UP_S ? COMES_UP_OFF : 0;
    return rootOfSquares(0.08 * draw + (0.015 + comesUp) * fullDraw + 3, cycling, apart ? 0 : 0.3 * solar);
  }

  propagateThrough(particle: Particle): ParticleState {
    return this.pass(particle, null, () => false);
  }

  /** Carries a particle through the log piece by piece and shows each window as soon as it is passed; stops where told. */
  private pass(particle: Particle, seen: ((k: number) => void) | null, enough: () => boolean): ParticleState {
    const { site, settings, track, sums, steps, windows, ends } = this;
    const state = startOf(particle);
    const inner = { ...particle };
    let k = 0;
    for (let done = 0; done < steps && !enough();) {
      const next = Math.min(steps, done + PIECE_STEPS);
      propagate(site, inner, settings, state, done, next, track);
      for (let i = done; i < next; i++) {
        sums.draw[i + 1] = sums.draw[i]! + track.draw[i]!;
        sums.share[i + 1] = sums.share[i]! + track.share[i]!;
        sums.cabin[i + 1] = sums.cabin[i]! + track.cabinC[i]!;
        sums.full[i + 1] = sums.full[i]! + track.full[i]!;
      }
      for (; k < windows.length && ends[k]! <= next; k++) {
        this.shares[k] = this.mean(sums.share, windows[k]!);
        this.draws[k] = this.mean(sums.draw, windows[k]!);
        seen?.(k);
      }
      done = next;
    }
    return state;
  }

  logLikelihood(particle: Particle, floor = -Infinity): number {
    let sum = 0;
    this.before = 0;
    this.beforeCabin = 0;
    this.pass(
      particle,
      (k) => {
        sum += this.ofWindow(k, particle);
      },
      () => sum < floor,
    );
    if (sum < floor) return -Infinity;
    if (this.held) {
      const heldSetC = this.settings.setC[this.steps - 1]!;
      sum += gaussian((this.held.cabinC - heldSetC - particle.setShift) / this.held.spread);
    }
    return sum + this.ofShownShare();
  }

  /** Log-likelihood of one window after those before it: never above zero, on which stopping early rests. */
  private ofWindow(k: number, particle: Particle): number {
    const window = this.windows[k]!;
    const solar = this.segments.sunApart ? 0 : this.mean(this.sums.solar, window) * particle.solar;
    let sum = this.site.unit.fixed ? this.ofFixed(k, particle, solar) : this.ofVariable(k, particle, solar);
    if (!Number.isNaN(window.cabinC)) sum += this.ofCabin(k);
    if (!Number.isNaN(window.volts)) sum += this.ofVolts(k, particle);
    if (this.sunRead && window.solar > 15) {
      const given = Math.max(5, this.mean(this.sums.solar, window) * particle.solar);
      sum += gaussian(Math.log(given / window.solar) / (0.35 * this.paced.levels));
    }
    return sum;
  }

  /** Of a fixed-speed unit: its share of running, and its two levels. */
  private ofFixed(k: number, particle: Particle, solar: number): number {
    const window = this.windows[k]!;
    const { levels } = this.paced;
    let sum = 0;
    if (this.ran(window)) {
      const spread = Math.sqrt(
        window.shareSpread ** 2 + SHARE_LEAST ** 2 + (SHARE_OFF * Math.min(window.share, 1 - 0.5 * window.share)) ** 2,
      );
      sum += this.ofDraw(k, (this.shares[k]! - window.share) / spread);
      if (!Number.isNaN(window.on)) {
        const full = this.mean(this.sums.full, window);
        const off = particle.offLevel + full - solar - window.on;
        sum += gaussian(off / (rootOfSquares(0.02 * full, 0.3 * solar) * levels));
      }
    }
    if (!Number.isNaN(window.off)) {
      const off = particle.offLevel - this.fanOff(window) - solar - window.off;
      sum += gaussian(off / (rootOfSquares(0.08 * particle.offLevel + 3, 0.3 * solar) * levels));
    }
    return sum;
  }

  /** Of a variable unit: its mean draw. Its mains watts, where they were read, say it whatever the house and the sun do. */
  private ofVariable(k: number, particle: Particle, solar: number): number {
    const window = this.windows[k]!;
    const apart = this.mainsTold(window);
    const predicted = apart
      ? this.draws[k]! + this.fanSeen
      : particle.offLevel - this.fanOff(window) + this.draws[k]! - solar;
    return this.ofDraw(k, (predicted - (apart ? window.mains : window.net)) / this.spreads[k]!);
  }

  /** W of the fan where it stands in a window: before the first run it does, but where it was seen to turn. */
  private fanOff(window: Window): number {
    return this.segments.restedFirst || this.ran(window) ? 0 : this.fan;
  }

  /** A difference of draw in spreads: what it has beyond that of the window before. */
  private ofDraw(k: number, residual: number): number {
    const keep = this.keeps[k]!;
    const fresh = (residual - keep * this.before) / Math.sqrt(1 - keep * keep + OWN_SHARE);
    this.before = residual;
    return gaussian(fresh);
  }

  private ofCabin(k: number): number {
    const window = this.windows[k]!;
    const keep = this.keeps[k]!;
    const residual = (this.mean(this.sums.cabin, window) - window.cabinC) / CABIN_OFF;
    const fresh = (residual - keep * this.beforeCabin) / Math.sqrt(1 - keep * keep + OWN_SHARE);
    this.beforeCabin = residual;
    return gaussian(fresh);
  }

  private ofVolts(k: number, particle: Particle): number {
    const { bank } = this.site.system;
    const window = this.windows[k]!;
    const cells = bank.cellsInSeries;
    const hours = (window.fromS + window.toS) / 7200;
    const out = (this.counted[k]! + particle.zero * hours) / particle.bankAh;
    const level = Math.min(1, Math.max(0, particle.startSoc - out));
    const predicted =
      openCircuitVoltage(bank, level) -
      window.amps * this.resistance * particle.resistance +
      particle.voltsOff * CURVE_OFF[bank.chemistry] * cells;
    const r = (predicted - window.volts) / (CURVE_NOISE[bank.chemistry] * cells * this.paced.volts);
    return -0.5 * Math.min(40, r * r);
  }

  /** Of the share of running that the monitor's own count shows, where readings are too far apart for their cycles. */
  private ofShownShare(): number {
    const { shown, windows, shares } = this;
    if (!shown) return 0;
    let share = 0;
    let lasted = 0;
    for (let k = shown.from; k < windows.length; k++) {
      const { fromS, toS } = windows[k]!;
      share += shares[k]! * (toS - fromS);
      lasted += toS - fromS;
    }
    return gaussian((share / lasted - shown.share) / shown.spread);
  }
}

/** Logarithm of a normal density over its highest, of a difference in spreads. */
const gaussian = (residual: number): number => -0.5 * residual * residual;

function sumAt(line: Float64Array, x: number, steps: number): number {
  const i = Math.min(steps - 1, Math.floor(x));
  return line[i]! + (line[i + 1]! - line[i]!) * (x - i);
}

function sumsOf(steps: number, sun: ArrayLike<number>): Sums {
  const line = () => new Float64Array(steps + 1);
  const solar = line();
  for (let i = 0; i < steps; i++) solar[i + 1] = solar[i]! + sun[i]!;
  return { draw: line(), share: line(), cabin: line(), full: line(), solar };
}

/** A h out by the middle of each window. */
function countedByWindow({ windows, seconds }: Segments, charge: Float64Array): Float64Array {
  let k = 0;
  return Float64Array.from(windows, ({ fromS, toS }) => {
    while (k < seconds.length - 1 && seconds[k]! < (fromS + toS) / 2) k++;
    return charge[k]!;
  });
}
