/* Published values the core must reproduce; each source beside its check. "Memory": not read from the page. */
import { describe, expect, it } from "vitest";
import { effectiveCurrent } from "@/core/models/battery/battery";
import { constantPower } from "@/core/models/battery/under-load";
import { tableAmpacity, routeFactor } from "@/core/reference/conductors/ampacity";
import { cableResistance, cableResistancePerMetre } from "@/core/reference/conductors/cable";
import { fuseSurvives } from "@/core/reference/conductors/fuse";
import { gaugeAreaMm2 } from "@/core/units/gauge";
import { partLoadFactor } from "@/core/models/air-conditioner/air-conditioner";

const within = (value: number, expected: number, share: number) =>
  expect(Math.abs(value / expected - 1), `${value} against ${expected}`).toBeLessThanOrEqual(share);

describe("copper, class 5, 20 °C, ohm/km: IEC 60228 table 3", () => {
  it.each([
    [2.5, 7.98],
    [4, 4.95],
    [6, 3.3],
    [10, 1.91],
    [16, 1.21],
    [25, 0.78],
    [35, 0.554],
    [50, 0.386],
    [70, 0.272],
    [95, 0.206],
    [120, 0.161],
  ])("%f mm2: %f", (areaMm2, ohmPerKm) => {
    expect(cableResistancePerMetre(areaMm2) * 1000).toBeCloseTo(ohmPerKm, 6);
  });
  it("rises with temperature by 0.393 % per K of its value at 20 °C", () => {
    within(cableResistance(35, 1, 1, 70), 0.000554 * (1 + 0.00393 * 50), 1e-9);
  });
});

describe("American wire gauge: ASTM B258", () => {
  it.each([
    [10, 5.26],
    [4, 21.15],
    [2, 33.63],
    [0, 53.5],
    [-1, 67.4],
    [-3, 107.2],
  ])("gauge %i: %f mm2", (gauge, areaMm2) => {
    within(gaugeAreaMm2(gauge), areaMm2, 0.001);
  });
  it.each([
    [-3, 0.1608],
    [10, 3.277],
  ])("gauge %i: %f ohm/km as solid copper", (gauge, ohmPerKm) => {
    within(cableResistancePerMetre(gaugeAreaMm2(gauge)) * 1000, ohmPerKm, 0.002);
  });
});

it("cable by circular mils, CM = 10.75 I L / E: 150 A, 32.8 ft, 0.36 V needs 3/0 (ABYC E-11)", () => {
  // The rule's 10.75 ohm circular mil per foot is copper near 30 °C.
  const drop = (gauge: number) => 150 * cableResistance(gaugeAreaMm2(gauge), 32.8 * 0.3048, 1, 30);
  expect(drop(-2)).toBeLessThanOrEqual(0.36);
  expect(drop(-1)).toBeGreaterThan(0.36);
});

describe("ampacity, 105 °C insulation, outside engine space: ABYC E-11", () => {
  it.each([
    [10, 60],
    [8, 80],
    [6, 120],
    [4, 160],
    [2, 210],
    [0, 285],
    [-1, 330],
    [-3, 445],
  ])("gauge %i: %i A", (gauge, amps) => {
    within(tableAmpacity("abyc-e11", gaugeAreaMm2(gauge), "105"), amps, 1e-9);
  });
  it("inside engine space x 0.85", () => {
    expect(routeFactor("abyc-e11", "105", "engine")).toBe(0.85);
  });
});

describe("ampacity, ISO 10133:2012 table A.1", () => {
  it.each([
    [16, "70", 90],
    [35, "90", 185],
    [50, "105", 270],
    [95, "90", 330],
  ] as const)("%i mm2 at %s °C: %i A", (areaMm2, insulation, amps) => {
    within(tableAmpacity("iso-10133", areaMm2, insulation), amps, 1e-9);
  });
});

it("Peukert: 100 Ah at 20 h, k 1.2, 25 A lasts 2.90 h (definition)", () => {
  expect(100 / effectiveCurrent(25, 5, 1.2)).toBeCloseTo(2.9, 2);
});

describe("constant power behind a resistance, 13.2 V and 4 mohm (closed form)", () => {
  it.each([
    [1500, 117.8],
    [3000, 245.5],
  ])("%i W draws %f A", (power, amps) => {
    within(constantPower(13.2, 0.004, power).current, amps, 0.001);
  });
  it("nothing above 10,890 W", () => {
    expect(constantPower(13.2, 0.004, 10_889).collapsed).toBe(false);
    expect(constantPower(13.2, 0.004, 10_891).collapsed).toBe(true);
  });
});

it("part load: Cd 0.25 at half load gives 0.875 (AHRI 210/240, older default)", () => {
  expect(partLoadFactor(0.5, 0.25)).toBe(0.875);
});

describe("fuse opening times, shortest: ISO 8820-5", () => {
  it.each([
    [120, 1.35],
    [1, 2],
    [0.3, 3.5],
    [0.1, 6],
  ])("for %f s it carries %f times its rating", (seconds, multiple) => {
    within(fuseSurvives(seconds), multiple, 1e-9);
  });
});
