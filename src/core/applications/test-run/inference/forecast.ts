import { constantPower } from "../../../models/battery/under-load";
import { batteryOf, countedCurrent, openCircuitAt, settledResistance } from "../../../simulation/kernel/battery";
import { seeded } from "../../../units/random";
import { propagate, DIMENSIONS, trajectoryOf, type Particle, type ParticleState, type Settings } from "./particle";
import { ampHoursBetween, priorOf, type Prior } from "./prior";
import { has, type Readings } from "../log/readings";
import { sample, type Population } from "./sampler";
import { segment } from "../segmentation/segment";
import type { Segments } from "../segmentation/segments";
import { siteOf, type Site } from "../site/site";
import { logOf, type Log } from "./likelihood";

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
  fan: Fan;
  /** State of charge now, as counted: median and spread over the particles. */
  shareNow: Quantiles;
  /** Mean W that the particles draw from the bank over the next hour and until the reserve. */
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

/** What a log and its rig come to before the sampler: kept while only the seed or the what-if changes. */
export interface Trial {
  site: Site;
  readings: Readings;
  segments: Segments;
  log: Log;
  prior: Prior;
}

/** Streams of chance between two seeds: more than a population has particles. */
const STREAMS = 100_003;
const HORIZON_S = 48 * 3600;
/** A particle is carried on by pieces this long. */
const PIECE_S = 3 * 3600;
export const USUAL_PARTICLES = 500;

/** Prepares a repaired log of two readings or more for forecasts. */
export function trialOf(rig: Parameters<typeof siteOf>[0], readings: Readings): Trial {
  const { timeMs } = readings;
  const lasted = (timeMs[timeMs.length - 1]! - timeMs[0]!) / 1000;
  // Longer logs go by longer steps: the sampler's time grows with steps, not with hours.
  const stepS = lasted > 30 * 3600 ? 600 : lasted > 10 * 3600 ? 300 : lasted > 5 * 3600 ? 240 : 120;
  const site = siteOf(rig, timeMs[0]!, lasted + HORIZON_S, stepS);
  const segments = segment(readings, site);
  return { site, readings, segments, log: logOf(site, readings, segments), prior: priorOf(site, readings, segments) };
}

/** Samples what the log leaves open. Null where it was stopped. */
export function fit(
  { log, prior }: Trial,
  {
    particles: particles = USUAL_PARTICLES,
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
/** What the last windows drew over what a particle has there goes on this long, s. */
const FORGETS_S = 5 * 3600;
/** Of house loads that nobody told of, as a share of the off level. */
const HOUSE = 0.22;
/** Hours in which they come or go. */
const HOUSE_SETTLES_S = 2 * 3600;
/** Sky: kept for an hour, then back to its day's mean, which is wide about the usual and narrowed by what the log has seen. */
const SKY_KEPT_S = 3600;
const SKY_DAY = 0.27;
const SKY_HOUR = 0.35;

/** Stretch of the log that says how the day's sky is, s. */
const SKY_LOG_S = 3 * 3600;

/** A particle at its log's end, and what the last windows drew over its own guess (`recentResidual`). */
interface End {
  particle: Particle;
  state: ParticleState;
  residual: number;
}

/** Ends of the population that was last carried through a log: what-ifs differ only in what comes after it. */
const endsKept = new WeakMap<Log, { population: Population; ends: End[] }>();

function endsOf({ log, prior }: Trial, population: Population): End[] {
  const kept = endsKept.get(log);
  if (kept?.population === population) return kept.ends;
  const ends = Array.from({ length: population.count }, (_, n) => {
    const particle = prior.particle(population.z, n * DIMENSIONS);
    return { particle: particle, state: log.propagateThrough(particle), residual: recentResidual(log, particle) };
  });
  endsKept.set(log, { population, ends });
  return ends;
}

/** Carries a population on from the end of its log to the reserve and the cut-off; no further than the reserve with `toReserve`. */
export function ahead(
  trial: Trial,
  population: Population,
  whatIf: WhatIf = {},
  seed = 1,
  toReserve = false,
): Forecast {
  const { site, log, segments, readings } = trial;
  const { bank, inverter, path, converted } = site.system;
  const { stepS } = site;
  const steps = site.steps;
  const from = log.steps;
  const settings = changed(log.settings, whatIf, site, from);
  const sunSeen = has(readings, "solar_power_w");
  const track = trajectoryOf(steps);
  const load = new Float64Array(steps).fill(1);
  const skies = new Float64Array(steps).fill(1);
  const { count } = population;
  const reserveAt: number[] = [];
  const cutAt: number[] = [];
  const nowShares: number[] = [];
  const fanSteps = steps - from;
  const shares = new Float32Array(count * fanSteps);
  const runs = new Float64Array(fanSteps);
  let nextHour = 0;
  const sunNow = sunSince(site, readings, segments, 2400);
  const sunOfLog = sunSince(site, readings, segments, SKY_LOG_S);
  // Of the log's sun over the usual day's, the part that is the day's and not the hour's.
  const seenH = Math.min(log.lastS, SKY_LOG_S) / 3600;
  const trustDay = SKY_DAY ** 2 / (SKY_DAY ** 2 + SKY_HOUR ** 2 / (1 + seenH));
  const fanWatts = site.unit.fanBetween ? site.unit.fan : 0;
  const kept = Math.exp(-stepS / COMES_S);
  const fresh = Math.sqrt(1 - kept * kept);
  const skyKept = Math.exp(-stepS / SKY_KEPT_S);
  const forgotten = Float64Array.from({ length: fanSteps }, (_, i) => Math.exp((-i * stepS) / FORGETS_S));
  const battery = batteryOf(bank, {
    lithium: site.run.lithium,
    pathResistance: path.resistance,
    bulkCurrent: Infinity,
  });
  const settledOhm = settledResistance(bank);
  const hours = log.lastS / 3600;
  const ends = endsOf(trial, population);
  // The log's end may lie inside a step: the first step ahead is that much shorter or longer.
  const slip = from * stepS - log.lastS;
  for (let n = 0; n < count; n++) {
    const { particle: particle, residual: off } = ends[n]!;
    const state = { ...ends[n]!.state };
    // A stream of its own, so that what-ifs differ by what is asked and not by luck, however far each goes.
    const random = seeded(seed * STREAMS + n);
    const stays = STAYS[site.unit.fixed ? "fixed" : "variable"] * random.normal();
    let comes = COMES * random.normal() * 0.6;
    const noFirst = Number.isNaN(off) ? 0 : off;
    const seenDay = Number.isNaN(sunOfLog) ? 0 : Math.log(Math.max(0.1, sunOfLog / Math.max(0.3, particle.solar)));
    const trust = Number.isNaN(sunOfLog) ? 0 : trustDay;
    const dayOff = trust * seenDay + SKY_DAY * Math.sqrt(1 - trust) * random.normal();
    const skyMean = Math.max(0.15, Math.exp(dayOff - 0.03));
    // The sky of the last hour over a usual day's, as this particle's panels make of it.
    let sky = Number.isNaN(sunNow) ? skyMean : sunNow / Math.max(0.3, particle.solar);
    const house = particle.offLevel * HOUSE * random.normal();
    const fill = (begin: number, end: number) => {
      for (let i = begin; i < end; i++) {
        const aheadS = (i - from) * stepS;
        load[i] = Math.exp(noFirst * forgotten[i - from]! + (stays + comes) * Math.min(1, aheadS / 1800));
        comes = kept * comes + COMES * fresh * random.normal();
        skies[i] = Math.min(1.4, sky);
        // A particle's sun is fitted to the sky as it was read, its panels' factor in it.
        settings.sky[i] = sunSeen ? Math.min(1.4, sky * particle.solar) : 1;
        sky = skyMean + (sky - skyMean) * skyKept;
      }
    };
    let s = particle.startShare - (log.countedAll + particle.zero * hours) / particle.bankAh;
    nowShares.push(s);
    let reserved = Infinity;
    let cut = Infinity;
    let carried = from;
    let last = steps;
    for (let i = from; i < steps; i++) {
      if (i === carried) {
        // Carried on by the piece: most particles are at their end long before the horizon.
        carried = Math.min(steps, i + Math.ceil(PIECE_S / stepS));
        fill(i, carried);
        propagate(site, particle, settings, state, i, carried, track, load);
      }
      const settled = 1 - Math.exp(-((i - from) * stepS) / HOUSE_SETTLES_S);
      const unitOff = settings.mode[i] === 0 ? fanWatts : 0;
      const onlyFan = settings.mode[i] === 1 && fanWatts === 0 ? site.unit.fan : 0;
      const base = Math.max(0, particle.offLevel - unitOff + onlyFan + house * settled + site.planLoad[i]!);
      const solar = site.solar[i]! * particle.solar * skies[i]!;
      const watts = base + track.draw[i]! - solar;
      const openVolts = openCircuitAt(battery, Math.min(1, Math.max(0, s)));
      const { current: amps, voltage: V } = constantPower(openVolts, settledOhm, watts);
      let out: number;
      if (amps > 0 && bank.peukert !== 1 && site.unit.fixed) {
        // Peukert goes by the current of the moment: that of the runs and that of the rests.
        const share = track.share[i]!;
        const onAmps = Math.max(0, (base + track.full[i]! - solar) / V);
        const offAmps = Math.max(0, (base - solar) / V);
        out =
          share * countedCurrent(bank, battery.efficiency, onAmps) +
          (1 - share) * countedCurrent(bank, battery.efficiency, offAmps);
      } else out = countedCurrent(bank, battery.efficiency, amps);
      const h = i === from ? Math.max(0, stepS + slip) : stepS;
      const next = Math.min(1, s - (out * h) / 3600 / particle.bankAh);
      const startedS = i === from ? 0 : (i - from) * stepS + slip;
      if (reserved === Infinity && next <= bank.reserveSoc)
        reserved = s <= bank.reserveSoc ? startedS : startedS + (h * (s - bank.reserveSoc)) / (s - next);
      s = next;
      if (cut === Infinity) {
        const running = site.unit.fixed ? (track.share[i]! > 0.02 ? track.full[i]! : 0) : track.draw[i]!;
        const peak = Math.max(0, base + running - solar);
        const ohm = settledOhm + bank.innerResistance * (particle.resistance - 1);
        const { current, voltage: bus } = constantPower(openVolts, ohm, peak);
        const far = bus - Math.max(0, current) * path.resistance;
        if (s <= 0 || bus < bank.stopVoltage || (converted && running > 0 && far < inverter.cutOffVoltage))
          cut = startedS + h;
      }
      shares[n * fanSteps + (i - from)] = s;
      runs[i - from] = runs[i - from]! + track.share[i]! / count;
      if ((i - from) * stepS < 3600) nextHour += (watts * stepS) / 3600 / count;
      if (reserved < Infinity && (toReserve || cut < Infinity)) {
        last = i + 1;
        break;
      }
    }
    for (let i = last; i < steps; i++) shares[n * fanSteps + (i - from)] = s;
    reserveAt.push(reserved / 3600);
    cutAt.push(Math.max(cut, 0) / 3600);
  }
  return {
    hoursToReserve: quantilesOf(reserveAt),
    hoursToCutoff: quantilesOf(cutAt),
    fan: fanOf(shares, count, fanSteps, stepS, from * stepS, runs),
    shareNow: quantilesOf(nowShares),
    wattsNextHour: nextHour,
    population,
  };
}

/** Log of what the last windows drew over what the particle has there: how the next hours begin. NaN where none says it. */
function recentResidual({ segments, drawn, shares, draws, lastS, site }: Log, particle: Particle): number {
  let sum = 0;
  let weight = 0;
  segments.windows.forEach((window, k) => {
    const read = drawn(k, particle);
    if (Number.isNaN(read)) return;
    const guess = site.unit.fixed ? shares[k]! : draws[k]!;
    // A unit that gives all it has shows no more than that the load is no smaller.
    if (site.unit.fixed && (read > 0.97 || guess > 0.97)) return;
    const least = site.unit.fixed ? 0.05 : 0.03 * site.unit.power;
    const r = Math.log(Math.max(least, read) / Math.max(least, guess));
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
    const x = share * (sorted.length - 1);
    const i = Math.floor(x);
    const low = sorted[i]!;
    const high = sorted[Math.min(sorted.length - 1, i + 1)]!;
    const value = low + (high - low) * (x - i);
    return Number.isFinite(value) ? value : null;
  };
  return { p10: at(0.1), p50: at(0.5), p90: at(0.9) };
}

function fanOf(
  shares: Float32Array,
  count: number,
  steps: number,
  stepS: number,
  fromS: number,
  share: Float64Array,
): Fan {
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
    fan.share[p] = share[p * stride]!;
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

export function handAnswers({ site, readings, segments }: Pick<Trial, "site" | "readings" | "segments">): HandAnswers {
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
