import { describe, expect, it } from "vitest";
import type { BankModel } from "../../models/battery/battery";
import { LONGEST_S, openCircuitSteps, runDown } from "./run-down";

const bank = (change: Partial<BankModel> = {}): BankModel => ({
  linkResistance: 0,
  innerResistance: (change.cellResistance ?? 0) + (change.protectionResistance ?? 0),
  shares: [1],
  chemistry: "lfp",
  cellsInSeries: 4,
  nominalVoltage: 12.8,
  capacityAh: 100,
  startSoc: 1,
  reserveSoc: 0.2,
  stopVoltage: 0,
  chargeToVoltage: 14.2,
  cellResistance: 0,
  protectionResistance: 0,
  continuousCurrent: 100,
  chargeCurrent: 50,
  hotShare: 1,
  chargeShare: 1,
  peakCurrent: 200,
  peakTime: 3,
  peukert: 1,
  ratedCurrent: 5,
  ...change,
});
const run = (model: BankModel, levels: [share: number, power: number][], cutOffVoltage = 0, pathResistance = 0) =>
  runDown(
    { bank: model, rest: openCircuitSteps(model), pathResistance, cutOffVoltage },
    levels.map(([share, pathPower]) => ({ share, pathPower, sidePower: 0 })),
  );

describe("a battery run down", () => {
  it("without resistance gives its stored energy and no more: time is the integral of E dQ over power", () => {
    const { toCutOff, energyBetween } = run(bank(), [[1, 500]]);
    expect(toCutOff / 3600).toBeCloseTo(energyBetween(1, 0) / 500, 6);
    // Trapezoid over the published points of the rest curve, four cells of 100 Ah.
    const s = [0, 0.05, 0.1, 0.2, 0.3, 0.4, 0.5, 0.6, 0.7, 0.8, 0.9, 0.95, 1];
    const v = [2.6, 3.05, 3.18, 3.23, 3.26, 3.28, 3.29, 3.3, 3.32, 3.33, 3.335, 3.34, 3.4];
    const area = s.slice(1).reduce((sum, x, i) => sum + ((x - s[i]!) * (v[i]! + v[i + 1]!)) / 2, 0);
    expect(energyBetween(1, 0)).toBeCloseTo(area * 4 * 100, 3);
  });
  it("with resistance agrees with a fine integration of the same circuit within 0.1 %", () => {
    const model = bank({ cellResistance: 0.004, protectionResistance: 0.002 });
    const { toReserve } = run(model, [[1, 1200]], 0, 0.003);
    const rest = openCircuitSteps(model);
    let seconds = 0;
    for (let share = 1; share > 0.2; share -= 1e-5) {
      const piece = rest[Math.min(199, Math.floor(share * 200))]!;
      const current = (piece - Math.sqrt(piece * piece - 4 * 0.009 * 1200)) / 0.018;
      seconds += (1e-5 * 100 * 3600) / current;
    }
    expect(toReserve / seconds).toBeCloseTo(1, 3);
  });
  it("two draws in turn last as long as their mean where nothing is lost", () => {
    expect(
      run(bank(), [
        [0.25, 1000],
        [0.75, 200],
      ]).toReserve,
    ).toBeCloseTo(run(bank(), [[1, 400]]).toReserve, 3);
  });
  it("two draws in turn lose more than their mean where there is resistance", () => {
    const model = bank({ cellResistance: 0.01 });
    expect(
      run(model, [
        [0.25, 1000],
        [0.75, 200],
      ]).toReserve,
    ).toBeLessThan(run(model, [[1, 400]]).toReserve);
  });
  it("ends before the reserve where the inverter's cut-off comes first, and says so", () => {
    const result = run(bank({ cellResistance: 0.01 }), [[1, 1000]], 12.3);
    expect(result.cutOffBy).toBe("inverter");
    expect(result.cutOffSoc).toBeGreaterThan(0.2);
    expect(result.toReserve).toBe(result.toCutOff);
  });
  it("ends by the battery's own stop where that comes first", () => {
    expect(run(bank({ stopVoltage: 12.4 }), [[1, 100]]).cutOffBy).toBe("bank");
  });
  it("does not begin where the voltage is under the cut-off from the start", () => {
    expect(run(bank({ cellResistance: 0.02 }), [[1, 1500]], 13).toReserve).toBe(0);
  });
  it("of nothing drawn lasts the longest that is told apart", () => {
    expect(run(bank(), [[1, 0]]).toCutOff).toBe(LONGEST_S);
  });
  it("knows the level after a time: all of the run leaves the reserve, half of it more", () => {
    const result = run(bank({ cellResistance: 0.004 }), [[1, 600]]);
    expect(result.socAfter(result.toReserve)).toBeCloseTo(0.2, 6);
    expect(result.socAfter(result.toReserve / 2)).toBeCloseTo(0.6, 1);
    expect(result.socAfter(0)).toBe(1);
    expect(result.socAfter(1e9)).toBe(result.cutOffSoc);
  });
});
