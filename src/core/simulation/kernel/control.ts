import { LOWEST_SPEED, variablePowerShare } from "../../models/air-conditioner/air-conditioner";
import { FAN_CAPS } from "./unit";

/** How a unit is set: off, its fan alone, or cooling on the low, medium or automatic fan. */
export const MODE = { off: 0, fan: 1, low: 2, medium: 3, auto: 4 } as const;

/** An air conditioner as a run needs it: W on its own supply, degC. */
export interface UnitParameters {
  direct: boolean;
  /** Straight from the battery on a circuit of its own, beside the inverter's. */
  beside: boolean;
  /** V at which it switches itself off: at its terminals, or at the battery's where it has a circuit of its own. */
  cutOffVoltage: number;
  fixed: boolean;
  /** Cooling at full speed at the rating point, and below power at full speed: a variable unit's is beyond its plate. */
  capacity: number;
  capacityPerKelvin: number;
  sensibleHeatRatio: number;
  /** Running power as known, high fan included, and the condenser air it is known at. */
  power: number;
  knownAtC: number;
  powerPerKelvin: number;
  /** A fouled or starved sea-water condenser: 1 where it is clean. */
  foulingPower: number;
  foulingCapacity: number;
  /** How a variable unit's power falls with its speed, as an exponent on the typical curve. */
  bend: number;
  fan: number;
  fanLow: number;
  /** W that a fixed-speed unit draws less on the low fan while its compressor runs. */
  lowFanSaving: number;
  /** W of the sea-water pump, on while the compressor runs. */
  pump: number;
  fanBetween: boolean;
  band: number;
  minimumOff: number;
  rampTime: number;
  /** K of the condenser's air over outdoors; or over the sea, with `sea`. */
  condenserRise: number;
  sea: boolean;
  /** Air that a single-duct unit throws out while it runs, as air changes of heat: W/K and kg/s. */
  thrownHeat: number;
  thrownFlow: number;
}

/** V at which the first of some units switches itself off. */
export const highestCutOff = (units: readonly UnitParameters[]): number =>
  units.reduce((highest, one) => Math.max(highest, one.cutOffVoltage), 0);

/** A unit as it stands: its compressor, and what it can do and does in the present piece of time. */
export interface UnitState {
  on: boolean;
  /** Speed of a variable-speed compressor over full, and the part of it that its control has summed up. */
  speed: number;
  integral: number;
  /** Most of that speed that the fan allows. */
  cap: number;
  /** Seconds since the compressor was last switched on or off. */
  sinceSwitch: number;
  /** What its sensor shows as its thermostat switches it off and on, degC. */
  lowest: number;
  highest: number;
  /** W of cooling and of power with the compressor at full, in this air. */
  full: number;
  power: number;
  /** W of cooling once it has come to what it is asked for, and the part of it that dries the air. */
  cooling: number;
  latent: number;
}

export const unitAtRest = (): UnitState => ({
  on: false,
  speed: 0,
  integral: 0,
  cap: 0,
  sinceSwitch: 3600,
  lowest: 0,
  highest: 0,
  full: 0,
  power: 0,
  cooling: 0,
  latent: 0,
});

/** A thermostat's level counts as met within this, K. */
export const MET_K = 0.002;
/** Units at one set point are set this much apart, K, as fitters do, so that they do not start together. */
export const SET_APART_K = 0.3;
/**
 * Feedback control of a variable-speed compressor on the return air's temperature over the set point: proportional and
 * integral, the usual one (Åström and Hägglund, PID Controllers, 1995; from memory). It goes at full until the air is
 * within `FULL_OVER_K`, and comes down over ten to twenty minutes from there (common practice, no source).
 */
export const FULL_OVER_K = 1;
export const GAIN_PER_K = 0.5;
export const INTEGRAL_S = 900;

/**
 * Seconds behind the return air that a fixed-speed unit's thermostat is: one to two minutes are usual (common practice, no
 * source). A variable unit's control has its sensor's lag in its own pace.
 */
export const SENSOR_LAG_S = 90;

/**
 * Least seconds that a started compressor runs, so that its oil comes back: two to five minutes are usual (common practice,
 * no source).
 */
export const LEAST_RUN_S = 180;

/** What is left of a sensor's distance from the air after so many seconds. */
export const sensorKept = (seconds: number): number => Math.exp(-seconds / SENSOR_LAG_S);

/**
 * What a sensor that showed `sensedC` shows after so many seconds, in which the air went straight from one temperature to
 * another, degC: first order, `kept` as `sensorKept` has it.
 */
export const sensedAfter = (
  sensedC: number,
  air: { fromC: number; toC: number },
  seconds: number,
  kept: number,
): number => air.toC - ((1 - kept) * SENSOR_LAG_S * (air.toC - air.fromC)) / seconds + (sensedC - air.fromC) * kept;

export function switchOff(state: UnitState): void {
  state.on = false;
  state.sinceSwitch = 0;
  state.speed = 0;
}

export function switchOn(state: UnitState): void {
  state.on = true;
  state.sinceSwitch = 0;
  state.integral = 0;
}

/**
 * Switches a unit by its thermostat where that is due, and says how many of the next `seconds` pass before it may switch
 * again: a compressor that was just stopped rests its minimum off-time, one that was just started runs its least time.
 * `sensedC` is what its sensor shows, degC.
 */
export function thermostat(state: UnitState, minimumOff: number, sensedC: number, seconds: number): number {
  const met = state.on ? sensedC <= state.lowest + MET_K : sensedC >= state.highest - MET_K;
  if (!met) return seconds;
  const due = (state.on ? LEAST_RUN_S : minimumOff) - state.sinceSwitch;
  if (due > 1e-9) return Math.min(due, seconds);
  if (state.on) switchOff(state);
  else switchOn(state);
  return seconds;
}

/** Part of the way of its sensor from `fromC` to `toC` at which the thermostat turns over; 1 or more where it does not. */
export function turnsOverAt(state: UnitState, fromC: number, toC: number): number {
  const level = levelOf(state);
  const towards = state.on ? toC < level && fromC > level + MET_K : toC > level && fromC < level - MET_K;
  return towards ? (level - fromC) / (toC - fromC) : Infinity;
}

/** What the sensor shows as the unit's thermostat switches next, degC. */
export const levelOf = (state: UnitState): number => (state.on ? state.lowest : state.highest);

/** What a control finds in a piece of time: K over the set point at its end if the compressor rested, and K that full speed takes off that. */
export interface ControlledAir {
  overAtRest: number;
  perSpeed: number;
}

/** Speed of a control that has summed up `integral`: solved for the air at the piece's end, so that long pieces stay stable. */
export const askedSpeed = (integral: number, { overAtRest, perSpeed }: ControlledAir): number =>
  (integral + GAIN_PER_K * overAtRest) / (1 + GAIN_PER_K * perSpeed);

/**
 * What a control has summed up after so many seconds that ended `over` K above the set point: nothing beyond what lets it
 * come down from `cap` once the air is within `FULL_OVER_K`, as controls are kept from winding up.
 */
export function summedUp(
  integral: number,
  { over, seconds, cap }: { over: number; seconds: number; cap: number },
  integralS = INTEGRAL_S,
): number {
  if (over >= FULL_OVER_K) return cap - GAIN_PER_K * FULL_OVER_K;
  return Math.min(cap, Math.max(0, integral + (GAIN_PER_K * over * seconds) / integralS));
}

/** Speed that a variable-speed unit's control asks for in a piece: within its ramp, its lowest speed and what the fan allows. */
export function variableSpeed(state: UnitState, unit: UnitParameters, air: ControlledAir, seconds: number): number {
  const reach = state.speed + seconds / Math.max(1, unit.rampTime);
  return Math.min(state.cap, Math.max(LOWEST_SPEED, askedSpeed(state.integral, air)), Math.max(LOWEST_SPEED, reach));
}

/** Moves a unit on by the seconds that a piece took and that left the cabin at `airC`. */
export function moveUnit(state: UnitState, unit: UnitParameters, seconds: number, airC: number): void {
  state.sinceSwitch += seconds;
  if (unit.fixed || !state.on) return;
  const over = airC - (state.lowest + state.highest) / 2;
  state.integral = summedUp(state.integral, { over, seconds, cap: state.cap });
}

/** Cooling over full that a fan lets a unit give. */
export const fanCap = (fixed: boolean, mode: number): number => (fixed ? FAN_CAPS.fixed : FAN_CAPS.variable)[mode]!;

/** W that a fixed-speed unit draws less for its fan than on the high one. */
export const fanSaved = (lowFanSaving: number, mode: number): number =>
  mode === MODE.low ? lowFanSaving : mode === MODE.medium ? lowFanSaving / 2 : 0;

/** W that a running unit draws with its fan and pump. */
export function runningDraw(state: UnitState, unit: UnitParameters, mode: number): number {
  const draw = unit.fixed
    ? state.power - fanSaved(unit.lowFanSaving, mode)
    : state.power * variablePowerShare(state.speed, unit.bend);
  return Math.max(unit.fan, draw) + unit.pump;
}

/** W that a unit draws with its compressor at rest: its fan, where the fan goes on. */
export function restingDraw(unit: Pick<UnitParameters, "fan" | "fanLow" | "fanBetween">, mode: number): number {
  if (mode !== MODE.fan && !unit.fanBetween) return 0;
  return mode === MODE.low ? unit.fanLow : unit.fan;
}
