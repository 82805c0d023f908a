import { openCircuitVoltage, type BankModel } from "../battery/battery";
import { bankUnderLoad, type BankUnderLoad } from "../battery/under-load";
import type { InverterModel } from "../inverter/inverter";
import type { WiringModel } from "../wiring/circuits";
import type { Legs } from "../../reference/standards/mains";
import type { Job } from "../../document/schema";
import { constant, of, traced, type TracedValue, type Term } from "../../units/trace";
import type { UnitDraws } from "../air-conditioner/air-conditioner";
import { PARALLEL_IMBALANCE } from "../../document/resolve-wiring";
import type { JobValues } from "../../document/resolved";
import { farEnd, voltageLimitName, type Allowed } from "./allowed";

/** Everything the verdicts share: the models, built once from the document. */
export interface System {
  job: Job;
  values: JobValues;
  bank: BankModel;
  /** Capacity and resistance of the battery, and its rest volts half charged and at the reserve, with their working. */
  bankFigures: Record<"capacity" | "resistance" | "restHalf" | "rest", TracedValue>;
  inverter: InverterModel;
  wiring: WiringModel;
  units: UnitDraws[];
  /** V of one leg to neutral. */
  mains: number;
  /** V that each unit is fed with, on mains. */
  unitVolts: number[];
  /** DC units on a branch of their own beside the inverter's run. */
  beside: boolean[];
  /** Watts from the battery for each watt of DC loads: over one where a converter stands before them. */
  converterLoss: number;
  /** How the inverter feeds a supply of two legs. */
  legs: Legs;
  /** Whether any mains is made from the bank. */
  converted: boolean;
  /** W of the other loads: all at once, those that may be on at a start, and their average. */
  loads: {
    mains: number;
    dc: number;
    mainsAtStart: number;
    dcAtStart: number;
    mainsAverage: number;
    dcAverage: number;
    /** VA of the other mains loads on each leg: all at once, and those that may be on at a start. */
    byLeg: readonly [number, number];
    byLegAtStart: readonly [number, number];
  };
}

/** State of charge at which the system must still start and carry: the reserve, or the start level where that is lower. */
export function lowestSoc({ bank }: System): number {
  return Math.min(bank.startSoc, bank.reserveSoc);
}

/** Largest share of the battery's current that one battery, or the one protection board, gives. */
export function largestShare({ bank, job, values }: System): Term {
  const board = job.bank.build === "cells" && job.bank.chemistry !== "agm";
  const even = bank.shares.length < 2;
  return constant(
    "q",
    "Largest current share of one battery",
    board
      ? 1
      : Math.max(values.bank.parallel.value > 1 ? PARALLEL_IMBALANCE / values.bank.parallel.value : 1, ...bank.shares),
    "ratio",
    board
      ? "one BMS"
      : values.bank.parallel.value < 2
        ? "one path"
        : even
          ? "in parallel, one a tenth over its equal share"
          : "by the links between them, a tenth over an equal share at least",
  );
}

/** What a load may draw behind the battery and so many ohms before the volts at it come to its cut-off. */
function powerToCutOff(
  { bankFigures }: System,
  titled: { key: string; name: string },
  { power, farEnd: volts, seen }: Allowed,
  at: { where: string; why: string; others: string; path: TracedValue },
): TracedValue {
  return traced({
    ...titled,
    dimension: "power",
    value: power,
    relation: "P_m = V_c × max(0, E − V_c) ÷ (R_b + R)",
    terms: () => [
      constant("V_c", `Voltage at the ${at.where} at that moment`, volts, "voltage", at.why),
      constant("E", `Open-circuit voltage, less what ${at.others}`, seen, "voltage", "at the reserve"),
      of("R_b", bankFigures.resistance),
      of("R", at.path),
    ],
    source: "constant power behind a resistance",
  });
}

/** The figure of what the voltage allows along the main run, and the name of the limit that sets it. */
export function powerByVoltage(
  system: System,
  key: string,
  name: string,
  allowed: Allowed,
): { figure: TracedValue; limit: string } {
  const bankStops = allowed.by === "bank";
  const where = farEnd(system);
  const figure = powerToCutOff(system, { key, name }, allowed, {
    where,
    why: bankStops ? "the battery is at its stop" : `the ${where}'s cut-off; half of E at the least`,
    others: "DC loads take",
    path: system.wiring.resistanceFigure,
  });
  return { figure, limit: voltageLimitName(system, allowed) };
}

/** The figure of what the volts at a DC unit on a branch of its own allow it to draw. */
export const powerByVoltageOfUnit = (
  system: System,
  titled: { key: string; name: string },
  allowed: Allowed,
  branch: TracedValue,
): TracedValue =>
  powerToCutOff(system, titled, allowed, {
    where: "unit",
    why: "its cut-off; half of E at the least",
    others: "all else takes",
    path: branch,
  });

/** What flows along the main circuit: the watts asked of it, W, and the DC loads beside it, W at the battery. */
interface PathDraw {
  /** Key and name of the figure of its current. */
  key: string;
  name: string;
  onPath: TracedValue;
  dcLoad: number;
}

/** The battery under a draw along the path and DC loads beside it, at the reserve; with the figure of the path's current. */
export function currentAlongPath(
  system: System,
  { key, name, onPath, dcLoad }: PathDraw,
): { figure: TracedValue; state: BankUnderLoad } {
  const { bank, wiring } = system;
  const inner = bank.innerResistance;
  const rest = openCircuitVoltage(bank, lowestSoc(system));
  const state = bankUnderLoad(rest, inner, wiring.resistance, onPath.value, dcLoad);
  const seen = rest - (state.bankCurrent - state.pathCurrent) * inner;
  const collapsed = state.askedPathCurrent > state.pathCurrent;
  const relation = collapsed ? "I = 2 × P_d ÷ E" : "I = (E − √(E² − 4 × R × P_d)) ÷ (2 × R)";
  const figure = traced({
    key,
    name,
    dimension: "current",
    value: state.askedPathCurrent,
    relation,
    terms: () => [
      constant("E", "Open-circuit voltage, less what DC loads take", seen, "voltage", "at the reserve"),
      constant("R", "Battery and wiring", inner + wiring.resistance, "resistance", "in series"),
      of("P_d", onPath),
    ],
    source: collapsed
      ? "past E² ÷ 4R the voltage collapses: the current at half of E"
      : "constant power behind a resistance",
  });
  return { figure, state };
}

/** The battery's own current: the path's and that of the DC loads beside it. */
export function currentOfBank(key: string, name: string, path: TracedValue, state: BankUnderLoad): TracedValue {
  return traced({
    key,
    name,
    dimension: "current",
    value: state.askedBankCurrent,
    relation: "I_b = I + I_o",
    terms: () => [
      of("I", path),
      constant(
        "I_o",
        "DC loads beside it",
        state.askedBankCurrent - state.askedPathCurrent,
        "current",
        "loads, and units on branches of their own, at the battery's volts",
      ),
    ],
  });
}
