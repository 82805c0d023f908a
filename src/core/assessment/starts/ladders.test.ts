import { describe, expect, it } from "vitest";
import { jobOf, q } from "../../../../tests/jobs";
import { buildSystem } from "../../models/system/build";
import { assessStarts } from "./starts";

const laddersOf = (parts: Parameters<typeof jobOf>[0]) => {
  const system = buildSystem(jobOf(parts));
  return { system, ladders: assessStarts(system).ladders };
};
const unit = { runningCurrent: q(6), lockedRotorCurrent: q(30) };

describe("the ladder of volts at a start", () => {
  const { system, ladders } = laddersOf({ unit, bank: { temperatureC: q(25) } });
  it("goes from the battery at rest down to the inverter, part by part", () => {
    for (const { rest, end, rungs } of ladders) {
      const lost = rungs.reduce((sum, { drop }) => sum + drop, 0);
      expect(rest - lost).toBeCloseTo(end, 9);
      expect(rungs.at(-1)!.left).toBeCloseTo(end, 9);
    }
  });
  it("loses in each part its current times its resistance, and turns that to heat", () => {
    for (const { current, rungs } of ladders)
      for (const { name, resistance, drop, heat } of rungs) {
        // Nothing hangs beside the inverter here: one current passes them all.
        expect(drop, name).toBeCloseTo(resistance * current, 9);
        expect(heat, name).toBeCloseTo(resistance * current ** 2, 6);
      }
  });
  it("stands for the reserve, the battery as charged, and the reserve in the cold", () => {
    expect(ladders.map(({ state }) => state)).toEqual(["reserve", "charged", "cold"]);
    const [reserve, charged, cold] = ladders.map(({ end }) => end) as [number, number, number];
    expect(charged).toBeGreaterThan(reserve);
    expect(cold).toBeLessThan(reserve);
  });
  it("ends at the cut-off of what hangs at its end", () => {
    for (const { cutOff } of ladders) expect(cutOff).toBe(system.inverter.cutOffVoltage);
  });
  it("has no rung for the cold where the battery is as cold already, and none as charged where it stands at its reserve", () => {
    const bank = { temperatureC: q(0), startSoc: q(0.2), reserve: q(0.2) };
    expect(laddersOf({ unit, bank }).ladders.map(({ state }) => state)).toEqual(["reserve"]);
  });
  it("shows what a measured wiring has beside its parts as a rung of its own", () => {
    const measured = { current: q(100), bankVoltage: q(13), inverterVoltage: q(12) };
    const { ladders: found, system: built } = laddersOf({ unit, wiring: { measured } });
    const rung = found[0]!.rungs.find(({ name }) => name === "unaccounted")!;
    expect(rung.resistance).toBeCloseTo(0.01 - built.wiring.main.resistance, 9);
  });
});
