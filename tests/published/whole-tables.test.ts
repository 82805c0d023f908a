/*
 * The tables of ampacity and their factors, value by value, written down from memory of the published standards beside the
 * core's own. What one of them has wrong, the other has to have wrong as well.
 */
import { describe, expect, it } from "vitest";
import { coldRise } from "@/core/document/sides";
import { tableAmpacity } from "@/core/reference/conductors/ampacity";
import { NEC_STANDARD_RATINGS, acAmpacity, type Method } from "@/core/reference/standards/ac-cable";
import { RULE_SETS, type RuleSetKey } from "@/core/reference/standards/rule-set";
import { gaugeAreaMm2 } from "@/core/units/gauge";

const carried = (
  rules: RuleSetKey,
  areaMm2: number,
  rest: Partial<Parameters<typeof acAmpacity>[1]> = {},
  airC = 30,
): number =>
  acAmpacity(
    RULE_SETS[rules],
    { areaMm2, insulation: "90", method: "B2", route: "free", terminals: "standard", circuits: 1, ...rest },
    airC,
  ).ampacity;

describe("ISO 10133 table A.1, ISO 13297: A at 70, 85 to 90 and 105 °C", () => {
  it.each([
    [0.75, 10, 12, 16],
    [1, 14, 18, 20],
    [1.5, 18, 21, 25],
    [2.5, 25, 30, 35],
    [4, 35, 40, 45],
    [6, 45, 50, 60],
    [10, 65, 70, 90],
    [16, 90, 100, 130],
    [25, 120, 140, 170],
    [35, 160, 185, 210],
    [50, 210, 230, 270],
    [70, 265, 285, 330],
    [95, 310, 330, 390],
    [120, 360, 400, 450],
    [150, 380, 430, 475],
  ])("%f mm²: %i, %i, %i", (area, ...amps) =>
    expect((["70", "90", "105"] as const).map((one) => tableAmpacity("iso-10133", area, one))).toEqual(
      amps.map((one) => expect.closeTo(one, 6)),
    ),
  );
});

describe("ABYC E-11 table VI, outside the engine space: A at 60, 90 and 105 °C", () => {
  it.each([
    [16, 15, 25, 25],
    [14, 20, 30, 35],
    [12, 25, 40, 45],
    [10, 40, 55, 60],
    [8, 55, 70, 80],
    [6, 80, 100, 120],
    [4, 105, 135, 160],
    [3, 120, 155, 180],
    [2, 140, 180, 210],
    [1, 165, 210, 245],
    [0, 195, 245, 285],
    [-1, 225, 285, 330],
    [-2, 260, 330, 385],
    [-3, 300, 385, 445],
  ])("gauge %i: %i, %i, %i", (gauge, ...amps) =>
    expect((["70", "90", "105"] as const).map((one) => tableAmpacity("abyc-e11", gaugeAreaMm2(gauge), one))).toEqual(
      amps.map((one) => expect.closeTo(one, 6)),
    ),
  );
});

describe("NEC 310.16, copper: A at 60, 75 and 90 °C", () => {
  it.each([
    [14, 15, 20, 25],
    [12, 20, 25, 30],
    [10, 30, 35, 40],
    [8, 40, 50, 55],
    [6, 55, 65, 75],
    [4, 70, 85, 95],
    [3, 85, 100, 115],
    [2, 95, 115, 130],
    [1, 110, 130, 145],
    [0, 125, 150, 170],
    [-1, 145, 175, 195],
    [-2, 165, 200, 225],
    [-3, 195, 230, 260],
  ])("gauge %i: %i, %i, %i", (gauge, cool, warm, hot) => {
    const area = gaugeAreaMm2(gauge);
    expect(carried("us-road", area, { insulation: "70" })).toBeCloseTo(cool, 6);
    expect(carried("us-road", area, { terminals: "75" })).toBeCloseTo(warm, 6);
    // Eight conductors together have 0.7: the 90 °C column is derated, and the terminals no longer decide.
    expect(carried("us-road", area, { terminals: "75", circuits: 4 }) / 0.7).toBeCloseTo(hot, 6);
    // Its DC side above 24 V goes by the same table, with terminals of 60 °C to 100 A and 75 above.
    expect(tableAmpacity("nec-310.16", area, "90")).toBeCloseTo(cool > 100 ? warm : cool, 6);
  });
  it.each([
    [35, 0.91, 0.94, 0.96],
    [40, 0.82, 0.88, 0.91],
    [45, 0.71, 0.82, 0.87],
    [50, 0.58, 0.75, 0.82],
    [55, 0.41, 0.67, 0.76],
  ])("air of %i °C, table 310.15(B)(1): %f of the 60 °C column, %f and %f of the warmer ones", (air, cool, _, hot) => {
    expect(carried("us-road", gaugeAreaMm2(8), { insulation: "70" }, air)).toBeCloseTo(40 * cool, 6);
    expect(carried("us-road", gaugeAreaMm2(8), { terminals: "75", circuits: 4 }, air)).toBeCloseTo(55 * 0.7 * hot, 6);
  });
  it.each([
    [2, 0.8],
    [3, 0.8],
    [4, 0.7],
    [5, 0.5],
    [10, 0.5],
    [15, 0.45],
    [20, 0.4],
    [21, 0.35],
  ])("%i circuits of two conductors, table 310.15(C)(1): %f", (circuits, factor) =>
    expect(carried("us-road", gaugeAreaMm2(8), { terminals: "75", circuits })).toBeCloseTo(
      Math.min(50, 55 * factor),
      6,
    ),
  );
  it("standard ratings, 240.6(A)", () =>
    expect(NEC_STANDARD_RATINGS.slice(0, 23)).toEqual([
      15, 20, 25, 30, 35, 40, 45, 50, 60, 70, 80, 90, 100, 110, 125, 150, 175, 200, 225, 250, 300, 350, 400,
    ]));
});

describe("IEC 60364-5-52, table B.52.3: XLPE, two loaded conductors", () => {
  it.each<[number, number, number, number, number]>([
    [1.5, 19, 23, 22, 24],
    [2.5, 26, 31, 30, 33],
    [4, 35, 42, 40, 45],
    [6, 45, 54, 51, 58],
    [10, 61, 75, 69, 80],
    [16, 81, 100, 91, 107],
    [25, 106, 133, 119, 138],
    [35, 131, 164, 146, 171],
  ])("%f mm²: A1 %f, B1 %f, B2 %f, C %f", (area, ...amps) => {
    // Five circuits bunched have 0.6: below what terminals of 70 °C let through.
    const at = (method: Method) => carried("eu-road", area, { method, circuits: 5 }) / 0.6;
    expect((["A1", "B1", "B2", "C"] as const).map(at)).toEqual(amps.map((one) => expect.closeTo(one, 6)));
  });
  it.each([
    [35, 0.96],
    [40, 0.91],
    [45, 0.87],
    [50, 0.82],
    [55, 0.76],
    [60, 0.71],
  ])("air of %i °C, table B.52.14: %f", (air, factor) =>
    expect(carried("eu-road", 2.5, { circuits: 5 }, air) / (0.6 * 30)).toBeCloseTo(factor, 6),
  );
  it.each([
    [2, 0.8],
    [3, 0.7],
    [4, 0.65],
    [5, 0.6],
    [6, 0.57],
    [7, 0.54],
    [8, 0.52],
    [9, 0.5],
  ])("%i circuits bunched, table B.52.17: %f", (circuits, factor) =>
    expect(carried("eu-boat", 2.5, { insulation: "70", circuits }) / 23).toBeCloseTo(factor, 6),
  );
});

describe("NEC table 690.7(A), IEC 62548: open-circuit volts of crystalline silicon in the cold", () => {
  it.each([
    [22, 1.02],
    [17, 1.04],
    [12, 1.06],
    [7, 1.08],
    [2, 1.1],
    [-3, 1.12],
    [-8, 1.14],
    [-13, 1.16],
    [-18, 1.18],
    [-23, 1.2],
    [-28, 1.21],
    [-33, 1.23],
    [-38, 1.25],
  ])("at %i °C %f", (lowestC, factor) => expect(coldRise(lowestC)).toBeCloseTo(factor, 6));
});
