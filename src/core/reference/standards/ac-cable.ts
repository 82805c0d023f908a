import { interpolate, interpolateLogLog } from "../../units/interpolate";
import { AMPACITY_TABLES, bundleFactor, type Insulation, type Route } from "../conductors/ampacity";
import { gaugeAreaMm2 } from "../../units/gauge";
import type { RuleSet } from "./rule-set";

/** How a mains cable is run, by IEC 60364-5-52: in an insulated wall, in conduit (singles or multicore), clipped direct. */
export type Method = "A1" | "B1" | "B2" | "C";
/** What the terminals at its ends are marked for: the least that the standard allows, or 75 degC. */
export type Terminals = "standard" | "75";

type Column = "cool" | "warm" | "hot";

/*
 * NEC 310.16 (2023), copper, up to three current-carrying conductors in raceway, cable or earth, 30 degC: columns 60, 75
 * and 90 degC.
 */
const NEC_MM2 = [14, 12, 10, 8, 6, 4, 3, 2, 1, 0, -1, -2, -3].map(gaugeAreaMm2);
const NEC: Record<Column, readonly number[]> = {
  cool: [15, 20, 30, 40, 55, 70, 85, 95, 110, 125, 145, 165, 195],
  warm: [20, 25, 35, 50, 65, 85, 100, 115, 130, 150, 175, 200, 230],
  hot: [25, 30, 40, 55, 75, 95, 115, 130, 145, 170, 195, 225, 260],
};

/*
 * IEC 60364-5-52, tables B.52.2 and B.52.3: two loaded copper conductors, 30 degC in air, PVC 70 degC and XLPE 90 degC. The
 * row of 1 mm2 after BS 7671 tables 4D1A, 4D2A.
 */
const IEC_MM2 = [1, 1.5, 2.5, 4, 6, 10, 16, 25, 35];
const IEC_PVC: Record<Method, readonly number[]> = {
  A1: [11, 14.5, 19.5, 26, 34, 46, 61, 80, 99],
  B1: [13.5, 17.5, 24, 32, 41, 57, 76, 101, 125],
  B2: [13, 16.5, 23, 30, 38, 52, 69, 90, 111],
  C: [15, 19.5, 27, 36, 46, 63, 85, 112, 138],
};
const IEC_XLPE: Record<Method, readonly number[]> = {
  A1: [14, 19, 26, 35, 45, 61, 81, 106, 131],
  B1: [17, 23, 31, 42, 54, 75, 100, 133, 164],
  B2: [17, 22, 30, 40, 51, 69, 91, 119, 146],
  C: [18, 24, 33, 45, 58, 80, 107, 138, 171],
};

const AIR_C = [30, 35, 40, 45, 50, 55, 60];
/** Air over 30 degC, IEC 60364-5-52 table B.52.14. */
const IEC_AIR = {
  pvc: [1, 0.94, 0.87, 0.79, 0.71, 0.61, 0.5],
  xlpe: [1, 0.96, 0.91, 0.87, 0.82, 0.76, 0.71],
};
/** Air over 30 degC, NEC table 310.15(B)(1): columns 60, 75, 90 degC, by bands of 5 K. */
const NEC_AIR: Record<Column, readonly number[]> = {
  cool: [1, 0.91, 0.82, 0.71, 0.58, 0.41, 0],
  warm: [1, 0.94, 0.88, 0.82, 0.75, 0.67, 0.58],
  hot: [1, 0.96, 0.91, 0.87, 0.82, 0.76, 0.71],
};
/** Circuits bunched in air or conduit, IEC 60364-5-52 table B.52.17. */
const IEC_GROUP = [1, 0.8, 0.7, 0.65, 0.6, 0.57, 0.54, 0.52, 0.5];
/** Loaded conductors in one raceway, NEC table 310.15(C)(1): a single-phase circuit has two. */
function necGroup(circuits: number): number {
  const conductors = 2 * circuits;
  return conductors <= 3
    ? 1
    : conductors <= 6
      ? 0.8
      : conductors <= 9
        ? 0.7
        : conductors <= 20
          ? 0.5
          : conductors <= 30
            ? 0.45
            : conductors <= 40
              ? 0.4
              : 0.35;
}

export interface AcAmpacity {
  /** A. */
  ampacity: number;
  /** Table value of the cable's insulation and the factors on it. */
  listed: number;
  airFactor: number;
  groupFactor: number;
  routeFactor: number;
  /** What the terminals allow, A. */
  terminals: number;
  table: string;
  terminalsWhy: string;
}

/** The next band of `AIR_C` at or above a temperature; beyond the last the cable carries nothing. */
function bandFactor(factors: readonly number[], airC: number): number {
  const at = AIR_C.findIndex((limit) => airC <= limit + 1e-9);
  return at < 0 ? 0 : factors[at]!;
}

/** Continuous amps of one mains cable by the job's own AC table, its surroundings and its terminals. */
export function acAmpacity(
  rules: RuleSet,
  cable: {
    areaMm2: number;
    insulation: Insulation;
    method: Method;
    route: Route;
    terminals: Terminals;
    circuits: number;
  },
  ambientC: number,
): AcAmpacity {
  const { areaMm2, insulation, method, route, terminals, circuits } = cable;
  const airC = Math.max(ambientC, rules.referenceAmbientC);
  const engine = route === "engine" ? AMPACITY_TABLES[rules.dcTable].routeFactors.engine[insulation] : 1;
  switch (rules.acTable) {
    case "iec-60364-5-52": {
      const pvc = insulation === "70";
      const listed = interpolateLogLog(IEC_MM2, (pvc ? IEC_PVC : IEC_XLPE)[method], areaMm2);
      const airFactor = airC > 60 ? 0 : interpolate(AIR_C, pvc ? IEC_AIR.pvc : IEC_AIR.xlpe, airC);
      const groupFactor = IEC_GROUP[Math.min(IEC_GROUP.length, Math.max(1, Math.round(circuits))) - 1]!;
      // Terminals of wiring accessories are made for conductors at 70 degC.
      const atTerminals = interpolateLogLog(IEC_MM2, IEC_PVC[method], areaMm2);
      return done({
        listed,
        airFactor,
        groupFactor,
        routeFactor: engine,
        terminals: atTerminals,
        table: `${rules.standards.ac}, method ${method}, ${pvc ? "PVC 70 °C" : "XLPE 90 °C"}, two loaded conductors`,
        terminalsWhy: "terminals of accessories take conductors of 70 °C at most",
      });
    }
    case "nec-310.16": {
      const column: Column = insulation === "70" ? "cool" : "hot";
      const listed = interpolateLogLog(NEC_MM2, NEC[column], areaMm2);
      const cool = interpolateLogLog(NEC_MM2, NEC.cool, areaMm2);
      const warm = interpolateLogLog(NEC_MM2, NEC.warm, areaMm2);
      return done({
        listed,
        airFactor: bandFactor(NEC_AIR[column], airC),
        groupFactor: necGroup(Math.max(1, Math.round(circuits))),
        routeFactor: engine,
        terminals: terminals === "75" || cool > 100 ? warm : cool,
        table: `NEC 310.16, copper, ${column === "cool" ? "60" : "90"} °C column`,
        terminalsWhy: "NEC 110.14(C): 60 °C terminals up to 100 A unless marked 75 °C",
      });
    }
    case "abyc-e11": {
      const { areasMm2, amps } = AMPACITY_TABLES["abyc-e11"];
      const conductors = 3 * Math.max(1, Math.round(circuits));
      const groupFactor = bundleFactor(conductors);
      return done({
        listed: interpolateLogLog(areasMm2, amps[insulation], areaMm2),
        airFactor: Math.sqrt(Math.max(0, Number(insulation) - airC) / (Number(insulation) - 30)),
        groupFactor,
        routeFactor: engine,
        terminals: interpolateLogLog(areasMm2, amps["70"], areaMm2),
        table: `ABYC E-11, ${insulation} °C insulation, ${conductors} conductors bundled`,
        terminalsWhy: "terminals taken as made for 60 °C conductors",
      });
    }
  }
}

function done(parts: Omit<AcAmpacity, "ampacity">): AcAmpacity {
  const { listed, airFactor, groupFactor, routeFactor, terminals } = parts;
  return { ...parts, ampacity: Math.min(listed * airFactor * groupFactor * routeFactor, terminals) };
}

/** NEC 240.4(D): the largest device on small conductors, A; Infinity from 8 AWG on. */
export function smallConductorLimit(areaMm2: number): number {
  const limits = [
    [14, 15],
    [12, 20],
    [10, 30],
  ] as const;
  const found = limits.find(([gauge]) => areaMm2 <= gaugeAreaMm2(gauge) * 1.02);
  return found ? found[1] : Infinity;
}

/** NEC 240.6(A), standard ratings of fuses and inverse-time breakers, A. */
export const NEC_STANDARD_RATINGS = [
  15, 20, 25, 30, 35, 40, 45, 50, 60, 70, 80, 90, 100, 110, 125, 150, 175, 200, 225, 250, 300, 350, 400, 450, 500, 600,
  700, 800,
] as const;

/** Minimum circuit ampacity of an air conditioner, NEC 440.4(B), 440.33: 1.25 × largest RLA + other loads. */
export const minimumCircuitAmpacity = (ratedLoad: number, others: number): number => 1.25 * ratedLoad + others;

/** Largest overcurrent device of an air conditioner, NEC 440.22: 2.25 × largest RLA + others, rounded down to a rating. */
export function maximumOvercurrent(ratedLoad: number, others: number): number {
  const amps = 2.25 * ratedLoad + others;
  return NEC_STANDARD_RATINGS.findLast((rating) => rating <= amps + 1e-9) ?? NEC_STANDARD_RATINGS[0];
}
