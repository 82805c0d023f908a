/*
 * A cabin for steps of minutes: its air, and a slow mass that gives heat as a slab does. Boards and cushions take heat on one
 * face and conduct it inwards: of the modes of such a slab the first holds 8/pi^2 of its capacity, the others answer nine
 * times as fast and more, each with the same conductance (Carslaw and Jaeger 1959, chapter 3; from memory). Two nodes stand
 * for them: what answers soon, and what goes on for hours where one exponential would be over. Steps are implicit: the three
 * temperatures at a step's end are solved together, stable at any length.
 */

const DEEP_SHARE = 8 / Math.PI ** 2;

/** Such a cabin for steps of one length: W/K that each node's capacity stands for over a step, and its couplings. */
export interface SlabCabin {
  air: number;
  soon: number;
  late: number;
  /** W/K from the air to either node of the mass. */
  half: number;
  /** Parts of that which reach the air at the step's end. */
  fromSoon: number;
  fromLate: number;
}

/** Temperatures of such a cabin, degC: of the slow mass what answers soon and what answers late. */
export interface SlabState {
  cabinC: number;
  massC: number;
  deepC: number;
}

/** A cabin of so many J/K in its air and in its slow mass, W/K between them, in steps of `seconds`; all > 0. */
export function slabCabin(airCapacity: number, massCapacity: number, coupling: number, seconds: number): SlabCabin {
  const mass = massCapacity / seconds;
  const late = DEEP_SHARE * mass;
  const soon = mass - late;
  const half = coupling / 2;
  return {
    air: airCapacity / seconds,
    soon,
    late,
    half,
    fromSoon: half / (soon + half),
    fromLate: half / (late + half),
  };
}

/** Right side of the air's balance at a step's end, W: D T = N - Q, with Q W taken out. `heat` and `massHeat` as in `moveNodes`. */
export const slabHeat = (cabin: SlabCabin, from: SlabState, heat: number, massHeat: number): number =>
  cabin.air * from.cabinC +
  heat +
  cabin.fromSoon * (cabin.soon * from.massC + massHeat) +
  cabin.fromLate * (cabin.late * from.deepC + massHeat);

/** Factor D of that balance, W/K, with `conductance` W/K to the surroundings. */
export const slabConductance = (cabin: SlabCabin, conductance: number): number =>
  cabin.air + conductance + 2 * cabin.half - (cabin.fromSoon + cabin.fromLate) * cabin.half;

/** Moves a cabin to a step's end, at which its air has `airC`. */
export function moveSlab(cabin: SlabCabin, state: SlabState, airC: number, massHeat: number): void {
  const { half } = cabin;
  state.cabinC = airC;
  state.massC = (cabin.soon * state.massC + half * airC + massHeat) / (cabin.soon + half);
  state.deepC = (cabin.late * state.deepC + half * airC + massHeat) / (cabin.late + half);
}
