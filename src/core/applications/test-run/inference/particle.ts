import { heatFactor, LOWEST_SPEED, variablePowerShare } from "../../../models/air-conditioner/air-conditioner";
import { moistureHeld } from "../../../models/cabin/cabin";
import { moistureAfter, type MoistureFlows } from "../../../simulation/kernel/cabin";
import { fanCap, fanSaved, INTEGRAL_S, MODE, restingDraw, SENSOR_LAG_S } from "../../../simulation/kernel/control";
import { lostToStarts, runningShare, startsOf } from "../../../simulation/kernel/cycling";
import {
  fixedCooling,
  ledCooling,
  variableCooling,
  type HeldCabin,
  type MeanControl,
} from "../../../simulation/kernel/mean-control";
import {
  moveSlab,
  slabCabin,
  slabConductance,
  slabHeat,
  type SlabCabin,
  type SlabState,
} from "../../../simulation/kernel/slab";
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
 * One particle, carried through the log and on by the kernel's steps for minutes: the cabin's mass as a slab, the unit's
 * regulation averaged over its cycles. A mean is smooth in all that is estimated, where an edge is chance.
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
  "startSoc",
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
  startSoc: number;
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

/** The state that a particle goes on from. */
export interface ParticleState extends SlabState, MeanControl {
  humidity: number;
  /** Seconds since the unit was switched on. */
  onFor: number;
  /** Share of full at which it threw out air and warmed the inverter in the step before. */
  before: number;
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
    before: 0,
  };
}

function copyState(from: ParticleState, to: ParticleState): void {
  to.cabinC = from.cabinC;
  to.massC = from.massC;
  to.deepC = from.deepC;
  to.humidity = from.humidity;
  to.settled = from.settled;
  to.resting = from.resting;
  to.onFor = from.onFor;
  to.integral = from.integral;
  to.before = from.before;
}

/**
 * What the unit meets in a step: degC at its condenser, wet bulb of the room, W at the battery of its compressor at full; of
 * its fan between runs, and what it saves by a lower one.
 */
interface Met {
  condenserC: number;
  wetBulbC: number;
  compressorW: number;
  restW: number;
  savedW: number;
}

/** What it does in one: W of dry cooling and of drying, W at the battery over the off level, share of running or speed. */
interface Done {
  cooling: number;
  drying: number;
  draw: number;
  share: number;
}

/** A particle under way: what it keeps from step to step, and what is written anew in each. */
interface Walk {
  site: Site;
  particle: Particle;
  settings: Settings;
  cabin: SlabCabin;
  /** W/K to the air outside and to the sea. */
  airUA: number;
  seaUA: number;
  /** kg of dry air that the cabin's water is shared out over. */
  held: number;
  /** Share of time at no load that starts cost, and s in which a variable unit comes to full speed. */
  lost: number;
  rampS: number;
  /** Part of its distance from the cabin as read that a particle keeps over a step. */
  led: number;
  /** Draw over full at the lowest speed; W at the battery of the pump. */
  lowest: number;
  pump: number;
  at: HeldCabin;
  met: Met;
  done: Done;
  flows: MoistureFlows;
}

function walkOf(site: Site, particle: Particle, settings: Settings, from: number): Walk {
  const { unit, stepS } = site;
  const { cabin } = site.parameters;
  const airCapacity = cabin.airHeatCapacity * particle.lightMass;
  const coupling = cabin.coupling * particle.coupling;
  const airUA = site.airUA * particle.heatLoss;
  const seaUA = site.seaUA * particle.heatLoss;
  // At its lowest speed a variable unit cycles too, by that much less cooling.
  const cooling = unit.capacity * particle.capacity * unit.sensibleHeatRatio * (unit.fixed ? 1 : LOWEST_SPEED);
  const losses = airUA + seaUA + site.changes[from]! * particle.airChanges + coupling;
  const thermostat = { band: unit.band, minimumOff: unit.minimumOff, lagS: unit.fixed ? SENSOR_LAG_S : 0 };
  const starts = settings.startsSeen ?? startsOf(thermostat, cooling / losses, airCapacity / losses);
  return {
    site,
    particle,
    settings,
    cabin: slabCabin(airCapacity, cabin.massHeatCapacity * particle.slowMass, coupling, stepS),
    airUA,
    seaUA,
    held: moistureHeld(cabin.volume, site.air.pressurePa),
    lost: lostToStarts(starts, START_LAG_S * (unit.fixed ? particle.shape : 1)),
    rampS: unit.rampTime * (particle.settling / INTEGRAL_S),
    led: Math.exp(-stepS / LED_S),
    lowest: variablePowerShare(LOWEST_SPEED, particle.shape),
    pump: unit.pump * particle.draw,
    at: {
      heat: NaN,
      conductance: NaN,
      airC: NaN,
      setC: NaN,
      halfBand: unit.band / 2,
      seconds: stepS,
      sensible: NaN,
      cap: NaN,
      load: 1,
    },
    met: { condenserC: NaN, wetBulbC: NaN, compressorW: NaN, restW: NaN, savedW: NaN },
    done: { cooling: NaN, drying: NaN, draw: NaN, share: NaN },
    flows: { flow: NaN, outdoor: NaN, water: NaN, drying: NaN },
  };
}

/** W that reach the air of the cabin in step `i` without the unit, the outdoor temperature times its conductances in it. */
function heatOf({ site, particle, settings, airUA, seaUA }: Walk, i: number, outdoorC: number, before: number): number {
  const shine = particle.sun * settings.sky[i]!;
  const skin = site.skinSun[i]!;
  const sun = (skin > 0 ? skin * shine : skin) * Math.min(1.5, particle.heatLoss) + site.glassAir[i]! * shine;
  const thrown = before * site.unit.thrownHeat;
  const outside = (airUA + site.changes[i]! * particle.airChanges + thrown) * outdoorC + seaUA * site.parameters.seaC;
  return outside + sun + site.gains[i]! * particle.gains + before * site.unit.inverterHeat;
}

/** Fills in what the unit meets at `outdoorC`, set to `mode`. */
function meet(
  { site, particle, met }: Walk,
  { cabinC, humidity }: ParticleState,
  outdoorC: number,
  mode: number,
): void {
  const { unit, parameters } = site;
  met.restW = mode >= MODE.low ? restingDraw(unit, mode) : site.rest;
  met.savedW = unit.fixed ? fanSaved(unit.lowFanSaving, mode) : 0;
  met.condenserC = condenserC(unit, outdoorC, parameters.seaC);
  met.wetBulbC = wetBulbNearRating(cabinC, humidity);
  const heat = heatFactor(unit.powerPerKelvin, met.condenserC, unit.knownAtC);
  met.compressorW = unit.power * particle.draw * heat * wetPower(met.wetBulbC);
}

/** Cools the cabin in step `i`, in which the unit is asked to, by its thermostat or control, or as the cabin was read. */
function cool(walk: Walk, state: ParticleState, i: number): void {
  const { particle, settings, at, met, done } = walk;
  const { unit, stepS } = walk.site;
  const { seenC } = settings;
  state.onFor += stepS;
  const wet = wetCapacity(met.wetBulbC);
  const capacity = unit.capacity * particle.capacity * hotCapacity(unit.capacityPerKelvin, met.condenserC) * wet;
  const dry = latentPart(unit.sensibleHeatRatio, state.humidity);
  // A circuit that was just started does not cool yet.
  at.sensible = capacity * coolingReached(state.onFor - stepS, stepS, START_LAG_S) * (1 - dry);
  at.cap = fanCap(unit.fixed, settings.mode[i]!);
  if (!unit.fixed) at.cap = Math.min(at.cap, state.onFor / Math.max(stepS, walk.rampS));
  if (seenC !== null && !Number.isNaN(seenC[i]! + seenC[i + 1]!)) {
    // Whatever its control does: to come to the temperature that was read it has to take out so much heat.
    done.cooling = ledCooling(state, at, seenC[i + 1]! + (state.cabinC - seenC[i]!) * walk.led);
  } else if (unit.fixed) done.cooling = fixedCooling(state, at);
  else done.cooling = variableCooling(state, at, particle.settling);
  done.drying = (done.cooling / Math.max(0.2, 1 - dry)) * dry;
  if (unit.fixed) drawFixed(walk);
  else drawVariable(walk);
  state.before = unit.fixed ? done.share * at.cap : done.share;
}

/** Fills in what a fixed-speed unit draws for its cooling: at full for a share of the time. */
function drawFixed({ site, lost, pump, at, met, done }: Walk): void {
  const share = at.cap > 0 ? Math.min(1, done.cooling / (at.sensible * at.cap)) : 0;
  done.share = runningShare(share, lost);
  done.draw = done.share * Math.max(0, met.compressorW + pump - met.savedW - met.restW) + met.restW - site.rest;
}

/** The same of a variable one: by its speed, or at its lowest for a share of the time. */
function drawVariable({ site, particle, lost, lowest, pump, at, met, done }: Walk): void {
  const speed = done.cooling / at.sensible;
  const slow = speed < LOWEST_SPEED;
  const compressor = met.compressorW * (slow ? lowest : variablePowerShare(speed, particle.shape));
  const running = Math.max(0, compressor + pump - met.restW);
  done.share = Math.min(1, speed);
  done.draw = (slow ? runningShare(speed / LOWEST_SPEED, lost) * running : running) + met.restW - site.rest;
}

/**
 * Carries a particle from step `from` to before `to`, changing `state`; fills `track`. `load` is a factor on the heat that
 * the unit has to take out, by step, or null for one.
 */
// oxlint-disable-next-line max-params -- called for every particle of a forecast at every piece of its log
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
  const walk = walkOf(site, particle, settings, from);
  // Of one shape for whoever calls: what is read and written millions of times is found at one place.
  const own = startOf(particle);
  copyState(state, own);
  const { cabin, at, met, done, flows, held, pump } = walk;
  const skinUA = walk.airUA + walk.seaUA;
  const { sun, airChanges, gains } = particle;
  const { unit, stepS, air, changes, changesFlow, glassMass, humidity, moisture } = site;
  for (let i = from; i < to; i++) {
    const outdoorC = settings.outdoorC[i]! + particle.outdoor * settings.shiftWeight[i]!;
    const massSun = 0.5 * glassMass[i]! * (sun * settings.sky[i]!);
    at.heat = slabHeat(cabin, own, heatOf(walk, i, outdoorC, own.before), massSun);
    at.conductance = slabConductance(cabin, skinUA + changes[i]! * airChanges + own.before * unit.thrownHeat);
    at.airC = own.cabinC;
    at.setC = particle.setShift + settings.setC[i]!;
    at.load = load === null ? 1 : load[i]!;
    meet(walk, own, outdoorC, settings.mode[i]!);
    if (settings.mode[i]! >= MODE.low) cool(walk, own, i);
    else {
      own.onFor = 0;
      own.before = 0;
      done.cooling = done.drying = done.draw = done.share = 0;
    }
    moveSlab(cabin, own, (at.heat - done.cooling / at.load) / at.conductance, massSun);
    flows.flow = changesFlow[i]! * airChanges + own.before * unit.thrownFlow;
    flows.outdoor = humidity[i]!;
    flows.water = moisture[i]! * gains;
    flows.drying = done.drying;
    own.humidity = moistureAfter(own.humidity, stepS, held, flows, air, own.cabinC);
    track.draw[i] = done.draw;
    track.share[i] = done.share;
    track.cabinC[i] = own.cabinC;
    track.full[i] = met.compressorW + pump - met.savedW - met.restW;
  }
  copyState(own, state);
}
