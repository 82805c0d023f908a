import { constantPower } from "../../../models/battery/under-load";
import {
  batteryOf,
  countedCurrent,
  openCircuitAt,
  restedCurrent,
  settledResistance,
} from "../../../simulation/kernel/battery";
import type { Site } from "../site/site";
import type { Gathered } from "./fan";
import type { Log } from "./likelihood";
import { DIMENSIONS, propagate, trajectoryOf, type Particle, type Settings, type Trajectory } from "./particle";
import type { Population } from "./sampler";
import type { TestRun } from "./test-run";
import { chancesOf, type Chances, type End, type Weathering } from "./weathering";

/*
 * A population carried on from the end of its log, particle by particle, to the reserve and the cut-off.
 */

/** A change to the rest of a test run. */
export interface WhatIf {
  /** K on the set point. */
  setShift?: number;
  /** The set point itself, degC. */
  setC?: number;
  fan?: "low" | "medium" | "auto";
  /** Unit off, or on its fan alone, from so many seconds of the log on. */
  offFromS?: number;
  fanFromS?: number;
}

/** How a population is carried on from the end of its log. */
export interface Onward {
  whatIf?: WhatIf;
  seed?: number;
  /** No further than the reserve: the cut-off is not asked for. */
  toReserve?: boolean;
  /** No further than this second of the log. */
  untilS?: number;
}

/** A particle is carried on by pieces this long. */
const PIECE_S = 3 * 3600;
/** Share of running from which a unit gives all it has. */
const ALL_IT_HAS = 0.97;
/** Hours in which they come or go. */
const HOUSE_SETTLES_S = 2 * 3600;

/** Ends of the population that was last carried through a log: what-ifs differ only in what comes after it. */
const endsKept = new WeakMap<Log, { population: Population; ends: End[] }>();

export function endsOf({ log, prior }: TestRun, population: Population): End[] {
  const kept = endsKept.get(log);
  if (kept?.population === population) return kept.ends;
  const ends = Array.from({ length: population.count }, (_, n) => {
    const particle = prior.particle(population.z, n * DIMENSIONS);
    return { particle: particle, state: log.propagateThrough(particle), residual: recentResidual(log, particle) };
  });
  endsKept.set(log, { population, ends });
  return ends;
}

/** Seconds to the reserve and to the cut-off, Infinity where neither comes; state of charge at the log's end. */
export interface Outcome {
  reserveS: number;
  cutS: number;
  /** Seconds to the reserve as Peukert counts it. */
  peukertS: number;
  socNow: number;
}

/** What every particle of a forecast meets alike on its way from the end of the log. */
export class Propagation {
  readonly chances: Chances;
  private readonly site: Site;
  private readonly log: Log;
  private readonly settings: Settings;
  private readonly track: Trajectory;
  private readonly fanWatts: number;
  private readonly battery: ReturnType<typeof batteryOf>;
  private readonly settledOhm: number;

  constructor(
    testRun: TestRun,
    whatIf: WhatIf,
    private readonly end: { toReserve: boolean; untilS: number },
  ) {
    const { site, log } = testRun;
    const { bank, wiring } = site.system;
    this.site = site;
    this.log = log;
    this.settings = changed(log.settings, whatIf, site, log.steps);
    this.chances = chancesOf(testRun, this.settings);
    this.track = trajectoryOf(site.steps);
    this.fanWatts = site.rest;
    this.battery = batteryOf(bank, {
      lithium: site.parameters.lithium,
      pathResistance: wiring.resistance,
      bulkCurrent: Infinity,
    });
    this.settledOhm = settledResistance(bank);
  }

  /** Follows one particle from the log's end; its states of charge go into `gathered` from `at` on. */
  follow(end: End, weathering: Weathering, gathered: Gathered, at: number): Outcome {
    const { site, log, track } = this;
    const { particle } = end;
    const { steps, stepS } = site;
    const { bank } = site.system;
    const state = { ...end.state };
    const from = log.steps;
    // The log's end may lie inside a step: the first step ahead is that much shorter or longer.
    const slip = from * stepS - log.lastS;
    const socNow = particle.startSoc - (log.countedAll + (particle.zero * log.lastS) / 3600) / particle.bankAh;
    let s = socNow;
    let reserveS = Infinity;
    let cutS = Infinity;
    // What Peukert counts as used and a rest gives back: it ends the supply, and stands for a monitor's count.
    let lostShare = 0;
    let peukertS = Infinity;
    let carried = from;
    let last = steps;
    for (let i = from; i < steps; i++) {
      if (i === carried) {
        // Carried on by the piece: most particles are at their end long before the horizon.
        carried = Math.min(steps, i + Math.ceil(PIECE_S / stepS));
        weathering.fill(i, carried);
        propagate(site, particle, this.settings, state, i, carried, track, this.chances.load);
      }
      const base = this.baseAt(i, particle, weathering.house);
      const solar = site.solar[i]! * particle.solar * this.chances.skies[i]!;
      const openVolts = openCircuitAt(this.battery, Math.min(1, Math.max(0, s)));
      const h = i === from ? Math.max(0, stepS + slip) : stepS;
      const startedS = i === from ? 0 : (i - from) * stepS + slip;
      const out = this.takenAt(i, base, solar, openVolts);
      const lost = this.countedAt(i, base, solar, openVolts) - out;
      const next = Math.min(1, s - ((out + weathering.notBack * lost) * h) / 3600 / particle.bankAh);
      lostShare += ((1 - weathering.notBack) * lost * h) / 3600 / particle.bankAh;
      if (peukertS === Infinity && next - lostShare <= bank.reserveSoc) peukertS = startedS + h;
      if (reserveS === Infinity && next <= bank.reserveSoc)
        reserveS = s <= bank.reserveSoc ? startedS : startedS + (h * (s - bank.reserveSoc)) / (s - next);
      s = next;
      if (cutS === Infinity && (s - lostShare <= 0 || this.cutsOffAt(i, base - solar, openVolts, particle)))
        cutS = startedS + h;
      gathered.shares[at + (i - from)] = s;
      gathered.running[i - from]! += track.share[i]! / gathered.count;
      gathered.draw[i - from]! += base + track.draw[i]!;
      gathered.solar[i - from]! += solar;
      gathered.cabinC[i - from]! += track.cabinC[i]!;
      gathered.living[i - from]!++;
      if ((i - from) * stepS < 3600)
        gathered.nextHour += ((base + track.draw[i]! - solar) * stepS) / 3600 / gathered.count;
      const answered = reserveS < Infinity && (this.end.toReserve || (cutS < Infinity && peukertS < Infinity));
      if (answered || (i + 1) * stepS > this.end.untilS) {
        last = i + 1;
        break;
      }
    }
    for (let i = last; i < steps; i++) gathered.shares[at + (i - from)] = s;
    return { reserveS: Math.min(reserveS, cutS), cutS, peukertS, socNow };
  }

  /** W at the battery beside the running compressor; `house` W that come or go with what nobody told of. */
  private baseAt(i: number, particle: Particle, house: number): number {
    const { site, settings, fanWatts } = this;
    const settled = 1 - Math.exp(-((i - this.log.steps) * site.stepS) / HOUSE_SETTLES_S);
    const unitOff = settings.mode[i] === 0 ? fanWatts : 0;
    const onlyFan = settings.mode[i] === 1 && fanWatts === 0 ? site.unit.fan : 0;
    return Math.max(0, particle.offLevel - unitOff + onlyFan + house * settled + site.planLoad[i]!);
  }

  /** A by which the charge falls over a step, as a rested battery shows it. */
  private takenAt(i: number, base: number, solar: number, openVolts: number): number {
    const { current } = constantPower(openVolts, this.settledOhm, base + this.track.draw[i]! - solar);
    return restedCurrent(this.battery.efficiency, current);
  }

  /** A that count against the capacity over a step, by Peukert. */
  private countedAt(i: number, base: number, solar: number, openVolts: number): number {
    const { site, track, battery } = this;
    const { bank } = site.system;
    const counted = (amps: number) => countedCurrent(bank, battery.efficiency, amps);
    const { current, voltage } = constantPower(openVolts, this.settledOhm, base + track.draw[i]! - solar);
    if (current <= 0 || bank.peukert === 1 || !site.unit.fixed) return counted(current);
    // Peukert goes by the current of the moment: that of the runs and that of the rests.
    const share = track.share[i]!;
    const onAmps = Math.max(0, (base + track.full[i]! - solar) / voltage);
    const offAmps = Math.max(0, (base - solar) / voltage);
    return share * counted(onAmps) + (1 - share) * counted(offAmps);
  }

  /** Whether the volts fall to a cut-off while the compressor runs; `beside` W are drawn beside it. */
  private cutsOffAt(i: number, beside: number, openVolts: number, particle: Particle): boolean {
    const { site, track } = this;
    const { bank, wiring } = site.system;
    const { cutOffs } = site.unit;
    const running = site.unit.fixed ? (track.share[i]! > 0.02 ? track.full[i]! : 0) : track.draw[i]!;
    const ohm = this.settledOhm + bank.innerResistance * (particle.resistance - 1);
    const { current, voltage } = constantPower(openVolts, ohm, Math.max(0, beside + running));
    const far = voltage - Math.max(0, current) * wiring.resistance;
    const off = far < cutOffs.far || voltage < cutOffs.atBattery;
    return voltage < bank.stopVoltage || (running > 0 && off);
  }
}

/** Log of what the last windows drew over what the particle has there: how the next hours begin. NaN where none says it. */
function recentResidual(log: Log, particle: Particle): number {
  const { segments, shares, draws, lastS, site } = log;
  let sum = 0;
  let weight = 0;
  segments.windows.forEach((window, k) => {
    const read = log.drawn(k, particle);
    if (Number.isNaN(read)) return;
    const predicted = site.unit.fixed ? shares[k]! : draws[k]!;
    // A unit that gives all it has shows no more than that the load is no smaller.
    if (site.unit.fixed && (read > ALL_IT_HAS || predicted > ALL_IT_HAS)) return;
    const least = site.unit.fixed ? 0.05 : 0.03 * site.unit.power;
    const r = Math.log(Math.max(least, read) / Math.max(least, predicted));
    const w = Math.exp(-(lastS - window.toS) / 2700) * (window.toS - window.fromS);
    sum += w * Math.max(-0.6, Math.min(0.6, r));
    weight += w;
  });
  return weight === 0 ? NaN : sum / weight;
}

function changed(settings: Settings, whatIf: WhatIf, { stepS }: Site, from: number): Settings {
  const { setShift, setC, fan, offFromS, fanFromS } = whatIf;
  const mode = Int8Array.from(settings.mode);
  const set = Float64Array.from(settings.setC);
  const modes = { low: 2, medium: 3, auto: 4 } as const;
  for (let i = from; i < mode.length; i++) {
    const s = i * stepS;
    if (setC !== undefined) set[i] = setC;
    set[i] = set[i]! + (setShift ?? 0);
    if (fan && mode[i]! >= 2) mode[i] = modes[fan];
    if (fanFromS !== undefined && s >= fanFromS) mode[i] = 1;
    if (offFromS !== undefined && s >= offFromS) mode[i] = 0;
  }
  return { ...settings, mode, setC: set, sky: Float64Array.from(settings.sky) };
}
