import { heatFactor, LOWEST_SPEED, variablePowerShare } from "../../../models/air-conditioner/air-conditioner";
import { moistureHeld } from "../../../models/cabin/cabin";
import { moistureAfter } from "../../../simulation/kernel/cabin";
import { askedSpeed, fanCap, INTEGRAL_S, summedUp } from "../../../simulation/kernel/control";
import {
  condenserC,
  coolingReached,
  COOLING_LAG_S,
  hotCapacity,
  latentPart,
  wetBulbNearRating,
  wetCapacity,
  wetPower,
} from "../../../simulation/kernel/unit";
import type { Site } from "../site/site";

/*
 * One particle, propagated through the log and on: two thermal nodes and moisture, the unit's regulation averaged
 * over its cycles. A cycling unit's edges are chance; its mean is what empties the battery, and a mean is smooth in all that
 * is estimated. Implicit steps, exact where the set point is held.
 */

/** The parameters of a particle, each a standard normal in the sampler. */
export const PARAMETER_NAMES = [
  "heatLoss",
  "sun",
  "capacity",
  "slowMass",
  "coupling",
  "lightMass",
  "cabinStart",
  "massStart",
  "setPoint",
  "outdoor",
  "gains",
  "draw",
  "offLevel",
  "bankAh",
  "startShare",
  "solar",
  "shape",
  "airChanges",
  "zero",
  "voltsOff",
  "resistance",
  "settling",
] as const;
export type ParameterName = (typeof PARAMETER_NAMES)[number];
export const DIMENSIONS = PARAMETER_NAMES.length;

/** What a particle's parameters mean: factors on the system's own values unless said. */
export interface Particle {
  heatLoss: number;
  sun: number;
  capacity: number;
  slowMass: number;
  coupling: number;
  lightMass: number;
  /** degC and kg/kg at the first reading. */
  cabinC: number;
  massC: number;
  humidity: number;
  setShift: number;
  /** K over the site's outdoor line. */
  outdoor: number;
  gains: number;
  /** Factor on the step between the two levels. */
  draw: number;
  /** W at the battery while the compressor rests. */
  offLevel: number;
  bankAh: number;
  startShare: number;
  solar: number;
  /** Bend of a variable unit's draw over load, as an exponent; of a fixed unit's lag at a start, as a factor. */
  shape: number;
  airChanges: number;
  /** A that the monitor reads too much. */
  zero: number;
  voltsOff: number;
  resistance: number;
  /** s over which a variable unit's control sums up what is over its set point; it comes up the slower, too. */
  settling: number;
}

/**
 * Boards and cushions take heat on one face and conduct it inwards: of the modes of such a slab the first holds 8/pi^2 of
 * its capacity, the others answer nine times as fast and more, each with the same conductance (Carslaw and Jaeger 1959,
 * chapter 3; from memory). Two of them: what answers soon, and what goes on for hours where one exponential would be over.
 */
const DEEP_SHARE = 8 / Math.PI ** 2;

/** The state that a particle goes on from. */
export interface ParticleState {
  cabinC: number;
  /** Of the slow mass, what answers soon and what answers late. */
  massC: number;
  deepC: number;
  humidity: number;
  /** The first touch of the low end of the band is behind it; of a variable unit, the one since it came to its lowest speed. */
  settled: boolean;
  resting: boolean;
  /** Seconds since the unit was switched on. */
  onFor: number;
  /** What a variable unit's control has summed up. */
  integral: number;
}

/** Lines that a carried particle fills, by step. */
export interface Trajectory {
  /** Mean W at the battery over the off level, share of the compressor (or speed), cabin. */
  draw: Float64Array;
  share: Float64Array;
  cabinC: Float64Array;
  /** W over the off level at full. */
  full: Float64Array;
}

export function trajectoryOf(steps: number): Trajectory {
  const line = () => new Float64Array(steps);
  return { draw: line(), share: line(), cabinC: line(), full: line() };
}

/** How the unit is set at each step: mode 0 off to 4 automatic, and K on the set point. */
export interface Settings {
  mode: Int8Array;
  setC: Float64Array;
  /** Outdoors, as read or as usual, before the particle's own shift; by step. */
  outdoorC: Float64Array;
  /** Weight of the particle's shift: 0 where it was read. */
  shiftWeight: Float64Array;
  /** Sun over that of a usual day at that hour: 1 where the sky was not seen. */
  sky: Float64Array;
  /**
   * Cabin as it was read, degC at the step's beginning, where a particle is led by it; NaN elsewhere. One more than steps;
   * null where it is led nowhere.
   */
  seenC: Float64Array | null;
  /** Starts a second over share of running times the rest, as the log's cycles show them; null where it shows none. */
  startsSeen: number | null;
}

/**
 * Seconds that a started compressor takes to cool in full: tested losses at part load are about half of the default that
 * the day's run takes (common practice, no source).
 */
const START_LAG_S = (8 / 15) * COOLING_LAG_S;

/** Seconds in which a particle that is led by the cabin as read closes on it. */
const LED_S = 900;

/** Of its lowest speed's cooling: asked for more than that, a variable unit that cycled goes by its speed again. */
const OVER_LOWEST = 1.1;

/** Most of a cycling unit's time that its starts may cost. */
const MOST_LOST = 0.9;

/**
 * Starts a second of a thermostat's cycling over x (1 - x), x its share of running: the air goes from one end of the band
 * to the other as an exponential, `swingK` the kelvins between where it would come to rest with the unit on and off,
 * `settlesS` its time constant. A parabola in x (AHRI 210/240 takes 3 an hour at half load; from memory).
 * 0 where the unit cannot cross the band, and no more than its minimum rest lets through.
 */
export function startsOf(band: number, swingK: number, settlesS: number, minimumOff: number): number {
  if (swingK <= band) return 0;
  const half = settlesS * Math.log((swingK + band) / (swingK - band));
  return 2 / Math.max(half, minimumOff, 1);
}

/** Share of full time, at no load, that starts cost: each is a lag in which the compressor runs and does not cool. */
export function lostToStarts(starts: number, lagS: number): number {
  const lag = starts * lagS;
  return lag <= 0 ? 0 : Math.min(MOST_LOST, lag * (1 - Math.exp(-2 / lag)));
}

/** Share of running s that gives the cooling of a share x: x = s - lost s (1 - s). */
export function runningShare(x: number, lost: number): number {
  if (x >= 1) return 1;
  if (lost < 1e-6) return x;
  const b = 1 - lost;
  return (Math.sqrt(b * b + 4 * lost * x) - b) / (2 * lost);
}

export function startOf(particle: Particle): ParticleState {
  return {
    cabinC: particle.cabinC,
    massC: particle.massC,
    deepC: particle.massC,
    humidity: particle.humidity,
    settled: false,
    resting: false,
    onFor: 0,
    integral: 0,
  };
}

/**
 * Carries a particle from step `from` to before `to`, changing `state`; fills `track`. `load` is a factor on the heat that
 * the unit has to take out, by step, or null for one.
 */
// eslint-disable-next-line max-lines-per-function, max-params -- one loop over the steps without a call that allocates: it runs for every particle of a forecast
export function propagate(
  site: Site,
  particle: Particle,
  settings: Settings,
  state: ParticleState,
  from: number,
  to: number,
  track: Trajectory,
  load: Float64Array | null = null,
): void {
  const { unit, run, stepS: h, airUA, seaUA } = site;
  const { cabin } = run;
  const fixed = unit.fixed;
  const Ca = (cabin.airHeatCapacity * particle.lightMass) / h;
  const Cm = (cabin.massHeatCapacity * particle.slowMass) / h;
  const Gm = cabin.coupling * particle.coupling;
  const kU = particle.heatLoss;
  const UAair = airUA * kU;
  const UAsea = seaUA * kU;
  const Cs = DEEP_SHARE * Cm;
  const Cf = Cm - Cs;
  const half = Gm / 2;
  const soon = half / (Cf + half);
  const late = half / (Cs + half);
  const held = moistureHeld(cabin.volume, site.air.pressurePa);
  const flows = { flow: 0, outdoor: 0, water: 0, drying: 0 };
  const low = variableShare(LOWEST_SPEED, particle.shape);
  // At its lowest speed a variable unit cycles too, by that much less cooling.
  const cooling = unit.capacity * particle.capacity * unit.sensibleShare * (fixed ? 1 : LOWEST_SPEED);
  const losesK = UAair + UAsea + site.changes[from]! * particle.airChanges + Gm;
  const starts = settings.startsSeen ?? startsOf(unit.band, cooling / losesK, (Ca * h) / losesK, unit.minimumOff);
  const lost = lostToStarts(starts, START_LAG_S * (fixed ? particle.shape : 1));
  const led = Math.exp(-h / LED_S);
  const ramp = unit.rampTime * (particle.settling / INTEGRAL_S);
  const under = { over: 0, seconds: h, cap: 0 };
  const free = { overAtRest: 0, perSpeed: 0 };
  const fullDraw = unit.power * particle.draw;
  const pump = unit.pump * particle.draw;
  const fullCapacity = unit.capacity * particle.capacity;
  const rest = unit.fanBetween ? unit.fan : 0;
  const halfBand = unit.band / 2;
  const { seenC } = settings;
  let { cabinC: Ta, massC: Tf, deepC: Ts, humidity: w, settled, resting, onFor, integral } = state;
  for (let i = from; i < to; i++) {
    const outdoor = settings.outdoorC[i]! + particle.outdoor * settings.shiftWeight[i]!;
    const changes = site.changes[i]! * particle.airChanges;
    const flow = site.changesFlow[i]! * particle.airChanges;
    const G = UAair + UAsea + changes;
    const factor = load === null ? 1 : load[i]!;
    const skin = site.skinSun[i]!;
    const shine = particle.sun * settings.sky[i]!;
    const sun = (skin > 0 ? skin * shine : skin) * Math.min(1.5, kU) + site.glassAir[i]! * shine;
    const heat = (UAair + changes) * outdoor + UAsea * run.seaC + sun + site.gains[i]! * particle.gains;
    const massSun = 0.5 * site.glassMass[i]! * shine;
    // All nodes at the step's end, the unit taking out Q: D T = N - Q.
    const N = Ca * Ta + heat + soon * (Cf * Tf + massSun) + late * (Cs * Ts + massSun);
    const D = Ca + G + Gm - (soon + late) * half;
    const set = particle.setShift + settings.setC[i]!;
    const mode = settings.mode[i]!;
    let Q = 0;
    let share = 0;
    let draw = 0;
    const at = condenserC(unit, outdoor, run.seaC);
    const wetBulbC = wetBulbNearRating(Ta, w);
    const compressor = fullDraw * heatFactor(unit.powerPerKelvin, at, unit.knownAtC) * wetPower(wetBulbC);
    const full = compressor + pump;
    const dry = latentPart(unit.sensibleShare, w);
    let drying = 0;
    if (mode >= 2) {
      onFor += h;
      const capacity = fullCapacity * hotCapacity(unit.capacityPerKelvin, at) * wetCapacity(wetBulbC);
      // A circuit that was just started does not cool yet.
      const reached = coolingReached(onFor - h, h, START_LAG_S);
      const sensible = capacity * reached * (1 - dry);
      let cap = fanCap(fixed, mode);
      if (!fixed) cap = Math.min(cap, onFor / Math.max(h, ramp));
      // First down to the low end of the band, then at rest up to its middle, then held there.
      let aim = fixed && !settled ? set - halfBand : set;
      if (fixed && settled && Ta > set + halfBand + 0.3) settled = false;
      const seen = seenC !== null && !Number.isNaN(seenC[i]! + seenC[i + 1]!);
      if (seen) {
        // Whatever its control does: to come to the temperature that was read it has to take out so much heat.
        resting = false;
        settled = true;
        aim = seenC[i + 1]! + (Ta - seenC[i]!) * led;
      }
      if (resting) {
        if (N / D < set) aim = Infinity;
        else resting = false;
      }
      let asked = aim === Infinity ? 0 : N - D * aim;
      // What model and truth differ by weighs on the heat that is asked, not on a unit that gives all it has.
      const most = sensible * cap;
      if (!fixed && !seen && !resting) {
        if (!settled) {
          free.overAtRest = N / D - set;
          free.perSpeed = sensible / (D * factor);
          asked = (askedSpeed(integral, free) * sensible) / factor;
        }
      }
      Q = Math.min(most, Math.max(0, asked * factor));
      const least = LOWEST_SPEED * sensible;
      if (!fixed && !seen) {
        if (Q > OVER_LOWEST * least) settled = false;
        else if (!settled && !resting && Q < least && cap > LOWEST_SPEED) {
          // It does not stop where it is asked for less than its least: it goes on to the low end of the band, rests, and
          // cycles about the set point from then on.
          const low = N - D * (set - halfBand);
          Q = Math.max(0, Math.min(least, low));
          if (low <= least) {
            settled = true;
            resting = true;
          }
        }
        under.over = (N - Q / factor) / D - set;
        under.cap = cap;
        integral = settled ? Math.min(cap, Q / sensible) : summedUp(integral, under, particle.settling);
      } else if (!fixed) integral = Math.min(cap, Q / sensible);
      const x = Q / sensible;
      if (fixed) {
        share = cap > 0 ? Math.min(1, Q / most) : 0;
        if (!settled && asked <= most) {
          settled = true;
          resting = true;
        }
        share = runningShare(share, lost);
        draw = share * Math.max(0, full - rest);
      } else {
        share = Math.min(1, x);
        const over = Math.max(0, compressor * (x < LOWEST_SPEED ? low : variableShare(x, particle.shape)) + pump - rest);
        draw = x < LOWEST_SPEED ? runningShare(x / LOWEST_SPEED, lost) * over : over;
      }
      drying = (Q / Math.max(0.2, 1 - dry)) * dry;
    } else onFor = 0;
    Ta = (N - Q / factor) / D;
    Tf = (Cf * Tf + half * Ta + massSun) / (Cf + half);
    Ts = (Cs * Ts + half * Ta + massSun) / (Cs + half);
    flows.flow = flow;
    flows.outdoor = site.humidity[i]!;
    flows.water = site.moisture[i]! * particle.gains;
    flows.drying = drying;
    w = moistureAfter(w, h, held, flows, site.air, Ta);
    track.draw[i] = draw;
    track.share[i] = share;
    track.cabinC[i] = Ta;
    track.full[i] = full - rest;
  }
  state.cabinC = Ta;
  state.massC = Tf;
  state.deepC = Ts;
  state.humidity = w;
  state.settled = settled;
  state.resting = resting;
  state.onFor = onFor;
  state.integral = integral;
}

/** Draw of a variable unit over its draw at full, its bend a parameter; `speed` > 0. */
export function variableShare(speed: number, shape: number): number {
  return Math.pow(variablePowerShare(speed), shape);
}
