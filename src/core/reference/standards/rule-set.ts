import type { AmpacityTable } from "../conductors/ampacity";
import { gaugeAreaMm2 } from "../../units/gauge";
import type { MainsKey } from "./mains";
import { MAINS_SYSTEMS } from "./mains";

/*
 * The rules that a job is wired by. One set is one table row of facts: standards, sizes on sale, factors, required parts.
 * The values are typical readings of the standards named; docs/rules.md says which clause each rule stands on.
 */

export const RULE_SET_KEYS = ["us-road", "us-boat", "eu-road", "eu-boat", "au-nz"] as const;
export type RuleSetKey = (typeof RULE_SET_KEYS)[number];

export type ResidualType = "AC" | "A" | "F" | "B";

/** How far a protective device may lie over the ampacity of the cable that it protects. */
export type DeviceRule = "never-above" | "next-size-up" | "next-size-up-to-150";

/** What a rule set asks of devices that trip on current to earth. */
export interface ResidualRule {
  /** Receptacles alone, or every circuit that an AC source feeds. */
  asked: "receptacles" | "every-circuit";
  /** A that it may trip at and still count, and the size that is usual. */
  mostA: number;
  usualA: number;
  /** Where it has to open the neutral, too. */
  allPoles: "everywhere" | "inlet" | "nowhere";
  /** A that they are sold for. */
  ratings: readonly number[];
  /** s within which it opens at its rated current, and what says so. */
  opensWithinS: number;
  opensBy: string;
}

/** A hundredth over what is stamped, so that rounding does not decide. */
const RESIDUAL_30_MA = { mostA: 0.0301, usualA: 0.03 } as const;

export interface RuleSet {
  key: RuleSetKey;
  name: string;
  /** Table of the AC conductors. */
  acTable: "nec-310.16" | "iec-60364-5-52" | "abyc-e11";
  /** Table of the DC conductors. */
  dcTable: AmpacityTable;
  /** Standards by what they rule, for the source line of a calculation. */
  standards: { ac: string; dc: string; protection: string; residual: string; supply: string; solar: string };
  acDevice: DeviceRule;
  dcDevice: DeviceRule;
  /** Whether DC conductors of 14 to 10 AWG have the largest devices of NEC 551.10(E) and 240.4(D): 15, 20 and 30 A. */
  dcSmallConductors: boolean;
  /** Nominal volts up to which the DC table holds; above them `dcTableAbove` does, with the AC side's rule of devices. */
  dcTableUpToV: number;
  dcTableAbove: AmpacityTable;
  /** Of a continuous AC load, what its conductor and breaker are chosen for: 1.25 where the code asks for it. */
  continuous: number;
  /** Ratings of AC breakers on sale, A. */
  breakers: readonly number[];
  /** Ratings of supply inlets on sale, A. */
  inlets: readonly number[];
  /** Smallest copper of a supply lead by its rating: A and mm2, ascending, for leads up to `leadLength` m. */
  supplyLead: readonly (readonly [amps: number, areaMm2: number])[];
  leadLength: number;
  /** Smallest copper of fixed AC wiring, mm2. */
  smallestAcMm2: number;
  /** Lowest air temperature that AC ampacities are taken at, degC: the one that the standard's tables are stated for. */
  referenceAmbientC: number;
  /** What a device that trips on current to earth is called, and the kinds of it that do not count. */
  residualName: string;
  residual: ResidualRule;
  residualRefused: readonly ResidualType[];
  residualDoubtful: readonly ResidualType[];
  /** "earth" or "ground". */
  earth: "earth" | "ground";
  /** Multiple of an array's short-circuit current that its wiring carries. */
  solarFactor: number;
}

const mm2OfGauges = (pairs: readonly (readonly [number, number])[]) =>
  pairs.map(([amps, gauge]) => [amps, gaugeAreaMm2(gauge)] as const);

const EUROPEAN = {
  acTable: "iec-60364-5-52",
  dcTable: "iso-10133",
  acDevice: "never-above",
  dcDevice: "never-above",
  dcSmallConductors: false,
  dcTableUpToV: 1000,
  dcTableAbove: "iso-10133",
  continuous: 1,
  breakers: [6, 10, 13, 16, 20, 25, 32, 40, 50, 63],
  inlets: [6, 10, 16, 32, 63],
  // IEC 60364-7-721, table 721: 16 A 2.5 mm2, 25 A 4, 32 A 6, 63 A 16, 100 A 35, up to 25 m.
  supplyLead: [
    [16, 2.5],
    [25, 4],
    [32, 6],
    [63, 16],
    [100, 35],
  ],
  leadLength: 25,
  referenceAmbientC: 30,
  residualName: "RCD",
  residual: {
    asked: "every-circuit",
    allPoles: "everywhere",
    ratings: [16, 20, 25, 32, 40, 50, 63, 80, 100, 125],
    ...RESIDUAL_30_MA,
    opensWithinS: 0.3,
    opensBy: "IEC 61008-1 at rated current",
  },
  residualRefused: [],
  residualDoubtful: ["AC"],
  earth: "earth",
  solarFactor: 1.25,
} satisfies Partial<RuleSet>;

const AMERICAN = {
  dcTable: "abyc-e11",
  dcDevice: "next-size-up-to-150",
  dcSmallConductors: false,
  dcTableUpToV: 1000,
  dcTableAbove: "abyc-e11",
  continuous: 1.25,
  breakers: [15, 20, 25, 30, 35, 40, 45, 50, 60, 70, 80, 90, 100, 110, 125],
  inlets: [15, 20, 30, 50],
  // NEC 551.46 and the usual cord sets: 15 A 14 AWG, 20 A 12, 30 A 10, 50 A 6.
  supplyLead: mm2OfGauges([
    [15, 14],
    [20, 12],
    [30, 10],
    [50, 6],
    [100, 1],
  ]),
  leadLength: 11,
  referenceAmbientC: 30,
  residualRefused: [],
  residualDoubtful: [],
  earth: "ground",
  solarFactor: 1.56,
} satisfies Partial<RuleSet>;

export const RULE_SETS: Record<RuleSetKey, RuleSet> = {
  "us-road": {
    ...AMERICAN,
    key: "us-road",
    name: "US road vehicle",
    acTable: "nec-310.16",
    acDevice: "next-size-up",
    dcSmallConductors: true,
    // NEC 551 part II ends at 24 V nominal.
    dcTableUpToV: 30,
    dcTableAbove: "nec-310.16",
    smallestAcMm2: gaugeAreaMm2(14),
    residualName: "GFCI",
    // Class A of UL 943: 4 to 6 mA; a single-pole breaker leaves the grounded neutral closed, as all of them do.
    // It opens within (20 / I)^1.43 s, I in mA: 7.3 s at 5.
    residual: {
      asked: "receptacles",
      allPoles: "nowhere",
      ratings: [15, 20, 30, 50],
      mostA: 0.0061,
      usualA: 0.005,
      opensWithinS: 7.26,
      opensBy: "UL 943, class A at 5 mA",
    },
    standards: {
      ac: "NEC 310.16",
      dc: "NEC 551 part II; ABYC E-11 conductor table",
      protection: "NEC 240.4, 240.6",
      residual: "NEC 210.8, 551.41(C)",
      supply: "NEC 551.46",
      solar: "NEC 690.7, 690.8, 690.9",
    },
  },
  "us-boat": {
    ...AMERICAN,
    key: "us-boat",
    name: "US boat",
    acTable: "abyc-e11",
    acDevice: "next-size-up-to-150",
    smallestAcMm2: gaugeAreaMm2(16),
    residualName: "ELCI or GFCI",
    residual: {
      asked: "every-circuit",
      allPoles: "inlet",
      ratings: [15, 20, 30, 50, 60, 100, 125],
      ...RESIDUAL_30_MA,
      opensWithinS: 0.1,
      opensBy: "ABYC E-11, ELCI at 30 mA",
    },
    standards: {
      ac: "ABYC E-11",
      dc: "ABYC E-11",
      protection: "ABYC E-11, overcurrent protection",
      residual: "ABYC E-11, ELCI",
      supply: "ABYC E-11, shore power cables",
      solar: "NEC 690.7, 690.8, 690.9",
    },
  },
  "eu-road": {
    ...EUROPEAN,
    key: "eu-road",
    name: "European road vehicle",
    smallestAcMm2: 1.5,
    standards: {
      ac: "IEC 60364-5-52 (BS 7671 appendix 4)",
      dc: "EN 1648; ISO 10133:2012, table A.1",
      protection: "IEC 60364-4-43",
      residual: "IEC 60364-7-721",
      supply: "IEC 60364-7-721",
      solar: "IEC 62548",
    },
  },
  "eu-boat": {
    ...EUROPEAN,
    key: "eu-boat",
    name: "European boat",
    smallestAcMm2: 1,
    standards: {
      ac: "ISO 13297; IEC 60364-5-52",
      dc: "ISO 13297 (formerly ISO 10133), table A.1",
      protection: "ISO 13297",
      residual: "ISO 13297",
      supply: "IEC 60364-7-709",
      solar: "IEC 62548",
    },
  },
  "au-nz": {
    ...EUROPEAN,
    key: "au-nz",
    name: "Australia and New Zealand",
    // The tables of AS/NZS 3008.1 are stated for 40 degC: those of IEC 60364-5-52 at 40 degC lie a little under them.
    referenceAmbientC: 40,
    breakers: [6, 10, 16, 20, 25, 32, 40, 50, 63],
    inlets: [10, 15, 20, 32],
    supplyLead: [
      [10, 1.5],
      [15, 2.5],
      [20, 4],
      [32, 6],
      [63, 16],
    ],
    smallestAcMm2: 1.5,
    residualRefused: ["AC"],
    residualDoubtful: [],
    standards: {
      ac: "AS/NZS 3008.1 at 40 °C",
      dc: "AS/NZS 3001.2; ISO 10133:2012, table A.1",
      protection: "AS/NZS 3000, 2.5",
      residual: "AS/NZS 3000, 2.6; AS/NZS 3001.2",
      supply: "AS/NZS 3001.2",
      solar: "AS/NZS 5033; IEC 62548",
    },
  },
};

/** The rule set proposed for a job: by mains system, by vehicle, and by where it stands. */
export function proposedRuleSet(mains: MainsKey, boat: boolean, timeZone: string): RuleSetKey {
  if (MAINS_SYSTEMS[mains].american) return boat ? "us-boat" : "us-road";
  if (/^Australia\/|^Pacific\/(Auckland|Chatham)$/.test(timeZone)) return "au-nz";
  return boat ? "eu-boat" : "eu-road";
}

/**
 * Smallest copper in mm2 of a supply lead of `length` m behind an inlet of `amps`: the table's next rating, and in
 * proportion to its length where it is longer than the table's leads.
 */
export function leadArea(rules: RuleSet, amps: number, length: number): number {
  const { supplyLead, leadLength } = rules;
  const [, area] = supplyLead.find(([rating]) => rating >= amps - 1e-9) ?? supplyLead[supplyLead.length - 1]!;
  return area * Math.max(1, length / leadLength);
}
