import { loadVolts } from "../reference/standards/mains";
import type { RuleSet } from "../reference/standards/rule-set";
import type { Branch, Job } from "./schema";
import type { ResolvedQuantity } from "../units/known";
import { VEHICLE_CHARGES_AT } from "./defaults";

/*
 * What feeds the far side of a converter, charger or controller, and what that side carries. Power is the same on both
 * sides but for the loss: I = P / (V × efficiency).
 */

/** One side of a run that has two. */
export interface FarSide {
  /** A that it carries for hours, code factors of its source included. */
  current: number;
  /** Nominal volts, for the voltage drop, and the highest that its parts see. */
  volts: number;
  highestVolts: number;
  mains: boolean;
  /** A that a short circuit on it may draw from its source. */
  shortCircuit: number;
  /** The source gives hardly more than it carries: a converter's output, or a solar array. */
  limited: boolean;
  /** What it is called: "starter battery", "solar array". */
  source: string;
  /** The relation of its current in words for a calculation. */
  relation: string;
}

/** A string of panels on one controller: strings of equal length in parallel. */
export interface PanelArray {
  /** V open circuit of the longest string at the lowest temperature, and at 25 degC. */
  coldVolts: number;
  openVolts: number;
  /** The same of the shortest whole string at 25 degC. */
  lowOpenVolts: number;
  /** Strings in parallel, all panel groups together, and A of their short circuit at 25 degC. */
  strings: number;
  shortCurrent: number;
  /** A of the largest and the smallest single string. */
  stringCurrent: number;
  lowStringCurrent: number;
  /** W on the labels. */
  power: number;
  uneven: boolean;
}

/** A controller without panels. */
export const NO_ARRAY: PanelArray = {
  coldVolts: 0,
  openVolts: 0,
  lowOpenVolts: 0,
  strings: 0,
  shortCurrent: 0,
  stringCurrent: 0,
  lowStringCurrent: 0,
  power: 0,
  uneven: false,
};

/**
 * Open-circuit volts over those at 25 degC, by bands of cold: NEC table 690.7(A), IEC 62548 table 5, crystalline silicon. A
 * coefficient of 0.3 %/K lies under it.
 */
const COLD_BANDS = [
  [25, 1],
  [20, 1.02],
  [15, 1.04],
  [10, 1.06],
  [5, 1.08],
  [0, 1.1],
  [-5, 1.12],
  [-10, 1.14],
  [-15, 1.16],
  [-20, 1.18],
  [-25, 1.2],
  [-30, 1.21],
  [-35, 1.23],
] as const;
const COLDEST = 1.25;

/** Factor on a panel's open-circuit volts at the lowest temperature, degC. */
export const coldRise = (lowestC: number): number =>
  COLD_BANDS.find(([down]) => lowestC >= down - 1e-9)?.[1] ?? COLDEST;

type PanelValues = Record<"power" | "count" | "series" | "openVoltage" | "shortCurrent", ResolvedQuantity>;

/** Number of the controller that panels feed; those that name no listed one feed the first. */
export const controllerOf = (job: Pick<Job, "sources">, panel: Job["sources"]["panels"][number]): number =>
  Math.max(
    0,
    job.sources.controllers.findIndex(({ id }) => id === panel.controllerId),
  );

/** The array on controller number `controller`; panels that name no listed controller belong to the first. */
export function arrayOf(job: Job, panels: readonly PanelValues[], lowestC: number, controller: number): PanelArray {
  const array: PanelArray = { ...NO_ARRAY };
  job.sources.panels.forEach((panel, i) => {
    if (controllerOf(job, panel) !== controller) return;
    const v = panels[i]!;
    const series = v.series.value;
    const strings = Math.ceil(v.count.value / series);
    const volts = v.openVoltage.value * Math.min(series, v.count.value);
    array.openVolts = Math.max(array.openVolts, volts);
    array.lowOpenVolts = array.lowOpenVolts === 0 ? volts : Math.min(array.lowOpenVolts, volts);
    array.strings += strings;
    array.shortCurrent += v.shortCurrent.value * strings;
    array.stringCurrent = Math.max(array.stringCurrent, v.shortCurrent.value);
    array.lowStringCurrent =
      array.lowStringCurrent === 0 ? v.shortCurrent.value : Math.min(array.lowStringCurrent, v.shortCurrent.value);
    array.power += v.power.value * v.count.value;
    if (v.count.value % series !== 0) array.uneven = true;
  });
  array.coldVolts = array.openVolts * coldRise(lowestC);
  return array;
}

/** The controller that the solar branch at `index` of the document leads to: the nth branch has the nth controller. */
export function controllerOfBranch(job: Job, index: number): number {
  return job.wiring.branches.slice(0, index).filter(({ role }) => role === "solar").length;
}

/** A that a converter for DC loads draws from the battery at its rating. */
export const converterDraw = (
  v: Record<"converterRating" | "loadVoltage" | "efficiency", ResolvedQuantity>,
  bankVoltage: number,
): number => (v.converterRating.value * v.loadVoltage.value) / (bankVoltage * v.efficiency.value);

/** What the far side of a branch follows from. */
interface FarSideSource {
  job: Job;
  branch: Branch;
  values: Record<
    "current" | "efficiency" | "vehicleVoltage" | "starterShortCircuit" | "loadVoltage" | "converterRating",
    ResolvedQuantity
  >;
  /** V that the battery is charged to. */
  chargeToVoltage: number;
  rules: RuleSet;
  array: PanelArray;
}

/** The far side of a branch; null where it has none. */
export function farSideOf({ job, branch, values: v, chargeToVoltage, rules, array }: FarSideSource): FarSide | null {
  switch (branch.role) {
    case "engine": {
      if (branch.coupling === "isolator") return null;
      const volts = v.vehicleVoltage.value * VEHICLE_CHARGES_AT;
      return {
        current: (v.current.value * chargeToVoltage) / (volts * v.efficiency.value),
        volts: v.vehicleVoltage.value,
        highestVolts: 1.25 * v.vehicleVoltage.value,
        mains: false,
        shortCircuit: v.starterShortCircuit.value,
        limited: false,
        source: "starter battery",
        relation: "I_2 = I × V_b ÷ (V_2 × η)",
      };
    }
    case "charger": {
      const volts = loadVolts(job.brief.mains, "L1");
      return {
        current: (v.current.value * chargeToVoltage) / (volts * v.efficiency.value * CHARGER_POWER_FACTOR),
        volts,
        highestVolts: volts,
        mains: true,
        shortCircuit: 0,
        limited: false,
        source: "shore side of the transfer switch",
        relation: "I_2 = I × V_b ÷ (V_2 × η × 0.95)",
      };
    }
    case "loads":
      return branch.converter
        ? {
            current: v.converterRating.value,
            volts: v.loadVoltage.value,
            highestVolts: 1.25 * v.loadVoltage.value,
            mains: false,
            shortCircuit: 2 * v.converterRating.value,
            limited: true,
            source: "converter",
            relation: "I_2 = I_c",
          }
        : null;
    case "solar":
      return {
        current: rules.solarFactor * array.shortCurrent,
        volts: array.openVolts,
        highestVolts: array.coldVolts,
        mains: false,
        shortCircuit: rules.solarFactor * array.shortCurrent,
        limited: true,
        source: "solar array",
        relation: "I_2 = k × I_sc",
      };
    default:
      return null;
  }
}
/** Input stages of chargers are corrected to about this power factor (common practice, no source). */
const CHARGER_POWER_FACTOR = 0.95;
