import { quantileSorted } from "d3-array";
import { constantPower } from "../../../models/battery/under-load";
import {
  batteryOf,
  countedCurrent,
  openCircuitAt,
  restedCurrent,
  settledResistance,
} from "../../../simulation/kernel/battery";
import { seeded, type Random } from "../../../units/random";
import {
  propagate,
  DIMENSIONS,
  trajectoryOf,
  type Particle,
  type ParticleState,
  type Settings,
  type Trajectory,
} from "./particle";
import { ampHoursBetween, priorOf, type Prior } from "./prior";
import { has, type Readings } from "../log/readings";
import type { RunSetting } from "../log/settings-said";
import { sample, type Population } from "./sampler";
import { segment } from "../segmentation/segment";
import type { Segments } from "../segmentation/segments";
import { siteOf, type Site } from "../site/site";
import { logOf, type Log } from "./likelihood";
import { NOTHING_SAID, type RunConditions } from "../site/conditions";
import type { Job } from "../../../document/schema";

export interface Quantiles {
  p10: number | null;
  p50: number | null;
  p90: number | null;
}

/** A fan of state of charge ahead, at even steps from the log's last moment. */
export interface Fan {
  stepS: number;
  /** Seconds from the first reading. */
  fromS: number;
  p10: Float64Array;
  p25: Float64Array;
  p50: Float64Array;
  p75: Float64Array;
  p90: Float64Array;
  /** Mean share of the compressor ahead. */
  share: Float64Array;
}

export interface Forecast {
  /** Hours from the log's last moment; null where it is more than two days off. */
  hoursToReserve: Quantiles;
  hoursToCutoff: Quantiles;
  /** The same to the reserve as a monitor counts it that goes by Peukert; null where the battery has no such loss. */
  hoursByPeukert: Quantiles | null;
  /** Hours of each particle to the reserve, in the population's order; Infinity where none comes. */
  reserveHours: number[];
  /**
   * W out of the battery for house and unit, W of its panels, and the cabin, degC, by step from the log's end: means over the
   * particles.
   */
  means: { draw: Float64Array; solar: Float64Array; cabinC: Float64Array };
  fan: Fan;
  /** State of charge now, as counted: median and spread over the particles. */
  socNow: Quantiles;
  /** Mean W that the particles draw from the battery over the next hour and until the reserve. */
  wattsNextHour: number;
  population: Population;
}

/** A change to the rest of a run. */
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

export interface ForecastCall {
  particles?: number;
  seed?: number;
  from?: Population | null;
  progress?(done: number): boolean | void;
}

/** What a log and its system come to before the sampler: kept while only the seed or the what-if changes. */
export interface TestRun {
  site: Site;
  readings: Readings;
  segments: Segments;
  log: Log;
  prior: Prior;
  /** How the unit was said to be set, in order of time. */
  said: readonly RunSetting[];
}

/** Streams of chance between two seeds: more than a population has particles. */
const STREAMS = 100_003;
const HORIZON_S = 48 * 3600;
/** A particle is carried on by pieces this long. */
const PIECE_S = 3 * 3600;
export const USUAL_PARTICLES = 500;

/** Prepares a repaired log of two readings or more for forecasts. */
export function testRunOf(
  job: Job,
  readings: Readings,
  conditions: RunConditions = NOTHING_SAID,
  said: readonly RunSetting[] = [],
): TestRun {
  const { timeMs } = readings;
  const lasted = (timeMs[timeMs.length - 1]! - timeMs[0]!) / 1000;
  // Longer logs go by longer steps: the sampler's time grows with steps, not with hours.
  const stepS = lasted > 30 * 3600 ? 600 : lasted > 10 * 3600 ? 300 : lasted > 5 * 3600 ? 240 : 120;
  const site = siteOf(job, { startMs: timeMs[0]!, seconds: lasted + HORIZON_S, stepS, conditions });
  const segments = segment(readings, site);
  const setSaid = said.some(({ setC }) => setC !== null);
  return {
    site,
    readings,
    segments,
    log: logOf(site, readings, segments, said),
    prior: priorOf(site, readings, segments, setSaid),
    said,
  };
}

/** Samples what the log leaves open. Null where it was stopped. */
export function fit(
  { log, prior }: TestRun,
  {
    particles = USUAL_PARTICLES,
    seed = 1,
    from,
    progress,
    ...rest
  }: ForecastCall & { rounds?: number; lastRounds?: number } = {},
) {
  return sample({
    count: particles,
    dimensions: DIMENSIONS,
    seed,
    from: from ?? null,
    logLikelihood: (z, at, floor) => log.logLikelihood(prior.particle(z, at), floor),
    ...rest,
    ...(progress ? { progress } : {}),
  });
}

/**
 * Model error that stays for the rest of a run, and that comes and goes: of the heat to be taken out, logarithmic. A
 * variable unit's control and part load differ more from maker to maker than a thermostat does.
 */
const STAYS = { fixed: 0.08, variable: 0.1 } as const;
const COMES = 0.1;
const COMES_S = 2 * 3600;
/**
 * Model error beside it of what the log has not seen yet: the sun where it lies in the dark, the dark where it lies in the
 * sun, and how a unit holds its set point where it never came to it. Measured cooling loads of light buildings are met that well
 * by models that were fitted in other conditions (common practice, no source).
 */
const UNSEEN = 0.12;
/** W on the skin from which a step counts as sunny, and s of such steps after which it has been seen. */
const SUNNY_W = 20;
const SEEN_S = 900;
/** Share of running from which a unit gives all it has. */
const ALL_IT_HAS = 0.97;
/** What the last windows drew over what a particle has there goes on this long, s. */
const FORGETS_S = 5 * 3600;
/** Of house loads that nobody told of, as a share of the off level. */
const HOUSE = 0.22;
/**
 * Most of what a high draw costs lead-acid that a rest of some hours does not give back: charge diffuses back from the bound
 * part of the plates over many hours (the kinetic battery model of Manwell and McGowan 1993; share from memory).
 */
const NOT_BACK = 0.6;
/** Hours in which they come or go. */
const HOUSE_SETTLES_S = 2 * 3600;
/** Sky: kept for an hour, then back to its day's mean, which is wide about the usual and narrowed by what the log has seen. */
const SKY_KEPT_S = 3600;
const SKY_DAY = 0.27;
const SKY_HOUR = 0.35;

/** Stretch of the log that says how the day's sky is, s. */
const SKY_LOG_S = 3 * 3600;

/** A particle at its log's end, and what the last windows drew over its own prediction (`recentResidual`). */
interface End {
  particle: Particle;
  state: ParticleState;
  residual: number;
}

/** Ends of the population that was last carried through a log: what-ifs differ only in what comes after it. */
const endsKept = new WeakMap<Log, { population: Population; ends: End[] }>();

function endsOf({ log, prior }: TestRun, population: Population): End[] {
  const kept = endsKept.get(log);
  if (kept?.population === population) return kept.ends;
  const ends = Array.from({ length: population.count }, (_, n) => {
    const particle = prior.particle(population.z, n * DIMENSIONS);
    return { particle: particle, state: log.propagateThrough(particle), residual: recentResidual(log, particle) };
  });
  endsKept.set(log, { population, ends });
  return ends;
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

/** Carries a population on from the end of its log to the reserve and the cut-off. */
export function ahead(
  testRun: TestRun,
  population: Population,
  { whatIf = {}, seed = 1, toReserve = false, untilS = Infinity }: Onward = {},
): Forecast {
  const run = new RunAhead(testRun, whatIf, { toReserve, untilS });
  const { site, log } = testRun;
  const { count } = population;
  const fanSteps = site.steps - log.steps;
  const gathered: Gathered = {
    shares: new Float32Array(count * fanSteps),
    running: new Float64Array(fanSteps),
    draw: new Float64Array(fanSteps),
    solar: new Float64Array(fanSteps),
    cabinC: new Float64Array(fanSteps),
    living: new Float64Array(fanSteps),
    count,
    nextHour: 0,
  };
  const outcomes = endsOf(testRun, population).map((end, n) => {
    // A stream of its own, so that what-ifs differ by what is asked and not by luck, however far each goes.
    const random = seeded(seed * STREAMS + n);
    return run.follow(end, new Weathering(run, end, random), gathered, n * fanSteps);
  });
  return {
    hoursToReserve: quantilesOf(outcomes.map(({ reserveS }) => reserveS / 3600)),
    hoursToCutoff: quantilesOf(outcomes.map(({ cutS }) => Math.max(cutS, 0) / 3600)),
    hoursByPeukert: site.system.bank.peukert > 1 ? quantilesOf(outcomes.map(({ peukertS }) => peukertS / 3600)) : null,
    reserveHours: outcomes.map(({ reserveS }) => reserveS / 3600),
    means: meansOf(gathered),
    fan: fanOf(gathered, site.stepS, log.steps * site.stepS),
    socNow: quantilesOf(outcomes.map(({ socNow }) => socNow)),
    wattsNextHour: gathered.nextHour,
    population,
  };
}

/** What all particles of a forecast fill together. */
interface Gathered {
  /** State of charge after each step, particle by particle. */
  shares: Float32Array;
  /** Mean share of running by step. */
  running: Float64Array;
  /** Sums of W drawn, of W of the sun and of the cabin's degC by step, over the particles that were carried so far, and their number. */
  draw: Float64Array;
  solar: Float64Array;
  cabinC: Float64Array;
  living: Float64Array;
  count: number;
  /** Mean W of the next hour. */
  nextHour: number;
}

/** Seconds to the reserve and to the cut-off, Infinity where neither comes; state of charge at the log's end. */
interface Outcome {
  reserveS: number;
  cutS: number;
  /** Seconds to the reserve as Peukert counts it. */
  peukertS: number;
  socNow: number;
}

/** What every particle of a forecast meets alike. */
class RunAhead {
  readonly site: Site;
  readonly log: Log;
  readonly settings: Settings;
  readonly load: Float64Array;
  readonly skies: Float64Array;
  /** Sun of the log's last minutes, and of its last hours, over that of a usual day; NaN where it was not read. */
  readonly sunNow: number;
  readonly sunOfLog: number;
  /** Whether the log has the sun's watts. */
  readonly sunSeen: boolean;
  /** Whether the log lies in the sun for a while, in the dark, and whether the unit came to its set point in it. */
  readonly seen: { sun: boolean; dark: boolean; rest: boolean };
  private readonly track: Trajectory;
  private readonly fanWatts: number;
  private readonly battery: ReturnType<typeof batteryOf>;
  private readonly settledOhm: number;

  constructor(
    { site, log, segments, readings }: TestRun,
    whatIf: WhatIf,
    private readonly end: { toReserve: boolean; untilS: number },
  ) {
    const { bank, wiring } = site.system;
    this.site = site;
    this.log = log;
    this.settings = changed(log.settings, whatIf, site, log.steps);
    this.load = new Float64Array(site.steps).fill(1);
    this.skies = new Float64Array(site.steps).fill(1);
    this.sunSeen = has(readings, "solar_power_w");
    const sunny = site.skinSun.subarray(0, log.steps).filter((watts) => watts > SUNNY_W).length * site.stepS;
    this.seen = {
      sun: sunny >= SEEN_S,
      dark: log.steps * site.stepS - sunny >= SEEN_S,
      rest: segments.pullDown !== null && segments.pullDown.toS !== null,
    };
    this.sunNow = sunSince(site, readings, segments, 2400);
    this.sunOfLog = sunSince(site, readings, segments, SKY_LOG_S);
    this.track = trajectoryOf(site.steps);
    this.fanWatts = site.rest;
    this.battery = batteryOf(bank, {
      lithium: site.run.lithium,
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
        propagate(site, particle, this.settings, state, i, carried, track, this.load);
      }
      const base = this.baseAt(i, particle, weathering.house);
      const solar = site.solar[i]! * particle.solar * this.skies[i]!;
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

/** What one particle meets by chance: model error, the sky, and house loads that nobody told of. */
class Weathering {
  /** W of house loads that come or go. */
  readonly house: number;
  /** Share of what Peukert counts beside the amp-hours that a rest of some hours does not give back. */
  readonly notBack: number;
  private readonly stays: number;
  private readonly otherHalf: number;
  private comes: number;
  private readonly skyMean: number;
  private sky: number;
  private readonly residual: number;
  private readonly particle: Particle;

  constructor(
    private readonly run: RunAhead,
    { particle, residual }: End,
    private readonly random: Random,
  ) {
    const { site, log, sunNow, sunOfLog } = run;
    this.particle = particle;
    this.residual = Number.isNaN(residual) ? 0 : residual;
    const stays = STAYS[site.unit.fixed ? "fixed" : "variable"];
    this.stays = Math.hypot(stays, run.seen.rest ? 0 : UNSEEN) * random.normal();
    this.otherHalf = UNSEEN * random.normal();
    this.comes = COMES * random.normal() * 0.6;
    const seenH = Math.min(log.lastS, SKY_LOG_S) / 3600;
    // Of the log's sun over the usual day's, the part that is the day's and not the hour's.
    const seen = !Number.isNaN(sunOfLog);
    const trust = seen ? SKY_DAY ** 2 / (SKY_DAY ** 2 + SKY_HOUR ** 2 / (1 + seenH)) : 0;
    const seenDay = seen ? Math.log(Math.max(0.1, sunOfLog / Math.max(0.3, particle.solar))) : 0;
    const dayOff = trust * seenDay + SKY_DAY * Math.sqrt(1 - trust) * random.normal();
    this.skyMean = Math.max(0.15, Math.exp(dayOff - 0.03));
    // The sky of the last hour over a usual day's, as this particle's panels make of it.
    this.sky = Number.isNaN(sunNow) ? this.skyMean : sunNow / Math.max(0.3, particle.solar);
    this.house = particle.offLevel * HOUSE * random.normal();
    this.notBack = site.system.bank.peukert > 1 ? NOT_BACK * random.even() : 0;
  }

  /** Fills the run's load and sky from one step to before another. */
  fill(begin: number, end: number): void {
    const { site, log, settings, load, skies, sunSeen, seen } = this.run;
    const { stepS } = site;
    const kept = Math.exp(-stepS / COMES_S);
    const fresh = Math.sqrt(1 - kept * kept);
    const skyKept = Math.exp(-stepS / SKY_KEPT_S);
    for (let i = begin; i < end; i++) {
      const aheadS = (i - log.steps) * stepS;
      const forgotten = Math.exp(-aheadS / FORGETS_S);
      const known = site.skinSun[i]! > SUNNY_W ? seen.sun : seen.dark;
      const off = this.stays + this.comes + (known ? 0 : this.otherHalf);
      load[i] = Math.exp(this.residual * forgotten + off * Math.min(1, aheadS / 1800));
      this.comes = kept * this.comes + COMES * fresh * this.random.normal();
      skies[i] = Math.min(1.4, this.sky);
      // A particle's sun is fitted to the sky as it was read, its panels' factor in it.
      settings.sky[i] = sunSeen ? Math.min(1.4, this.sky * this.particle.solar) : 1;
      this.sky = this.skyMean + (this.sky - this.skyMean) * skyKept;
    }
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

function lastRead(line: Float64Array): number {
  for (let i = line.length - 1; i >= 0; i--) if (!Number.isNaN(line[i]!)) return line[i]!;
  return NaN;
}

/** Sun of the log's last stretch over that of a usual day; NaN where it was not read or there was none. */
function sunSince(site: Site, readings: Readings, { seconds }: Segments, lastedS: number): number {
  if (!has(readings, "solar_power_w")) return NaN;
  const line = readings.values.solar_power_w;
  const end = seconds[seconds.length - 1]!;
  let read = 0;
  let usual = 0;
  for (let i = 0; i < line.length; i++) {
    if (Number.isNaN(line[i]!) || end - seconds[i]! > lastedS) continue;
    read += line[i]!;
    usual += site.solar[Math.min(site.steps - 1, Math.floor(seconds[i]! / site.stepS))]!;
  }
  return usual > 1 ? read / usual : NaN;
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

/** The tenth, middle and ninetieth of a hundred; null where that is beyond the horizon. */
export function quantilesOf(values: readonly number[]): Quantiles {
  const sorted = [...values].sort((a, b) => a - b);
  const at = (share: number) => {
    const value = quantileSorted(sorted, share);
    return value !== undefined && Number.isFinite(value) ? value : null;
  };
  return { p10: at(0.1), p50: at(0.5), p90: at(0.9) };
}

function meansOf({ draw, solar, cabinC, living }: Gathered): Forecast["means"] {
  const mean = (line: Float64Array) => line.map((sum, i) => (living[i]! > 0 ? sum / living[i]! : 0));
  return { draw: mean(draw), solar: mean(solar), cabinC: mean(cabinC) };
}

/** The fan of the particles' states of charge. */
function fanOf({ shares, running, count }: Gathered, stepS: number, fromS: number): Fan {
  const steps = running.length;
  // One point in five minutes is enough for a fan.
  const stride = Math.max(1, Math.round(300 / stepS));
  const points = Math.floor((steps - 1) / stride) + 1;
  const line = () => new Float64Array(points);
  const fan: Fan = {
    stepS: stride * stepS,
    fromS,
    p10: line(),
    p25: line(),
    p50: line(),
    p75: line(),
    p90: line(),
    share: line(),
  };
  const column = new Float32Array(count);
  for (let p = 0; p < points; p++) {
    for (let n = 0; n < count; n++) column[n] = shares[n * steps + p * stride]!;
    column.sort();
    const at = (q: number) => column[Math.round(q * (count - 1))]!;
    fan.p10[p] = at(0.1);
    fan.p25[p] = at(0.25);
    fan.p50[p] = at(0.5);
    fan.p75[p] = at(0.75);
    fan.p90[p] = at(0.9);
    fan.share[p] = running[p * stride]!;
  }
  return fan;
}

/** The three answers a hand gives: hours to the reserve by the amps now, by the average so far, by the last half hour. */
export interface HandAnswers {
  now: number | null;
  average: number | null;
  halfHour: number | null;
  /** What they divide: A h down to the reserve by the plate, from the charge shown. */
  ampHours: number;
}

export function handAnswers({
  site,
  readings,
  segments,
}: Pick<TestRun, "site" | "readings" | "segments">): HandAnswers {
  const { bank } = site.system;
  const count = readings.timeMs.length;
  const end = count - 1;
  const soc = lastRead(readings.values.soc_pct);
  const counted = ampHoursBetween(readings, 0, end);
  const level = Number.isNaN(soc) ? bank.startSoc - counted / bank.capacityAh : soc / 100;
  const ampHours = Math.max(0, (level - bank.reserveSoc) * bank.capacityAh);
  const over = (amps: number) => (amps > 0.01 ? ampHours / amps : null);
  const lasted = segments.seconds[end]! / 3600;
  let from = end;
  while (from > 0 && segments.seconds[end]! - segments.seconds[from - 1]! <= 1800) from--;
  const half = (segments.seconds[end]! - segments.seconds[from]!) / 3600;
  return {
    now: over(-readings.values.battery_current_a[end]!),
    average: lasted > 0 ? over(counted / lasted) : null,
    halfHour: half > 0 ? over(ampHoursBetween(readings, from, end) / half) : null,
    ampHours,
  };
}
