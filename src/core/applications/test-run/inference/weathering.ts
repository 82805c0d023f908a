import type { Random } from "../../../units/random";
import { has, type Readings } from "../log/readings";
import type { Segments } from "../segmentation/segments";
import type { Site } from "../site/site";
import type { Log } from "./likelihood";
import type { Particle, ParticleState, Settings } from "./particle";
import type { TestRun } from "./test-run";

/*
 * What one particle meets by chance ahead of its log, and how wide each of it is.
 */

/**
 * Model error that stays for the rest of a test run, and that comes and goes: of the heat to be taken out, logarithmic. A
 * variable unit's control and part load differ more from maker to maker than a thermostat does.
 */
const STAYS = { fixed: 0.11, variable: 0.13 } as const;
const COMES = 0.08;
const COMES_S = 2 * 3600;
/**
 * Model error beside it of what the log has not seen yet: the sun where it lies in the dark, the dark where it lies in the
 * sun, and how a unit holds its set point where it never came to it. Measured cooling loads of light buildings are met that well
 * by models that were fitted in other conditions (common practice, no source).
 */
const UNSEEN = 0.16;
/** W on the skin from which a step counts as sunny, and s of such steps after which it has been seen. */
const SUNNY_W = 20;
const SEEN_S = 900;
/** What the last windows drew over what a particle has there goes on this long, s. */
const FORGETS_S = 5 * 3600;
/** Of house loads that nobody told of, as a share of the off level. */
const HOUSE = 0.15;
/**
 * Most of what a high draw costs lead-acid that a rest of some hours does not give back: charge diffuses back from the bound
 * part of the plates (the kinetic battery model of Manwell and McGowan 1993), most of it within hours (Doerffel and Sharkh
 * 2006, a critical review of using the Peukert equation; share from memory).
 */
const NOT_BACK = 0.5;
/** Sky: kept for an hour, then back to its day's mean, which is wide about the usual and narrowed by what the log has seen. */
const SKY_KEPT_S = 3600;
const SKY_DAY = 0.27;
const SKY_HOUR = 0.35;

/** Stretch of the log that says how the day's sky is, s. */
const SKY_LOG_S = 3 * 3600;
/** Stretch of it that is the sky of the moment, s. */
const SKY_NOW_S = 2400;

/** A particle at its log's end, and what the last windows drew over its own prediction (`recentResidual`). */
export interface End {
  particle: Particle;
  state: ParticleState;
  residual: number;
}

/** What a particle's chances are drawn over, and the lines that they fill. */
export interface Chances {
  site: Site;
  log: Log;
  settings: Settings;
  /** Factor on the heat that the unit has to take out, and on the sun of a usual day, by step. */
  load: Float64Array;
  skies: Float64Array;
  /** Sun of the log's last minutes, and of its last hours, over that of a usual day; NaN where it was not read. */
  sunNow: number;
  sunOfLog: number;
  /** Whether the log has the sun's watts. */
  sunSeen: boolean;
  /** Whether the log lies in the sun for a while, in the dark, and whether the unit came to its set point in it. */
  seen: { sun: boolean; dark: boolean; rest: boolean };
}

/** The chances of a log: what it has seen of sun and dark, with lines that are one everywhere. */
export function chancesOf({ site, log, segments, readings }: TestRun, settings: Settings): Chances {
  const sunny = site.skinSun.subarray(0, log.steps).filter((watts) => watts > SUNNY_W).length * site.stepS;
  return {
    site,
    log,
    settings,
    load: new Float64Array(site.steps).fill(1),
    skies: new Float64Array(site.steps).fill(1),
    sunNow: sunSince(site, readings, segments, SKY_NOW_S),
    sunOfLog: sunSince(site, readings, segments, SKY_LOG_S),
    sunSeen: has(readings, "solar_power_w"),
    seen: {
      sun: sunny >= SEEN_S,
      dark: log.steps * site.stepS - sunny >= SEEN_S,
      rest: segments.pullDown !== null && segments.pullDown.toS !== null,
    },
  };
}

/** What one particle meets by chance: model error, the sky, and house loads that nobody told of. */
export class Weathering {
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
    private readonly chances: Chances,
    { particle, residual }: End,
    private readonly random: Random,
  ) {
    const { site, log, sunNow, sunOfLog } = chances;
    this.particle = particle;
    this.residual = Number.isNaN(residual) ? 0 : residual;
    const stays = STAYS[site.unit.fixed ? "fixed" : "variable"];
    this.stays = Math.hypot(stays, chances.seen.rest ? 0 : UNSEEN) * random.normal();
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

  /** Fills the test run's load and sky from one step to before another. */
  fill(begin: number, end: number): void {
    const { site, log, settings, load, skies, sunSeen, seen } = this.chances;
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
