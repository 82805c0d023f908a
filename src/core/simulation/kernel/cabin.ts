import { LATENT_HEAT, saturationRatio, type MoistAir } from "../../reference/air/moist";

/*
 * The cabin as two nodes, air with its lining and the mass behind it, and its moisture:
 *   C_a dT_a/dt = G (T_e - T_a) + G_m (T_m - T_a) + Q_a,   C_m dT_m/dt = G_m (T_a - T_m) + Q_m,
 * moved by their exact solution while their surroundings stay as they are.
 */

/** What the exact solution keeps for one conductance and one duration: its exponentials are worked out once for many steps. */
export interface TwoNodes {
  airHeatCapacity: number;
  massHeatCapacity: number;
  coupling: number;
  conductance: number;
  seconds: number;
  even: number;
  odd: number;
  drift: number;
  a11: number;
  a12: number;
  a22: number;
}

/** W/K from air to mass, J/K of each; all > 0. */
export function twoNodes(airCapacity: number, massCapacity: number, coupling: number): TwoNodes {
  return {
    airHeatCapacity: airCapacity,
    massHeatCapacity: massCapacity,
    coupling,
    conductance: NaN,
    seconds: NaN,
    even: 0,
    odd: 0,
    drift: 0,
    a11: 0,
    a12: coupling / airCapacity,
    a22: coupling / massCapacity,
  };
}

/** Makes the exponentials for `conductance` W/K to the surroundings, > 0, and a step of `seconds`. */
export function prepareNodes(nodes: TwoNodes, conductance: number, seconds: number): void {
  if (conductance === nodes.conductance && seconds === nodes.seconds) return;
  const { a12, a22 } = nodes;
  const a11 = (conductance + nodes.coupling) / nodes.airHeatCapacity;
  const drift = -(a11 + a22) / 2;
  const half = Math.sqrt(((a11 - a22) / 2) * ((a11 - a22) / 2) + a12 * a22);
  const slow = Math.exp((drift + half) * seconds);
  const fast = Math.exp((drift - half) * seconds);
  nodes.conductance = conductance;
  nodes.seconds = seconds;
  nodes.a11 = a11;
  nodes.drift = drift;
  nodes.even = (slow + fast) / 2;
  nodes.odd = (slow - fast) / (2 * half);
}

/** Where a step of the two nodes ends, degC, and by how much the air's slope changes over it, K/s. */
export interface NodesEnd {
  airC: number;
  massC: number;
  slope: number;
}

/**
 * The nodes at the end of the prepared step. `heat` is all that reaches the air in W, the outdoor temperature times its
 * conductances in it, `massHeat` what reaches the mass.
 */
// oxlint-disable-next-line max-params -- called at every step of every run: an object for its numbers would be made each time
export function moveNodes(
  nodes: TwoNodes,
  from: { airC: number; massC: number },
  heat: number,
  massHeat: number,
  end: NodesEnd,
): void {
  const { a11, a12, a22, drift, even, odd } = nodes;
  const settledAir = (heat + massHeat) / nodes.conductance;
  const settledMass = settledAir + massHeat / nodes.coupling;
  const x = from.airC - settledAir;
  const y = from.massC - settledMass;
  end.airC = settledAir + even * x + odd * ((-a11 - drift) * x + a12 * y);
  end.massC = settledMass + even * y + odd * (a22 * x + (-a22 - drift) * y);
  end.slope = a12 * (end.massC - settledMass - y) - a11 * (end.airC - settledAir - x);
}

/** What two nodes are in: W/K to surroundings of `outsideC`, W/K between them, J/K of each, W into each. All but the heats > 0. */
export interface NodesIn {
  conductance: number;
  outsideC: number;
  coupling: number;
  airCapacity: number;
  massCapacity: number;
  airHeat: number;
  massHeat: number;
}

/** Two nodes after `seconds` of constant surroundings, degC: one step by itself, for whoever has no run to go through. */
export function nodesAfter(from: { airC: number; massC: number }, seconds: number, at: NodesIn): NodesEnd {
  const nodes = twoNodes(at.airCapacity, at.massCapacity, at.coupling);
  const end = { airC: 0, massC: 0, slope: 0 };
  prepareNodes(nodes, at.conductance, seconds);
  moveNodes(nodes, from, at.conductance * at.outsideC + at.airHeat, at.massHeat, end);
  return end;
}

/** Least humidity ratio of a cabin: below it the wet bulb of the tables means nothing. */
const DRIEST = 0.0005;

/** Air changes and water given off, as they act on moisture: kg/s of air, its humidity ratio, kg/s of water, W of drying. */
export interface MoistureFlows {
  flow: number;
  outdoor: number;
  water: number;
  drying: number;
}

/**
 * Humidity ratio after `seconds` in a cabin that holds water as `held` kg of dry air do, implicit in the air changes; no
 * more than air of `airC` can hold, where windows run wet.
 */
// oxlint-disable-next-line max-params -- called at every step of every run: an object for its numbers would be made each time
export function moistureAfter(
  humidity: number,
  seconds: number,
  held: number,
  flows: MoistureFlows,
  air: MoistAir,
  airC: number,
): number {
  const rate = flows.flow / held;
  const gained = rate * flows.outdoor + (flows.water - flows.drying / LATENT_HEAT) / held;
  const next = (humidity + seconds * gained) / (1 + rate * seconds);
  return Math.min(Math.max(next, DRIEST), saturationRatio(air, airC));
}
