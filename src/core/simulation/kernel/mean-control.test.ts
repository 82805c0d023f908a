import { describe, expect, it } from "vitest";
import { coolingTo, fixedCooling, ledCooling, variableCooling, type HeldCabin, type MeanControl } from "./mean-control";

/** A cabin that rises to 32 degC in a step with its unit at rest; 20 W/K, a unit of 600 W, 24 degC set, a band of 1 K. */
const cabin = (change: Partial<HeldCabin> = {}): HeldCabin => ({
  ...{ heat: 640, conductance: 20, airC: 30, setC: 24, halfBand: 0.5, seconds: 300 },
  ...{ sensible: 600, cap: 1, load: 1 },
  ...change,
});
const fresh = (change: Partial<MeanControl> = {}): MeanControl => ({
  ...{ settled: false, resting: false, integral: 0 },
  ...change,
});
/** The air at the step's end, degC. */
const endC = (at: HeldCabin, cooling: number) => (at.heat - cooling / at.load) / at.conductance;

describe("cooling to a temperature", () => {
  it.each([
    ["what brings the air there", {}, 26, 120],
    ["no more than the unit has", {}, -10, 600],
    ["no more than its fan lets through", { cap: 0.1 }, 26, 60],
    ["none to warm it", {}, 35, 0],
    ["what the load weighs", { load: 1.5 }, 26, 180],
  ])("is %s", (_, change, aimC, cooling) => expect(coolingTo(aimC, cabin(change))).toBeCloseTo(cooling, 9));
});

describe("a fixed-speed unit in the mean of its cycles", () => {
  it("pulls down to the low end of its band, rests until the set point, and is held there from then on", () => {
    const state = fresh();
    expect(fixedCooling(state, cabin({ sensible: 100 }))).toBe(100);
    expect(state).toMatchObject({ settled: false, resting: false });
    const at = cabin();
    expect(endC(at, fixedCooling(state, at))).toBeCloseTo(23.5, 9);
    expect(state).toMatchObject({ settled: true, resting: true });
    expect(fixedCooling(state, cabin({ heat: 23.7 * 20, airC: 23.5 }))).toBe(0);
    const back = cabin({ airC: 23.7 });
    expect(endC(back, fixedCooling(state, back))).toBeCloseTo(24, 9);
    expect(state.resting).toBe(false);
  });
  it("pulls down again once the cabin has got away from it", () => {
    const state = fresh({ settled: true });
    expect(fixedCooling(state, cabin({ airC: 24.79, sensible: 100 }))).toBe(100);
    expect(state.settled).toBe(true);
    fixedCooling(state, cabin({ airC: 24.81, sensible: 100 }));
    expect(state.settled).toBe(false);
  });
});

describe("a variable-speed unit in the mean", () => {
  it("goes at full while the air is far above, and comes down to hold the set point by its control", () => {
    const state = fresh();
    // 480 W/K of air over a step and 20 to the outside; 300 W hold it at 24 degC, half of what the unit has.
    const step = (airC: number) => cabin({ heat: 480 * airC + 780, conductance: 500, airC });
    let airC = 30;
    expect(variableCooling(state, step(airC), 900)).toBe(600);
    for (let i = 0; i < 200; i++) airC = endC(step(airC), variableCooling(state, step(airC), 900));
    expect(airC).toBeCloseTo(24, 2);
    expect(state.integral).toBeCloseTo(0.5, 2);
  });
  it("asked for less than its lowest speed gives that down to the low end of its band, and rests", () => {
    const state = fresh();
    const cool = cabin({ heat: 24.05 * 20, airC: 24 });
    expect(variableCooling(state, cool, 900)).toBeCloseTo(0.55 * 20, 9);
    expect(state).toMatchObject({ settled: true, resting: true });
    expect(variableCooling(state, cabin({ heat: 23.6 * 20 }), 900)).toBe(0);
  });
  it("goes by its speed again once more is asked", () => {
    const state = fresh({ settled: true });
    variableCooling(state, cabin({ heat: 24 * 20 + 170 }), 900);
    expect(state.settled).toBe(false);
  });
});

describe("led by the cabin as it was read", () => {
  it("a unit takes out what brings its air there, whatever it was doing", () => {
    const state = fresh({ resting: true });
    const at = cabin();
    expect(endC(at, ledCooling(state, at, 29))).toBeCloseTo(29, 9);
    expect(state).toMatchObject({ settled: true, resting: false });
    expect(state.integral).toBeCloseTo(0.1, 9);
  });
});
