/* The physical parts one by one: inverter, unit, path, bank. Published values are checked under tests/published. */
import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { q, jobOf } from "../../../tests/jobs";
import { bankModel, openCircuitVoltage, coldFactor, effectiveCurrent } from "./battery/battery";
import { cellsInBlock, cellOpenCircuitVoltage, socAtOpenCircuit, type Chemistry } from "../reference/battery/chemistry";
import { bankUnderLoad, constantPower } from "./battery/under-load";
import { acFromDc, dcAdded, dcInput, inverterModel, surgePower } from "./inverter/inverter";
import { interpolate, interpolateLogLog } from "../units/interpolate";
import { AMPACITY_TABLES, routeFactor, tableAmpacity } from "../reference/conductors/ampacity";
import { cableResistance } from "../reference/conductors/cable";
import { FUSE_RATINGS, fuseSurvives, fuseUnder, nextFuseRating } from "../reference/conductors/fuse";
import { gaugeAreaMm2, gaugeName, gaugeOfArea, wholeGauge } from "../units/gauge";
import { resolveJob } from "../document/resolve";
import { startShape } from "../simulation/start/demand";
import { powerOverOutdoor } from "../assessment/verdicts/draw-curve";
import { heatFactor, partLoadFactor, variablePowerShare } from "./air-conditioner/air-conditioner";
import { assess } from "../assessment/verdicts/assess";
import { usesInverter } from "../document/resolve-wiring";

const inverterOf = (inverter: Parameters<typeof jobOf>[0] = {}) => inverterModel(resolveJob(jobOf(inverter)).inverter);

describe("interpolation", () => {
  it.each([
    [0, 10],
    [1, 10],
    [1.5, 15],
    [2, 20],
    [3, 10],
    [9, 10],
  ])("linear at %f: %f, constant beyond the ends", (x, y) => {
    expect(interpolate([1, 2, 3], [10, 20, 10], x)).toBeCloseTo(y, 9);
  });
  it("on log-log axes follows a power law inside and beyond its points", () => {
    const square = (x: number) => interpolateLogLog([1, 10, 100], [1, 100, 10_000], x);
    for (const x of [0.5, 1, 3, 10, 42, 1000]) expect(square(x) / (x * x)).toBeCloseTo(1, 9);
  });
});

describe("inverter", () => {
  it("adds up in parallel: rating, surge and idle draw", () => {
    const [one, three] = [
      inverterOf({ inverter: { rating: q(2000) } }),
      inverterOf({ inverter: { rating: q(2000), count: q(3) } }),
    ];
    expect(three.rating).toBe(3 * one.rating);
    expect(three.idlePower).toBe(3 * one.idlePower);
    expect(surgePower(three, 1)).toBeCloseTo(3 * surgePower(one, 1), 6);
  });
  it.each([
    [25, 3000],
    [40, 3000],
    [50, 3000 * 0.85],
    [60, 3000 * 0.7],
  ])("in a compartment at %i °C gives %i VA", (compartmentC, derated) => {
    expect(inverterOf({ inverter: { rating: q(3000), compartmentC: q(compartmentC) } }).derated).toBeCloseTo(
      derated,
      6,
    );
  });
  it("so hot that nothing is left gives nothing, not less", () => {
    expect(inverterOf({ inverter: { compartmentC: q(80), derateFromC: q(0), deratePerKelvin: q(0.2) } }).derated).toBe(
      0,
    );
  });
  it.each([
    [0.01, 2],
    [0.2, 2],
    [Math.sqrt(0.2 * 2), 1.75],
    [2, 1.5],
    [30, 1.2],
    [31, 1],
    [600, 1],
  ])("typical high-frequency surge at %f s: %f times its rating", (seconds, times) => {
    expect(surgePower(inverterOf({ inverter: { rating: q(1000), compartmentC: q(25) } }), seconds) / 1000).toBeCloseTo(
      times,
      6,
    );
  });
  it.each([
    [5, 2],
    [30, 1.5],
    [1800, 1.3],
  ])("typical transformer surge at %i s: %f times its rating", (seconds, times) => {
    const heavy = inverterOf({ inverter: { type: "transformer", rating: q(1000), compartmentC: q(25) } });
    expect(surgePower(heavy, seconds) / 1000).toBeCloseTo(times, 6);
  });
  it("takes surge points in any order", () => {
    const mixed = inverterOf({
      inverter: {
        rating: q(1000),
        surge1: q(1200),
        surge1Time: q(30),
        surge2: q(2000),
        surge2Time: q(0.2),
        surge3: q(1500),
        surge3Time: q(2),
      },
    });
    expect(surgePower(mixed, 0.1)).toBe(2000);
    expect(surgePower(mixed, 2)).toBeCloseTo(1500, 9);
  });
  it("is 90 to 92 % efficient at half load with the typical losses (common practice, no source)", () => {
    const machine = inverterOf({ inverter: { rating: q(3000) } });
    const efficiency = 1500 / dcInput(machine, 1500);
    expect(efficiency).toBeGreaterThan(0.9);
    expect(efficiency).toBeLessThan(0.93);
  });
  it("finds the AC watts that battery watts stand for, both ways", () => {
    fc.assert(
      fc.property(
        fc.double({ min: 1, max: 20_000, noNaN: true }),
        fc.double({ min: 0, max: 0.5, noNaN: true }),
        (power, rise) => {
          const machine = { ...inverterOf(), lossRise: rise };
          expect(acFromDc(machine, dcAdded(machine, power)) / power).toBeCloseTo(1, 9);
        },
      ),
    );
  });
});

describe("battery", () => {
  it.each<[Chemistry, number, number]>([
    ["lfp", 12.8, 4],
    ["lfp", 25.6, 8],
    ["lfp", 3.2, 1],
    ["agm", 12, 6],
    ["nmc", 36, 10],
    ["nmc", 51.1, 14],
    ["lfp", 1, 1],
  ])("%s of %f V holds %i cells", (chemistry, volts, cells) => {
    expect(cellsInBlock(chemistry, volts)).toBe(cells);
  });
  it.each<[Chemistry, number, number]>([
    ["lfp", 0.5, 3.29],
    ["lfp", 0.15, 3.205],
    ["nmc", 1, 4.18],
    ["agm", 0.5, 12.3 / 6],
  ])("%s rests at level %f at %f V a cell, and the other way round", (chemistry, share, volts) => {
    expect(cellOpenCircuitVoltage(chemistry, share)).toBeCloseTo(volts, 9);
    expect(socAtOpenCircuit(chemistry, volts)).toBeCloseTo(share, 9);
  });
  it.each([
    [40, 1],
    [25, 1],
    [0, 2],
    [-25, 4],
  ])("cells at %i °C have %f times their resistance", (temperature, factor) => {
    expect(coldFactor(temperature)).toBeCloseTo(factor, 9);
  });
  const modelOf = (bank: NonNullable<Parameters<typeof jobOf>[0]>["bank"]) => {
    const job = jobOf({ bank });
    return bankModel(resolveJob(job), job);
  };
  it("in series adds volts and resistance, in parallel amp-hours and amps", () => {
    const one = modelOf({ capacityAh: q(100), continuousCurrent: q(100), resistance: q(0.008) });
    const four = modelOf({
      capacityAh: q(100),
      continuousCurrent: q(100),
      resistance: q(0.008),
      series: q(2),
      parallel: q(2),
    });
    expect(openCircuitVoltage(four, 0.5)).toBeCloseTo(2 * openCircuitVoltage(one, 0.5), 9);
    expect(four.capacityAh).toBe(200);
    // One battery of a pair gives a tenth over its half: common practice, no source.
    expect(four.continuousCurrent).toBeCloseTo(200 / 1.1, 9);
    expect(four.cellResistance + four.protectionResistance).toBeCloseTo(0.008, 9);
  });
  it("of bare cells is limited by its one BMS, however many paths", () => {
    expect(modelOf({ build: "cells", parallel: q(3), continuousCurrent: q(120) }).continuousCurrent).toBe(120);
  });
  it("of lead-acid has no board: each path brings its own amps", () => {
    expect(
      modelOf({ chemistry: "agm", build: "cells", parallel: q(3), continuousCurrent: q(50) }).continuousCurrent,
    ).toBeCloseTo(150 / 1.1, 9);
  });
  it("counts no less than the current, and no gain below the rated one", () => {
    fc.assert(
      fc.property(
        fc.double({ min: 0.1, max: 500, noNaN: true }),
        fc.double({ min: 1, max: 1.6, noNaN: true }),
        (current, k) => {
          expect(effectiveCurrent(current, 5, k)).toBeGreaterThanOrEqual(current);
        },
      ),
    );
    expect(effectiveCurrent(2, 5, 1.3)).toBe(2);
  });
});

describe("a source under load", () => {
  it("gives the power that is asked: volts times amps, and the volts that are left", () => {
    fc.assert(
      fc.property(
        fc.double({ min: 10, max: 100, noNaN: true }),
        fc.double({ min: 0, max: 0.1, noNaN: true }),
        fc.double({ min: 0, max: 5000, noNaN: true }),
        (volts, ohms, watts) => {
          const { current, voltage, collapsed } = constantPower(volts, ohms, watts);
          if (collapsed) expect(watts).toBeGreaterThan((volts * volts) / (4 * ohms) - 1e-6);
          else expect(current * voltage).toBeCloseTo(watts, 5);
        },
      ),
    );
  });
  it("asks for more current the more the power, past the collapse as well", () => {
    const asked = [1000, 5000, 10_800, 10_890, 10_900, 20_000].map((watts) => constantPower(13.2, 0.004, watts).asked);
    asked.slice(1).forEach((current, i) => expect(current).toBeGreaterThan(asked[i]!));
  });
  it("with a side load balances volts, amps and watts at both places", () => {
    const state = bankUnderLoad(13.2, 0.004, 0.003, 1500, 120);
    const side = state.bankCurrent - state.pathCurrent;
    expect(state.bankVoltage).toBeCloseTo(13.2 - state.bankCurrent * 0.004, 9);
    expect(state.inverterVoltage).toBeCloseTo(state.bankVoltage - state.pathCurrent * 0.003, 9);
    expect(state.pathCurrent * state.inverterVoltage).toBeCloseTo(1500, 2);
    expect(side * state.bankVoltage).toBeCloseTo(120, 3);
  });
});

describe("path", () => {
  it.each([
    [4, "4"],
    [0, "1/0"],
    [-1, "2/0"],
    [-3, "4/0"],
  ])("gauge %i is written %s and found again from its area", (gauge, name) => {
    expect(gaugeName(gauge)).toBe(name);
    expect(wholeGauge(gaugeAreaMm2(gauge))).toBe(gauge);
    expect(gaugeOfArea(gaugeAreaMm2(gauge))).toBeCloseTo(gauge, 9);
  });
  it.each([35, 50, 70, 95])("%i mm² is no gauge", (area) => {
    expect(wholeGauge(area)).toBeNull();
  });
  it("two cables side by side have half the resistance of one", () => {
    expect(cableResistance(35, 2, 2, 20)).toBeCloseTo(cableResistance(35, 2, 1, 20) / 2, 12);
  });
  it("thicker cable always has less resistance and carries more, in both tables", () => {
    fc.assert(
      fc.property(
        fc.double({ min: 1, max: 140, noNaN: true }),
        fc.constantFrom("iso-10133", "abyc-e11"),
        (area, table) => {
          // 1 % apart and away from the step between solid AWG and stranded metric figures.
          expect(tableAmpacity(table, area * 1.01, "90")).toBeGreaterThanOrEqual(tableAmpacity(table, area, "90"));
        },
      ),
    );
    const sizes = AMPACITY_TABLES["iso-10133"].sizesMm2;
    sizes
      .slice(1)
      .forEach((size, i) => expect(cableResistance(size, 1, 1, 20)).toBeLessThan(cableResistance(sizes[i]!, 1, 1, 20)));
  });
  it("hotter insulation carries more; a bundle and an engine space take away", () => {
    for (const table of ["iso-10133", "abyc-e11"] as const) {
      expect(tableAmpacity(table, 35, "70")).toBeLessThan(tableAmpacity(table, 35, "90"));
      expect(tableAmpacity(table, 35, "90")).toBeLessThan(tableAmpacity(table, 35, "105"));
      for (const route of ["bundled", "engine"] as const) expect(routeFactor(table, "90", route)).toBeLessThan(1);
    }
  });
  it.each([
    [1, 5],
    [30, 30],
    [101, 125],
    [176, 200],
    [5000, 800],
  ])("the next fuse for %i A is %i A", (current, rating) => expect(nextFuseRating(current)).toBe(rating));
  it.each([
    [12, 10],
    [124, 100],
    [125, 125],
    [333, 300],
    [5000, 800],
  ])("the largest fuse under %i A is %i A", (current, rating) => expect(fuseUnder(current)).toBe(rating));
  it("a fuse carries less the longer it lasts, and 110 % for ever", () => {
    const times = [0.01, 0.1, 0.3, 1, 10, 120, 3600];
    const multiples = times.map(fuseSurvives);
    multiples.slice(1).forEach((multiple, i) => expect(multiple).toBeLessThan(multiples[i]!));
    expect(fuseSurvives(1e6)).toBe(1.1);
    expect(FUSE_RATINGS.every((rating, i) => i === 0 || rating > FUSE_RATINGS[i - 1]!)).toBe(true);
  });
});

describe("assumed parts fit together", () => {
  it.each([500, 1500, 3000, 3500, 5000])(
    "fuse and cable for an inverter of %i VA: the cable is protected, the fuse is large enough",
    (rating) => {
      const { verdicts } = assess(jobOf({ inverter: { rating: q(rating) }, unit: { runningCurrent: q(1) } }));
      const rules = verdicts.carries.checks.filter(
        ({ by, topic }) => topic !== undefined && by !== "inverter-full-draw" && topic !== "voltsLost",
      );
      expect(rules.filter(({ part }) => part === "wiring.main.3").map(({ by }) => by)).toEqual(
        expect.arrayContaining(["dc-ampacity", "dc-overcurrent"]),
      );
      expect(rules.filter(({ word }) => word === "Fails" || word === "Stop")).toEqual([]);
    },
  );
  it("an entered thin cable gets a fuse that protects it, not a stop", () => {
    const { values, verdicts } = assess(jobOf({ inverter: { rating: q(3000) }, cable: { areaMm2: q(35) } }));
    expect(values.wiring.main[0]!.rating!.value).toBe(175);
    expect(verdicts.carries.word).not.toBe("Stop");
  });
});

describe("air conditioner", () => {
  it("rising heat raises the power by 1.3 %/K, from wherever it was known", () => {
    expect(heatFactor(0.013, 45, 35)).toBeCloseTo(1.13, 9);
    expect(heatFactor(0.013, 35, 45)).toBeCloseTo(1 / 1.13, 9);
    expect(heatFactor(0.013, 30, 30)).toBe(1);
  });
  it("at part load a cycling unit does worse than its share, a throttling one better", () => {
    for (const share of [0.3, 0.5, 0.8]) {
      expect(share / partLoadFactor(share)).toBeGreaterThan(share);
      expect(variablePowerShare(share)).toBeLessThan(share);
    }
    expect(partLoadFactor(1)).toBe(1);
    expect(variablePowerShare(1)).toBeCloseTo(1, 9);
  });
  it.each([
    ["fixed", 1000, 1000 / (230 * 0.95)],
    ["variable", 1000, 1000 / (230 * 0.98)],
    ["dc", 640, 50],
  ] as const)("%s speed of %i W rated takes %f A", (kind, watts, amps) => {
    const { units } = resolveJob(jobOf({ unit: { kind, ratedPower: q(watts) } }));
    expect(units[0]!.runningCurrent.value).toBeCloseTo(amps, 6);
  });
  it("a measured duty cycle gives the average", () => {
    const { figures } = assess(
      jobOf({ unit: { dutyCycle: q(0.42, "measured"), ratedPower: q(1000), fanPower: q(100) } }),
    );
    expect(figures["unit.0.duty"]!.value).toBe(0.42);
    expect(figures["unit.0.average"]!.value).toBeCloseTo(0.42 * 1000 + 0.58 * 100, 6);
  });
  it("a fan that stops with the compressor saves its rest", () => {
    const average = (fanBetween: boolean) =>
      assess(jobOf({ unit: { fanBetween, dutyCycle: q(0.5), ratedPower: q(1000), fanPower: q(100) } })).figures[
        "unit.0.average"
      ]!.value;
    expect(average(true) - average(false)).toBeCloseTo(50, 6);
  });
  it("over the heat: power rises, the fan does not care", () => {
    const job = jobOf({ unit: { runningCurrent: q(6) } });
    const curve = powerOverOutdoor(job, assess(job), 0, [20, 30, 40, 50]);
    for (const i of [1, 2, 3]) {
      expect(curve.running[i]).toBeGreaterThan(curve.running[i - 1]!);
      expect(curve.fan[i]).toBe(curve.fan[0]);
    }
  });
  it("needs an inverter unless all of it runs on battery DC", () => {
    const load = { id: "a", name: "a", side: "mains" as const, leg: "L1" as const, atStart: true };
    expect(usesInverter(jobOf())).toBe(true);
    expect(usesInverter(jobOf({ unit: { kind: "dc" } }))).toBe(false);
    expect(usesInverter(jobOf({ unit: { kind: "dc" }, brief: { loads: [load] } }))).toBe(true);
  });
});

describe("the shape of a start", () => {
  const shapeOf = (
    unit: NonNullable<Parameters<typeof jobOf>[0]>["unit"],
    startAid: "none" | "soft-starter" | "start-capacitor" = "none",
  ) => {
    const job = jobOf({ unit: { lockedRotorCurrent: q(30, "measured"), ...unit } });
    return startShape(
      job.units[0]!,
      resolveJob(job).units[0]!,
      { apparent: 1400, real: 1330, fan: 100, volts: 230 },
      startAid,
    );
  };
  it.each([
    [0.01, 30 * 230, 30 * 230 * 0.65],
    [0.28, 30 * 230, 30 * 230 * 0.65],
    [0.35, 1400, 1330],
    [10, 1400, 1330],
  ])("bare at %f s: %f VA, %f W", (seconds, apparent, real) => {
    const now = shapeOf({}).at(seconds);
    expect(now.apparent).toBeCloseTo(apparent, 6);
    expect(now.real).toBeCloseTo(real, 6);
  });
  it("halfway down its fall it stands halfway between", () => {
    expect(shapeOf({}).at((0.28 + 0.35) / 2).apparent).toBeCloseTo((30 * 230 + 1400) / 2, 6);
  });
  it("soft-started it climbs, holds its reduced peak, and settles", () => {
    const soft = shapeOf({ softReduction: q(0.6), softRamp: q(1) }, "soft-starter");
    expect(soft.at(0.1).apparent).toBeLessThan(soft.at(0.3).apparent);
    expect(soft.at(0.7).apparent).toBeCloseTo(0.4 * 30 * 230, 6);
    expect(soft.at(1).apparent).toBe(1400);
    expect(soft.peakCurrent).toBeCloseTo(12, 9);
  });
  it("an unlearned soft starter never lets through more than the bare start", () => {
    expect(shapeOf({ softReduction: q(0), learned: false }, "soft-starter").peakCurrent).toBe(30);
  });
  it("a plate's locked-rotor current leaves the fan out, a clamp's holds it", () => {
    const plate = shapeOf({ lockedRotorCurrent: q(30, "plate") }).at(0.1).apparent;
    expect(plate - shapeOf({}).at(0.1).apparent).toBeCloseTo(100, 6);
  });
  it("of variable speed is a straight ramp from the fan up", () => {
    const ramp = shapeOf({ kind: "variable", rampTime: q(100) });
    expect(ramp.at(0).apparent).toBe(100);
    expect(ramp.at(50).apparent).toBeCloseTo((100 + 1400) / 2, 6);
    expect(ramp.at(200).apparent).toBe(1400);
  });
});
