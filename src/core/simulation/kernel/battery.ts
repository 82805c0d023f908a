import { openCircuitVoltage, effectiveCurrent, type BankModel } from "../../models/battery/battery";

/*
 * The battery of a run: an open-circuit voltage by state of charge behind a resistance and one slow RC pair, with loads
 * of constant power along the wiring to the inverter and at its own terminals.
 */

/** The slow part of a cell's voltage drop over its ten-second resistance, and the seconds in which it settles. */
const SLOW_RESISTANCE = 0.5;
const SLOW_SECONDS = 300;
/** Ohm of a battery whose volts have settled under a steady current. */
export const settledResistance = ({ innerResistance, cellResistance }: BankModel): number =>
  innerResistance + SLOW_RESISTANCE * cellResistance;
/** Charge put back over charge taken: LFP and NMC, and lead (common practice, no source). */
const CHARGE_EFFICIENCY = { lithium: 0.99, lead: 0.9 } as const;
export const chargeEfficiency = (lithium: boolean): number => CHARGE_EFFICIENCY[lithium ? "lithium" : "lead"];

const PIECES = 1000;

/** What a run holds constant of its battery. */
export interface Battery {
  model: BankModel;
  lithium: boolean;
  /** Open-circuit volts by thousandths of charge, one more at the end. */
  openCircuit: Float64Array;
  coulombs: number;
  /** Ohm: open circuit to the terminals at once, the slow part, and the wiring to the inverter. */
  resistance: number;
  slowResistance: number;
  pathResistance: number;
  efficiency: number;
  /** A that it takes before it nears full. */
  bulkCurrent: number;
}

export function batteryOf(
  model: BankModel,
  rest: { lithium: boolean; pathResistance: number; bulkCurrent: number },
): Battery {
  const openCircuit = new Float64Array(PIECES + 2);
  for (let p = 0; p <= PIECES; p++) openCircuit[p] = openCircuitVoltage(model, p / PIECES);
  openCircuit[PIECES + 1] = openCircuit[PIECES]!;
  return {
    model,
    openCircuit,
    coulombs: model.capacityAh * 3600,
    resistance: model.innerResistance,
    slowResistance: SLOW_RESISTANCE * model.cellResistance,
    efficiency: chargeEfficiency(rest.lithium),
    ...rest,
  };
}

/** Open-circuit volts at a state of charge from 0 to 1, straight between thousandths. */
export function openCircuitAt({ openCircuit }: Battery, stateOfCharge: number): number {
  const at = stateOfCharge * PIECES;
  const cell = at < PIECES ? Math.floor(at) : PIECES;
  return openCircuit[cell]! + (openCircuit[cell + 1]! - openCircuit[cell]!) * (at - cell);
}

/** Charging current over that in bulk as the battery nears full: lithium tapers at the very end, lead from 80 % on. */
export function taper(lithium: boolean, stateOfCharge: number): number {
  if (lithium) return stateOfCharge > 0.97 ? Math.max(0.02, (1 - stateOfCharge) / 0.03) : 1;
  return stateOfCharge > 0.8 ? Math.max(0.03, Math.exp(-(stateOfCharge - 0.8) * 14)) : 1;
}

/** A that the battery takes for the next `seconds`: by its taper, by its charging volts, and by the room it has left. */
export function acceptedCurrent(battery: Battery, stateOfCharge: number, openVolts: number, seconds: number): number {
  let takes = battery.bulkCurrent * taper(battery.lithium, stateOfCharge);
  const byVolts = (battery.model.chargeToVoltage - openVolts) / battery.resistance;
  if (byVolts < takes) takes = byVolts > 0 ? byVolts : 0;
  if (stateOfCharge >= 1) takes = 0;
  const room = ((1 - stateOfCharge) * battery.coulombs) / (seconds * battery.efficiency);
  return room < takes ? room : takes;
}

/** Currents and volts of the battery with its loads on: A out of it, V at its terminals, A and V along the wiring. */
export interface BusState {
  current: number;
  volts: number;
  pathCurrent: number;
  farVolts: number;
  /** W of the sources that load and battery take up. */
  used: number;
  /** No voltage solves the load along the wiring, or that at the terminals. */
  collapsed: boolean;
  sunk: boolean;
}

/** Powers in W on a battery: along the wiring, at its terminals, and from the sources there; A that it takes at most. */
export interface BusLoads {
  onPath: number;
  atTerminals: number;
  sources: number;
  takes: number;
}

/**
 * Solves the battery's terminals: loads of constant power along the wiring and at the terminals, sources there too. Three
 * rounds between the two; what the battery will not take is cut back from the sources.
 */
// oxlint-disable-next-line max-params -- called at every step of every run: an object for its numbers would be made each time
export function solveBus(battery: Battery, openVolts: number, loads: BusLoads, before: number, bus: BusState): void {
  const { resistance: R, pathResistance: Rp } = battery;
  const { onPath, atTerminals, sources, takes } = loads;
  const E = openVolts;
  let sideCurrent = (atTerminals - sources) / before;
  let pathCurrent = 0;
  let collapsed = false;
  let sunk = false;
  let volts = before;
  let used = sources;
  for (let round = 0; round < 3; round++) {
    const seen = E - sideCurrent * R;
    const inner = seen * seen - 4 * (R + Rp) * onPath;
    if (inner < 0 || seen <= 0) {
      collapsed = true;
      pathCurrent = seen > 0 ? seen / (2 * (R + Rp)) : 0;
    } else pathCurrent = onPath > 0 ? (2 * onPath) / (seen + Math.sqrt(inner)) : 0;
    // What is at the terminals draws or brings a power: its current there in closed form, which a battery of much
    // resistance would not come to by going round.
    const open = E - pathCurrent * R;
    const under = open * open - 4 * (atTerminals - sources) * R;
    volts = under > 0 ? (open + Math.sqrt(under)) / 2 : 0;
    if (volts < E / 4) {
      volts = E / 4;
      sunk = true;
    } else sunk = false;
    sideCurrent = (atTerminals - sources) / volts;
  }
  let current = pathCurrent + sideCurrent;
  if (-current > takes) {
    current = -takes;
    volts = E + takes * R;
    const inner = volts * volts - 4 * Rp * onPath;
    if (inner < 0) collapsed = true;
    pathCurrent = onPath > 0 ? (volts - Math.sqrt(Math.max(0, inner))) / (2 * Rp) : 0;
    if (Rp * onPath < 1e-6 * volts * volts) pathCurrent = onPath / volts;
    used = Math.min(sources, Math.max(0, (takes + pathCurrent) * volts + atTerminals));
  }
  bus.current = current;
  bus.volts = volts;
  bus.pathCurrent = pathCurrent;
  bus.farVolts = volts - pathCurrent * Rp;
  bus.used = used;
  bus.collapsed = collapsed;
  bus.sunk = sunk;
}

/** A that count against the capacity: by Peukert where they go out, less what charging loses where they come in. */
export const countedCurrent = (model: BankModel, efficiency: number, current: number): number =>
  current > 0 ? effectiveCurrent(current, model.ratedCurrent, model.peukert) : current * efficiency;

/**
 * A by which a battery's charge falls as it shows once it has rested: what goes out, less what charging loses. A percentage
 * counted by Peukert, as monitors do, falls faster at high draw and is wrong about what is left after a rest.
 */
export const restedCurrent = (efficiency: number, current: number): number =>
  current > 0 ? current : current * efficiency;

/** State of charge after `seconds` at a current, 0 to 1. */
export function chargeAfter(battery: Battery, stateOfCharge: number, current: number, seconds: number): number {
  const next =
    stateOfCharge - (countedCurrent(battery.model, battery.efficiency, current) * seconds) / battery.coulombs;
  return next > 1 ? 1 : next < 0 ? 0 : next;
}

/** J out of the store between two states of charge, at the open-circuit volts half way. */
export const storedBetween = (battery: Battery, from: number, to: number): number =>
  openCircuitAt(battery, (from + to) / 2) * (from - to) * battery.coulombs;

/** Part of the slow voltage that is left after `seconds`. */
export const slowLeft = (seconds: number): number => Math.exp(-seconds / SLOW_SECONDS);
