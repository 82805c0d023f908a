import { CHARGER_EFFICIENCY } from "../../models/charging/supply";
import type { Battery, BusLoads, BusState } from "./battery";

/*
 * What feeds the loads: shore or a generator up to its limit, an inverter-charger that adds from the battery, or the
 * battery alone; what the sources bring, solar first; and what ends the supply, and brings it back.
 */

/** Why supply from the battery ended. */
export type StopCause = "inverter" | "bank" | "empty" | "overload" | "protection" | "unit";

/** The inverter as a run needs it: W and V. */
export interface InverterParameters {
  idlePower: number;
  lossShare: number;
  lossRise: number;
  rating: number;
  /** W at which it gives up; Infinity where only the battery is asked. */
  overload: number;
  cutOffVoltage: number;
  /** Its losses warm the cabin. */
  inside: boolean;
}

/** What is cut: nothing, all that hangs on the inverter or the main circuit, or the battery itself. */
export const CUT = { none: 0, main: 1, battery: 2 } as const;

/** Supply as it stands. States of charge are those at which something was cut, from which it comes back. */
export interface SupplyState {
  cut: number;
  cutAt: number;
  /** DC units beside an inverter are off, since the volts fell to the cut-off of one of them. */
  directOff: boolean;
  directOffAt: number;
  generatorOn: boolean;
  /** The first end of supply: seconds from the first counted step, NaN while there was none. */
  stopAt: number;
  stopCause: StopCause;
  secondsCut: number;
}

export const supplyStanding = (): SupplyState => ({
  cut: CUT.none,
  cutAt: 0,
  directOff: false,
  directOffAt: 0,
  generatorOn: false,
  stopAt: NaN,
  stopCause: "inverter",
  secondsCut: 0,
});

/** A cut supply comes back when the battery has this much more than when it was cut. */
const COMES_BACK = 0.1;
/** A battery that switched itself off lets charge in, and so its terminals back, after this much. */
const WAKES = 0.02;
const NEARLY_FULL = 0.98;

const isBack = (stateOfCharge: number, cutAt: number): boolean =>
  stateOfCharge >= Math.min(NEARLY_FULL, cutAt + COMES_BACK);

/** Keeps the first end of supply; an overload, which only a start was refused for, gives way to an end `forGood`. */
export function noteStop(supply: SupplyState, at: number, cause: StopCause, forGood = false): void {
  if (!Number.isNaN(supply.stopAt) && !(forGood && supply.stopCause === "overload")) return;
  supply.stopAt = at;
  supply.stopCause = cause;
}

/** What a run holds constant of its supply: W, A and V. */
export interface SupplyParameters {
  converted: boolean;
  inverter: InverterParameters;
  /** An inverter-charger adds from the battery what the supply's limit leaves short. */
  assist: boolean;
  /** A of the charger behind shore or generator. */
  chargerCurrent: number;
  /** A that the battery's protection lets out for hours. */
  dischargeLimit: number;
  /** V at its far end at which DC units on the main circuit switch themselves off; V of the battery for those on their own. */
  directCutOff: number;
  besideCutOff: number;
}

/** W of the mains loads and what feeds them: `limit` of shore or generator, 0 without; what it gives of the demand. */
export interface Feed {
  limit: number;
  demand: number;
  fed: boolean;
  helped: number;
}

/** W that shore or generator could give, and W that units and loads ask of the mains side. */
export interface MainsAsked {
  limit: number;
  units: number;
  loads: number;
}

/**
 * Decides what feeds the mains loads. False where the units are too much for it: then they do not start, and the loads
 * stay.
 */
export function decideFeed(
  feed: Feed,
  supply: SupplyState,
  { assist, inverter }: SupplyParameters,
  asked: MainsAsked,
): boolean {
  const { limit, units } = asked;
  const demand = units + asked.loads;
  const fed = limit > 0 && demand <= limit;
  // An inverter-charger takes what the supply gives and adds the rest from the battery.
  const helped = !fed && assist && limit > 0 && supply.cut === CUT.none ? limit : 0;
  const over = demand - helped > inverter.overload;
  if (!fed && units > 0 && (supply.cut > CUT.none || over)) return false;
  feed.limit = limit;
  feed.fed = fed;
  feed.helped = helped;
  feed.demand = fed ? demand : supply.cut > CUT.none ? 0 : over ? inverter.overload + helped : demand;
  return true;
}

/** W that the inverter takes beyond what it gives. */
export const inverterLoss = (inverter: InverterParameters, made: number): number =>
  inverter.idlePower + inverter.lossShare * made + (inverter.lossRise * made * made) / inverter.rating;

/** What the sources could bring and what the loads take, W; refilled by step and piece. */
export interface PowerFlows {
  solar: number;
  engine: number;
  /** W of the inverter's AC side, and what it loses. */
  made: number;
  inverterLoss: number;
  /** W of DC units on the main circuit, and of all at the battery's terminals. */
  direct: number;
  atTerminals: number;
  /** What was used, solar first, then the engine, then the charger; and what the charger drew. */
  solarUsed: number;
  engineUsed: number;
  chargerUsed: number;
  chargerDrawn: number;
}

/** Puts the loads and sources of one piece on the battery: W, and A that it takes. */
// oxlint-disable-next-line max-params -- called at every step of every run: an object for its numbers would be made each time
export function loadBus(
  loads: BusLoads,
  flows: PowerFlows,
  feed: Feed,
  supply: SupplyState,
  { converted, inverter, chargerCurrent }: SupplyParameters,
  volts: number,
): void {
  flows.made = feed.fed ? 0 : feed.demand - feed.helped;
  flows.inverterLoss = feed.fed || !converted || supply.cut > CUT.none ? 0 : inverterLoss(inverter, flows.made);
  loads.onPath = flows.made + flows.inverterLoss + flows.direct;
  const spare = feed.limit > 0 ? feed.limit - (feed.fed ? feed.demand : feed.helped) : 0;
  const charger = Math.min(spare * CHARGER_EFFICIENCY, chargerCurrent * volts);
  loads.sources = flows.solar + flows.engine + charger;
  loads.atTerminals = flows.atTerminals;
}

/** Shares what was used among the sources: solar serves first, then the engine, then the charger. */
export function shareSources(flows: PowerFlows, used: number): void {
  flows.solarUsed = Math.min(flows.solar, used);
  flows.engineUsed = Math.min(flows.engine, Math.max(0, used - flows.solarUsed));
  flows.chargerUsed = Math.max(0, used - flows.solarUsed - flows.engineUsed);
  flows.chargerDrawn = flows.chargerUsed / CHARGER_EFFICIENCY;
}

/** Whether the volts fall to the cut-off of a DC unit beside an inverter; `draws` are the W of those units now. */
export function directOpens(
  supply: SupplyState,
  draws: { beside: number; direct: number },
  bus: BusState,
  { converted, besideCutOff, directCutOff }: SupplyParameters,
): boolean {
  if (!converted || supply.directOff || bus.current <= 0) return false;
  return (draws.beside > 0 && bus.volts < besideCutOff) || (draws.direct > 0 && bus.farVolts < directCutOff);
}

/** What a supply may end by, beside the volts: loads and sources in W, the charge, and V at which the battery's board opens. */
export interface SupplyLoad {
  loads: BusLoads;
  flows: PowerFlows;
  stateOfCharge: number;
  stopVoltage: number;
}

/** What ends the supply at these volts and this charge, or null. */
export function endOfSupply(
  supply: SupplyState,
  { converted, inverter, directCutOff }: SupplyParameters,
  bus: BusState,
  at: SupplyLoad,
): StopCause | null {
  const { loads, flows, stateOfCharge, stopVoltage } = at;
  const standing = supply.cut === CUT.none;
  if (!standing && !(supply.cut === CUT.main && (flows.atTerminals > 0 || flows.direct > 0))) return null;
  let cause: StopCause | null = null;
  if (bus.sunk) cause = "bank";
  else if (bus.collapsed && loads.onPath > 0) cause = converted && standing ? "inverter" : "bank";
  if (bus.current > 0) {
    const low = converted && flows.made > 0 && bus.farVolts < inverter.cutOffVoltage;
    if (standing && loads.onPath > 0 && (bus.collapsed || low)) cause = "inverter";
    if (standing && !converted && flows.direct > 0 && bus.farVolts < directCutOff) cause = "unit";
    if (bus.volts < stopVoltage || (bus.collapsed && !converted)) cause = "bank";
    if (stateOfCharge <= 1e-6) cause = "empty";
  }
  return cause;
}

/** Cuts what the cause cuts: the inverter its own side, all else the battery. */
export function cutSupply(supply: SupplyState, cause: StopCause, stateOfCharge: number): void {
  supply.cut = cause === "inverter" ? CUT.main : CUT.battery;
  supply.cutAt = stateOfCharge;
}

/** Brings back what was cut or switched itself off, once the battery has charged again; counts the seconds until then. */
export function comeBack(supply: SupplyState, stateOfCharge: number, current: number, seconds: number): void {
  if (supply.cut === CUT.none && !supply.directOff) return;
  supply.secondsCut += seconds;
  if (supply.directOff && isBack(stateOfCharge, supply.directOffAt)) supply.directOff = false;
  if (supply.cut === CUT.none) return;
  if (isBack(stateOfCharge, supply.cutAt)) supply.cut = CUT.none;
  else if (supply.cut === CUT.battery && current < 0 && stateOfCharge >= supply.cutAt + WAKES) supply.cut = CUT.main;
}

/** Of its fuel at full load, what a generator burns at none (common practice, no source). */
const IDLE_FUEL = 0.3;

/** Litres that a generator burns in `seconds` at a load: straight from idle to full. */
export const fuelBurnt = (fuel: { atFull: number; full: number }, drawn: number, seconds: number): number =>
  (seconds / 3600) * fuel.atFull * (IDLE_FUEL + (1 - IDLE_FUEL) * Math.min(1, drawn / fuel.full));

/** W along the wiring lost at its far current. */
export const pathLoss = ({ pathResistance }: Battery, current: number): number => current * current * pathResistance;
