import { interpolateLogLog } from "../../units/interpolate";
import { CLASS5_MM2 } from "./cable";
import { gaugeAreaMm2, SOLD_GAUGES } from "../../units/gauge";

export type AmpacityTable = "iso-10133" | "abyc-e11" | "nec-310.16";
export type Insulation = "70" | "90" | "105";
export type Route = "free" | "bundled" | "engine";

interface Table {
  name: string;
  conditions: string;
  areasMm2: readonly number[];
  amps: Record<Insulation, readonly number[]>;
  routeFactors: Record<Route, Record<Insulation, number>>;
  /** Sizes on sale that "choose for me" and assumed sizes are taken from. */
  sizesMm2: readonly number[];
}

const gauges = (list: readonly number[]) => list.map(gaugeAreaMm2);

export const AMPACITY_TABLES: Record<AmpacityTable, Table> = {
  "iso-10133": {
    name: "ISO 10133:2012, table A.1",
    conditions: "single conductors, ambient 30 °C",
    areasMm2: [0.75, 1, 1.5, 2.5, 4, 6, 10, 16, 25, 35, 50, 70, 95, 120, 150],
    amps: {
      "70": [10, 14, 18, 25, 35, 45, 65, 90, 120, 160, 210, 265, 310, 360, 380],
      "90": [12, 18, 21, 30, 40, 50, 70, 100, 140, 185, 230, 285, 330, 400, 430],
      "105": [16, 20, 25, 35, 45, 60, 90, 130, 170, 210, 270, 330, 390, 450, 475],
    },
    routeFactors: {
      free: { "70": 1, "90": 1, "105": 1 },
      bundled: { "70": 0.7, "90": 0.7, "105": 0.7 },
      engine: { "70": 0.75, "90": 0.82, "105": 0.86 },
    },
    sizesMm2: CLASS5_MM2.filter((size) => size >= 1.5 && size <= 150),
  },
  "abyc-e11": {
    name: "ABYC E-11, single conductors",
    conditions: "outside engine space, ambient 30 °C",
    areasMm2: gauges([16, 14, 12, 10, 8, 6, 4, 3, 2, 1, 0, -1, -2, -3]),
    // The standard has no column for 70 degC: the next cooler one, 60 degC, is taken.
    amps: {
      "70": [15, 20, 25, 40, 55, 80, 105, 120, 140, 165, 195, 225, 260, 300],
      "90": [25, 30, 40, 55, 70, 100, 135, 155, 180, 210, 245, 285, 330, 385],
      "105": [25, 35, 45, 60, 80, 120, 160, 180, 210, 245, 285, 330, 385, 445],
    },
    routeFactors: {
      free: { "70": 1, "90": 1, "105": 1 },
      bundled: { "70": 0.7, "90": 0.7, "105": 0.7 },
      engine: { "70": 0.58, "90": 0.82, "105": 0.85 },
    },
    sizesMm2: gauges(SOLD_GAUGES.filter((gauge) => gauge <= 14)),
  },
  "nec-310.16": {
    name: "NEC 310.16 and 110.14(C)",
    conditions: "in raceway or cable, ambient 30 °C, terminals of 60 °C up to 100 A",
    areasMm2: gauges([14, 12, 10, 8, 6, 4, 3, 2, 1, 0, -1, -2, -3]),
    // The columns of 60 and 75 °C: what the terminals let a warmer cable carry.
    amps: {
      "70": [15, 20, 30, 40, 55, 70, 85, 95, 110, 125, 145, 165, 195],
      "90": [15, 20, 30, 40, 55, 70, 85, 95, 130, 150, 175, 200, 230],
      "105": [15, 20, 30, 40, 55, 70, 85, 95, 130, 150, 175, 200, 230],
    },
    routeFactors: {
      free: { "70": 1, "90": 1, "105": 1 },
      bundled: { "70": 0.7, "90": 0.7, "105": 0.7 },
      engine: { "70": 0.58, "90": 0.82, "105": 0.85 },
    },
    sizesMm2: gauges(SOLD_GAUGES.filter((gauge) => gauge <= 14)),
  },
};

/**
 * Continuous amps that a cable of `areaMm2` carries, before the route's factor.
 * Table values at their sizes, log-log between and beyond them.
 */
export function tableAmpacity(table: AmpacityTable, areaMm2: number, insulation: Insulation): number {
  const { areasMm2, amps } = AMPACITY_TABLES[table];
  return interpolateLogLog(areasMm2, amps[insulation], areaMm2);
}

/**
 * Factor on the table's amps for where the cable runs, by the number of conductors that carry current together with it: less
 * in an engine space, and in a bundle wherever it runs.
 */
export function routeFactor(table: AmpacityTable, insulation: Insulation, route: Route, conductors?: number): number {
  const place = route === "bundled" ? 1 : AMPACITY_TABLES[table].routeFactors[route][insulation];
  return place * bundleFactor(conductors ?? (route === "bundled" ? USUAL_BUNDLE : 1));
}

/** Conductors of a bundle that nobody counted. */
const USUAL_BUNDLE = 3;

/** Conductors bundled or in one sheath, ABYC E-11: 0.7 for three, 0.6 to six, 0.5 to twenty-four, 0.4 beyond. */
export function bundleFactor(conductors: number): number {
  return conductors <= 2 ? 1 : conductors <= 3 ? 0.7 : conductors <= 6 ? 0.6 : conductors <= 24 ? 0.5 : 0.4;
}

/** Factor on the table's amps for air at `ambientC` degC instead of the table's 30: the root of the rise that is left. */
export function ambientFactor(insulation: Insulation, ambientC: number): number {
  const highest = Number(insulation);
  return Math.sqrt(Math.max(0, highest - ambientC) / (highest - 30));
}

/** A cable as it is laid: its copper, its insulation, where it runs and with how many others. */
export interface LaidCable {
  areaMm2: number;
  insulation: Insulation;
  route: Route;
  /** Conductors that carry current together with it, itself counted. */
  conductors?: number;
}

/** Continuous amps of one cable where it runs: table value, route and the air about it. */
export function cableCarries(
  table: AmpacityTable,
  { areaMm2, insulation, route, conductors }: LaidCable,
  ambientC: number,
): number {
  return (
    tableAmpacity(table, areaMm2, insulation) *
    routeFactor(table, insulation, route, conductors) *
    ambientFactor(insulation, ambientC)
  );
}

/**
 * k in A s^0.5 / mm2 of copper for the short-circuit withstand S = I sqrt(t) / k (IEC 60364-5-54). Insulation of 105 degC is
 * taken as thermoplastic, 88; thermoset has 135 (from memory).
 */
export const WITHSTAND_K: Record<Insulation, number> = { "70": 115, "90": 143, "105": 88 };

/** Cross-section in mm2 that withstands `letThrough` A^2 s: S = sqrt(I^2 t) / k. */
export function withstandArea(letThrough: number, k: number): number {
  return Math.sqrt(letThrough) / k;
}
