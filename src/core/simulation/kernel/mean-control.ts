import { LOWEST_SPEED } from "../../models/air-conditioner/air-conditioner";
import { askedSpeed, summedUp } from "./control";

/*
 * Thermostat and control over steps longer than a cycle: an edge is chance, and what empties a battery is the mean. From the
 * first pull-down to the low end of the band, at rest back up to the set point, held there in the mean from then on.
 */

/** K over its band at which a unit that held its set point is taken to pull down again. */
const LOST_HOLD_K = 0.3;
/** Of its lowest speed's cooling: asked for more than that, a variable unit that cycled goes by its speed again. */
const OVER_LOWEST = 1.1;

export interface MeanControl {
  /** The first touch of the low end of the band is behind it; of a variable unit, the one since it came to its lowest speed. */
  settled: boolean;
  resting: boolean;
  /** What a variable unit's control has summed up. */
  integral: number;
}

/** What a step is solved from: the cabin's balance at its end, D T = N - Q for Q W taken out, and what the unit can give. */
export interface HeldCabin {
  /** N in W, D in W/K, and the air at the step's beginning, degC. */
  heat: number;
  conductance: number;
  airC: number;
  setC: number;
  halfBand: number;
  seconds: number;
  /** W of dry cooling at full, and the most of it that fan and ramp let through. */
  sensible: number;
  cap: number;
  /** Factor on the heat that has to be taken out: on what is asked, and not on a unit that gives all it has. */
  load: number;
}

/** W taken out to come to `aimC` at the step's end, within what the unit gives. */
export const coolingTo = (aimC: number, { heat, conductance, sensible, cap, load }: HeldCabin): number =>
  Math.min(sensible * cap, Math.max(0, (heat - conductance * aimC) * load));

/** Whether the air is still below the set point at the step's end with the unit at rest; if not, the rest is over. */
function restsOn(state: MeanControl, { heat, conductance, setC }: HeldCabin): boolean {
  if (state.resting && heat / conductance >= setC) state.resting = false;
  return state.resting;
}

/** W that a fixed-speed unit takes out over a step. */
export function fixedCooling(state: MeanControl, cabin: HeldCabin): number {
  const { setC, halfBand } = cabin;
  const aimC = state.settled ? setC : setC - halfBand;
  if (state.settled && cabin.airC > setC + halfBand + LOST_HOLD_K) state.settled = false;
  const rests = restsOn(state, cabin);
  const asked = rests ? 0 : cabin.heat - cabin.conductance * aimC;
  if (!state.settled && asked <= cabin.sensible * cabin.cap) {
    state.settled = true;
    state.resting = true;
  }
  return rests ? 0 : coolingTo(aimC, cabin);
}

const free = { overAtRest: 0, perSpeed: 0 };
const under = { over: 0, seconds: 0, cap: 0 };

/** W that a variable-speed unit takes out over a step; its control sums up within `settlingS`. */
export function variableCooling(state: MeanControl, cabin: HeldCabin, settlingS: number): number {
  const { heat, conductance, setC, sensible, cap, load } = cabin;
  const rests = restsOn(state, cabin);
  let cooling = rests ? 0 : coolingTo(setC, cabin);
  if (!rests && !state.settled) {
    free.overAtRest = heat / conductance - setC;
    free.perSpeed = sensible / (conductance * load);
    const asked = (askedSpeed(state.integral, free) * sensible) / load;
    cooling = Math.min(sensible * cap, Math.max(0, asked * load));
  }
  const least = LOWEST_SPEED * sensible;
  if (cooling > OVER_LOWEST * least) state.settled = false;
  else if (!state.settled && !rests && cooling < least && cap > LOWEST_SPEED) {
    // It does not stop where it is asked for less than its least: it goes on to the low end of the band, rests, and
    // cycles about the set point from then on.
    const low = heat - conductance * (setC - cabin.halfBand);
    cooling = Math.max(0, Math.min(least, low));
    if (low <= least) {
      state.settled = true;
      state.resting = true;
    }
  }
  under.over = (heat - cooling / load) / conductance - setC;
  under.seconds = cabin.seconds;
  under.cap = cap;
  state.integral = state.settled ? Math.min(cap, cooling / sensible) : summedUp(state.integral, under, settlingS);
  return cooling;
}

/** W taken out, whatever the control does, where the cabin was read: it came to `aimC`. */
export function ledCooling(state: MeanControl, cabin: HeldCabin, aimC: number): number {
  state.resting = false;
  state.settled = true;
  const cooling = coolingTo(aimC, cabin);
  state.integral = Math.min(cabin.cap, cooling / cabin.sensible);
  return cooling;
}
