import { openCircuitVoltage, effectiveCurrent, type BankModel } from "../../models/battery/battery";
import { bankUnderLoad } from "../../models/battery/under-load";

/** A share of the time at one draw from the bank. Shares of a list add up to one. */
export interface DrawLevel {
  share: number;
  /** W along the path to the inverter or the DC unit. */
  pathPower: number;
  /** W of DC loads at the battery itself. */
  sidePower: number;
}

export interface Discharge {
  bank: BankModel;
  /** Rest volts in the middle of each step of charge, from `restSteps`: the same for all draws of a bank. */
  rest: Float64Array;
  pathResistance: number;
  /** Volts at the end of the path below which the inverter cuts off; 0 without one. */
  cutOffVoltage: number;
}

export interface RunDown {
  /** Seconds from the start to the reserve, or to the cut-off where that comes first. */
  toReserve: number;
  toCutOff: number;
  /** State of charge at which it cuts off, and by what. */
  cutOffSoc: number;
  cutOffBy: "empty" | "inverter" | "bank";
  /** State of charge after `seconds` of this draw, not below the cut-off. */
  socAfter(seconds: number): number;
  /** Mean of the counted current from the start to the reserve, A. */
  meanCurrent: number;
  /** Rest energy between two levels, Wh. */
  energyBetween(upper: number, lower: number): number;
}

const PIECES = 200;
/** Longer than this is not told apart: a battery stands about as long by itself. */
export const LONGEST_S = 90 * 86_400;

/** Rest voltage of the battery in the middle of each of the 200 steps of charge. */
export function openCircuitSteps(bank: BankModel): Float64Array {
  return Float64Array.from({ length: PIECES }, (_, piece) => openCircuitVoltage(bank, (piece + 0.5) / PIECES));
}

/**
 * Steps a battery down at a draw of one level or several in turn (short against the run), in 200 equal steps of charge.
 *
 * Each step solves the battery's voltage under each level's constant power and counts the current, by Peukert where the
 * chemistry asks for it. The cut-off is the highest level at which the largest draw takes the inverter below its
 * cut-off or the battery below its stop. More capacity, less resistance and a lower reserve never shorten the result.
 */
export function runDown(discharge: Discharge, levels: DrawLevel[]): RunDown {
  const { bank, pathResistance } = discharge;
  const inner = bank.innerResistance;
  const draws = levels.filter((level) => level.share > 0);
  const solve = (level: DrawLevel, rest: number) =>
    bankUnderLoad(rest, inner, pathResistance, level.pathPower, level.sidePower);

  const stoppedBy = (share: number): "inverter" | "bank" | null => {
    const rest = openCircuitVoltage(bank, share);
    for (const level of draws) {
      const state = solve(level, rest);
      if (level.pathPower > 0 && (state.collapsed || state.inverterVoltage < discharge.cutOffVoltage))
        return "inverter";
      if (state.collapsed || state.bankVoltage < bank.stopVoltage) return "bank";
    }
    return null;
  };
  const { startSoc } = bank;
  let cutOffSoc = 0;
  let cutOffBy: RunDown["cutOffBy"] = "empty";
  if (stoppedBy(0) !== null) {
    let [stops, runs] = [0, startSoc];
    if (stoppedBy(startSoc) !== null) stops = startSoc;
    for (let i = 0; i < 40 && runs - stops > 1e-9; i++) {
      const middle = (stops + runs) / 2;
      if (stoppedBy(middle) !== null) stops = middle;
      else runs = middle;
    }
    cutOffSoc = stops;
    cutOffBy = stoppedBy(stops)!;
  }

  // Seconds spent in each step of charge, counted from empty.
  const seconds = new Float64Array(PIECES);
  const chargeOfPiece = (bank.capacityAh * 3600) / PIECES;
  for (let piece = 0; piece < PIECES; piece++) {
    let counted = 0;
    for (const level of draws) {
      counted +=
        level.share *
        effectiveCurrent(solve(level, discharge.rest[piece]!).bankCurrent, bank.ratedCurrent, bank.peukert);
    }
    seconds[piece] = counted > 0 ? Math.min(LONGEST_S, chargeOfPiece / counted) : LONGEST_S;
  }
  const between = (upper: number, lower: number, weight: (piece: number) => number) => {
    let total = 0;
    for (let piece = Math.floor(lower * PIECES); piece < PIECES && piece / PIECES < upper; piece++) {
      const covered = Math.min(upper, (piece + 1) / PIECES) - Math.max(lower, piece / PIECES);
      if (covered > 0) total += covered * PIECES * weight(piece);
    }
    return total;
  };
  const time = (upper: number, lower: number) =>
    Math.min(
      LONGEST_S,
      between(upper, lower, (piece) => seconds[piece]!),
    );

  const end = Math.max(cutOffSoc, Math.min(startSoc, bank.reserveSoc));
  const toReserve = time(startSoc, end);
  const used = bank.capacityAh * 3600 * (startSoc - end);
  const pieceEnergy = (piece: number) => (discharge.rest[piece]! * bank.capacityAh) / PIECES;
  return {
    toReserve,
    toCutOff: time(startSoc, cutOffSoc),
    cutOffSoc,
    cutOffBy,
    meanCurrent: toReserve > 0 ? used / toReserve : 0,
    energyBetween: (upper, lower) => between(upper, lower, pieceEnergy),
    socAfter(elapsed) {
      let left = elapsed;
      let share = startSoc;
      while (share > cutOffSoc && left > 0) {
        const piece = Math.min(PIECES - 1, Math.ceil(share * PIECES - 1e-9) - 1);
        const lower = Math.max(cutOffSoc, piece / PIECES);
        const here = (share - lower) * PIECES * seconds[piece]!;
        if (here > left) return share - left / (PIECES * seconds[piece]!);
        left -= here;
        share = lower;
      }
      return share;
    },
  };
}
