/*
 * AC tables, factors and worked examples of the wiring rules. Values of NEC, IEC 60364, ABYC and AS/NZS are from memory of the
 * published standards; each table names its clause.
 */
import { describe, expect, it } from "vitest";
import { AMPACITY_TABLES, cableCarries } from "@/core/reference/conductors/ampacity";
import { BREAKER_CURVES, breakerSurvives } from "@/core/reference/conductors/fuse";
import { gaugeAreaMm2 } from "@/core/units/gauge";
import { arrayOf } from "@/core/document/sides";
import { emptyPanel, emptyJob } from "@/core/document/schema";
import { resolveJob } from "@/core/document/resolve";
import {
  acAmpacity,
  maximumOvercurrent,
  minimumCircuitAmpacity,
  smallConductorLimit,
  type Method,
} from "@/core/reference/standards/ac-cable";
import { STANDARD_RATINGS, largestDevice } from "@/core/assessment/needs/guards";
import { leadArea, proposedRuleSet, RULE_SETS, type RuleSetKey } from "@/core/reference/standards/rule-set";
import { legShares, loadVolts, supplyLegs } from "@/core/reference/standards/mains";
import { q } from "../jobs";

const cable = (areaMm2: number, rest: Partial<Parameters<typeof acAmpacity>[1]> = {}) => ({
  areaMm2,
  insulation: "90" as const,
  method: "B2" as Method,
  route: "free" as const,
  terminals: "standard" as const,
  circuits: 1,
  ...rest,
});
const nec = (gauge: number, rest = {}, air = 30) =>
  acAmpacity(RULE_SETS["us-road"], cable(gaugeAreaMm2(gauge), rest), air).ampacity;
const iec = (area: number, rest = {}, air = 30) => acAmpacity(RULE_SETS["eu-road"], cable(area, rest), air).ampacity;

describe("NEC 310.16, copper, 30 °C", () => {
  // 60 °C terminals up to 100 A, 110.14(C): the 60 °C column caps the 90 °C cable.
  it.each([
    [14, 15, 20],
    [12, 20, 25],
    [10, 30, 35],
    [8, 40, 50],
    [6, 55, 65],
    [4, 70, 85],
    [2, 95, 115],
    [0, 125, 150],
    [-1, 145, 175],
    [-3, 195, 230],
  ])("gauge %i: 60 °C column %i A, 75 °C column %i A", (gauge, cool, warm) => {
    expect(nec(gauge, { insulation: "70" })).toBeCloseTo(cool, 6);
    // Over 100 A the 75 °C column applies without a marking.
    expect(nec(gauge)).toBeCloseTo(cool > 100 ? warm : cool, 6);
    expect(nec(gauge, { terminals: "75" })).toBeCloseTo(warm, 6);
  });
  // Table 310.15(B)(1), 90 °C column: 8 AWG carries 55 A at 30 °C; 75 °C terminals allow 50.
  it.each([
    [35, 0.96],
    [40, 0.91],
    [45, 0.87],
    [50, 0.82],
    [55, 0.76],
    [60, 0.71],
  ])("8 AWG of 90 °C in air of %i °C has factor %f", (air, factor) =>
    expect(nec(8, { terminals: "75" }, air)).toBeCloseTo(Math.min(50, 55 * factor), 6),
  );
  // Table 310.15(C)(1): 4 to 6 conductors 0.8, 7 to 9 0.7.
  it.each([
    [1, 50],
    [2, 44],
    [3, 44],
    [4, 38.5],
  ])("%i circuits together leave 8 AWG %f A", (circuits, amps) =>
    expect(nec(8, { terminals: "75", circuits })).toBeCloseTo(amps, 6),
  );
  it.each([
    [14, 15],
    [12, 20],
    [10, 30],
    [8, Infinity],
  ])("240.4(D): gauge %i has a device of %f A at most", (gauge, amps) =>
    expect(smallConductorLimit(gaugeAreaMm2(gauge))).toBe(amps),
  );
});

describe("IEC 60364-5-52, two loaded conductors, PVC, 30 °C", () => {
  it.each<[number, number, number, number, number]>([
    [1.5, 14.5, 17.5, 16.5, 19.5],
    [2.5, 19.5, 24, 23, 27],
    [4, 26, 32, 30, 36],
    [6, 34, 41, 38, 46],
    [10, 46, 57, 52, 63],
    [16, 61, 76, 69, 85],
    [25, 80, 101, 90, 112],
    [35, 99, 125, 111, 138],
  ])("%f mm²: A1 %f, B1 %f, B2 %f, C %f", (area, a1, b1, b2, c) => {
    const at = (method: Method) => iec(area, { method, insulation: "70" });
    expect([at("A1"), at("B1"), at("B2"), at("C")]).toEqual([a1, b1, b2, c].map((amps) => expect.closeTo(amps, 6)));
  });
  it.each([
    [35, 0.94],
    [40, 0.87],
    [45, 0.79],
    [50, 0.71],
    [55, 0.61],
    [60, 0.5],
  ])("air of %i °C has factor %f", (air, factor) =>
    expect(iec(2.5, { insulation: "70" }, air) / 23).toBeCloseTo(factor, 6),
  );
  it("90 °C cable on 70 °C terminals carries no more than PVC (table B.52.3: 31 A, B.52.2: 24 A)", () =>
    expect(iec(2.5, { method: "B1" })).toBeCloseTo(24, 6));
  it("Australia and New Zealand stand at 40 °C whatever cooler air is entered", () =>
    expect(acAmpacity(RULE_SETS["au-nz"], cable(2.5, { insulation: "70" }), 25).ampacity).toBeCloseTo(23 * 0.87, 6));
});

describe("ABYC E-11", () => {
  it.each([
    [2, 1],
    [3, 0.7],
    [6, 0.6],
    [7, 0.5],
    [24, 0.5],
    [25, 0.4],
  ])("%i conductors bundled have factor %f", (conductors, factor) => {
    const areaMm2 = gaugeAreaMm2(10);
    const free = cableCarries("abyc-e11", { areaMm2, insulation: "105", route: "free" }, 30);
    expect(
      cableCarries("abyc-e11", { areaMm2, insulation: "105", route: "bundled", conductors }, 30) / free,
    ).toBeCloseTo(factor, 6);
  });
  it("an engine space leaves 105 °C cable 0.85", () =>
    expect(AMPACITY_TABLES["abyc-e11"].routeFactors.engine["105"]).toBe(0.85));
});

describe("devices over the ampacity", () => {
  it.each<[RuleSetKey, "ac" | "dc", number, number, number]>([
    // IEC 60364-4-43, 433.1: never above. 240.4(B): next size up. 240.4(D): 12 AWG 20 A. ABYC: next size, at most 150 %.
    ["eu-road", "ac", 23, 2.5, 23],
    ["us-road", "ac", 55, gaugeAreaMm2(6), 60],
    ["us-road", "ac", 24, gaugeAreaMm2(12), 20],
    ["us-boat", "ac", 42, gaugeAreaMm2(10), 45],
    ["us-boat", "dc", 12, gaugeAreaMm2(16), 15],
    ["us-boat", "dc", 8, gaugeAreaMm2(18), 12],
    ["au-nz", "dc", 35, 4, 35],
  ])("%s %s: %f A of copper may have %f", (key, side, ampacity, area, most) => {
    const rules = RULE_SETS[key];
    expect(
      largestDevice(side === "ac" ? rules.acDevice : rules.dcDevice, ampacity, area, STANDARD_RATINGS),
    ).toBeCloseTo(most, 6);
  });
});

describe("supply leads", () => {
  it.each<[RuleSetKey, number, number, number]>([
    // IEC 60364-7-721, table 721.
    ["eu-road", 16, 25, 2.5],
    ["eu-road", 25, 25, 4],
    ["eu-road", 32, 25, 6],
    ["eu-road", 63, 25, 16],
    ["eu-road", 32, 50, 12],
    // NEC 551.46: 30 A assembly 10 AWG, 50 A 6 AWG.
    ["us-road", 30, 7.6, gaugeAreaMm2(10)],
    ["us-road", 50, 7.6, gaugeAreaMm2(6)],
    ["us-boat", 30, 10, gaugeAreaMm2(10)],
    // AS/NZS 3001.2: 15 A lead 2.5 mm2.
    ["au-nz", 15, 10, 2.5],
    ["au-nz", 10, 10, 1.5],
  ])("%s %i A, %f m: %f mm²", (key, amps, metres, area) =>
    expect(leadArea(RULE_SETS[key], amps, metres)).toBeCloseTo(area, 6),
  );
  it.each([
    ["us-road", [15, 20, 30, 50]],
    ["eu-road", [6, 10, 16, 32, 63]],
    ["au-nz", [10, 15, 20, 32]],
  ] as const)("%s has inlets of %j A", (key, amps) => expect(RULE_SETS[key].inlets).toEqual(amps));
});

describe("air conditioners, NEC 440", () => {
  it("RLA 12.4 A, fan FLA 2.0 A: MCA 17.5 A, MOCP 29.9 rounded down to 25 A", () => {
    expect(minimumCircuitAmpacity(12.4, 2)).toBeCloseTo(17.5, 6);
    expect(2.25 * 12.4 + 2).toBeCloseTo(29.9, 6);
    expect(maximumOvercurrent(12.4, 2)).toBe(25);
  });
});

describe("breakers, IEC 60898-1", () => {
  it.each([
    ["B", 3, 5],
    ["C", 5, 10],
    ["D", 10, 20],
  ] as const)("type %s holds %i times its rating at once and opens by %i", (curve, holds, trips) => {
    expect(BREAKER_CURVES[curve]).toEqual({ holds, trips });
    expect(breakerSurvives(0.05, curve)).toBe(holds);
  });
  it("all of them carry 2.55 times for a second and 1.13 times for an hour (table 7)", () => {
    for (const curve of ["B", "C", "D"] as const) {
      expect(breakerSurvives(1, curve)).toBeCloseTo(2.55, 6);
      expect(breakerSurvives(3600, curve)).toBeCloseTo(1.13, 6);
    }
  });
});

describe("mains systems and rule sets", () => {
  it.each([
    ["120V240V60Hz", "L1", 120],
    ["120V240V60Hz", "both", 240],
    ["127V220V60Hz", "both", 220],
    ["100V60Hz", "both", 100],
    ["230V50Hz", "L1", 230],
  ] as const)("%s on %s: %i V", (mains, leg, volts) => expect(loadVolts(mains, leg)).toBe(volts));
  it("a 50 A 120/240 V inlet is two legs, 2 × 6 kVA; a 30 A one is one", () => {
    expect(supplyLegs("120V240V60Hz", 50) * 50 * loadVolts("120V240V60Hz", "L1")).toBe(12_000);
    expect(supplyLegs("120V240V60Hz", 30)).toBe(1);
    expect(supplyLegs("120V60Hz", 50)).toBe(1);
  });
  it("a load between the legs is half on each", () => {
    expect(legShares("120V240V60Hz", "both")).toEqual([0.5, 0.5]);
    expect(legShares("230V50Hz", "both")).toEqual([1, 0]);
  });
  it.each([
    ["120V60Hz", false, "America/Denver", "us-road"],
    ["120V240V60Hz", true, "America/Denver", "us-boat"],
    ["230V50Hz", false, "Europe/Lisbon", "eu-road"],
    ["230V50Hz", true, "Europe/Athens", "eu-boat"],
    ["230V50Hz", true, "Australia/Hobart", "au-nz"],
    ["230V50Hz", false, "Pacific/Auckland", "au-nz"],
  ] as const)("%s, boat %s, %s: %s", (mains, boat, zone, key) => expect(proposedRuleSet(mains, boat, zone)).toBe(key));
});

describe("solar strings", () => {
  const job = emptyJob("Strings", "230V50Hz");
  job.sources.panels = [
    { ...emptyPanel("p"), count: q(4), series: q(4), openVoltage: q(49), shortCurrent: q(10), power: q(400) },
    { ...emptyPanel("r"), count: q(2), series: q(1), openVoltage: q(23), shortCurrent: q(9), power: q(175) },
  ];
  const array = arrayOf(job, resolveJob(job).sources.panels, -10, 0);
  it("of four panels of 49 V stand at 196 V, at -10 °C 1.14 times as high (NEC table 690.7(A), from memory)", () => {
    expect(array.openVolts).toBe(196);
    expect(array.coldVolts).toBeCloseTo(196 * 1.14, 6);
  });
  it("in parallel add their short-circuit currents", () => {
    expect(array.strings).toBe(3);
    expect(array.shortCurrent).toBe(10 + 2 * 9);
  });
});
