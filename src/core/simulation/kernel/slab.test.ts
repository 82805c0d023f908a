import { describe, expect, it } from "vitest";
import { moveSlab, slabCabin, slabConductance, slabHeat, type SlabCabin, type SlabState } from "./slab";

const CONDUCTANCE = 60;
const CAPACITY = 1.5e6;
const STEP_S = 120;

/** Where a cabin without heat of its own is after so many steps, losing `loss` W/K to surroundings at 0 degC. */
function after(cabin: SlabCabin, from: SlabState, steps: number, loss = 0): SlabState {
  const state = { ...from };
  for (let i = 0; i < steps; i++)
    moveSlab(cabin, state, slabHeat(cabin, state, 0, 0) / slabConductance(cabin, loss), 0);
  return state;
}

describe("the slow mass of a cabin", () => {
  // So much air that its temperature stands: the slab's face is held at 20 degC.
  const held = slabCabin(1e15, CAPACITY, CONDUCTANCE, STEP_S);
  const from = { cabinC: 20, massC: 30, deepC: 30 };
  const first = 8 / Math.PI ** 2;
  /** Time constant of the slab's first mode, s. */
  const tau = (first * CAPACITY) / (CONDUCTANCE / 2);
  /** Heat out of a slab over what it holds, by t: Carslaw and Jaeger 1959, 3.3 (from memory). */
  const given = (t: number) => {
    let left = 0;
    for (let n = 1; n < 80; n += 2) left += (first / (n * n)) * Math.exp((-n * n * t) / tau);
    return 1 - left;
  };
  // Two modes for all of them: a little off before the first has begun to lead.
  it.each([
    [0.5, 0.03],
    [1, 0.02],
    [1.5, 0.01],
    [2, 0.01],
    [3, 0.01],
  ])("has given by %f of its time constant what a slab has, within %f", (share, off) => {
    const { massC, deepC } = after(held, from, (share * tau) / STEP_S);
    const left = (1 - first) * (massC - 20) + first * (deepC - 20);
    expect(Math.abs(1 - left / 10 - given(share * tau))).toBeLessThan(off);
  });
  it("goes on giving where one exponential of its heat and conductance would be over", () => {
    const { massC, deepC } = after(held, from, (2 * tau) / STEP_S);
    const flow = (CONDUCTANCE / 2) * (massC - 20 + deepC - 20);
    expect(flow).toBeGreaterThan(1.5 * CONDUCTANCE * 10 * Math.exp((-2 * tau * CONDUCTANCE) / CAPACITY));
  });
});

describe("a step of the cabin", () => {
  const air = 8e4;
  const cabin = slabCabin(air, CAPACITY, CONDUCTANCE, STEP_S);
  const deep = 8 / Math.PI ** 2;
  const stored = ({ cabinC, massC, deepC }: SlabState) => air * cabinC + CAPACITY * ((1 - deep) * massC + deep * deepC);
  it.each([0, 25, 400])("keeps account of every joule, with %d W/K to the outside", (loss) => {
    const state = { cabinC: 31, massC: 29, deepC: 27 };
    const before = stored(state);
    const [heat, massHeat, taken] = [loss * 35 + 300, 80, 900];
    const airC = (slabHeat(cabin, state, heat, massHeat) - taken) / slabConductance(cabin, loss);
    moveSlab(cabin, state, airC, massHeat);
    // Heat for the mass comes to each of its two nodes.
    const came = (heat - taken - loss * state.cabinC + 2 * massHeat) * STEP_S;
    expect(stored(state) - before).toBeCloseTo(came, 4);
  });
  it("comes to rest at its surroundings, in steps of any length", () => {
    const long = slabCabin(air, CAPACITY, CONDUCTANCE, 1e7);
    const { cabinC, massC, deepC } = after(long, { cabinC: 30, massC: 25, deepC: 20 }, 40, 50);
    for (const degrees of [cabinC, massC, deepC]) expect(Math.abs(degrees)).toBeLessThan(1e-6);
  });
});
