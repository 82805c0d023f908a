import { interpolate } from "../numeric/interpolate";
import type { RigValues } from "../rig/resolve";
import { CHEMISTRIES, cellsInBlock, restVoltage, type Chemistry } from "./chemistry";

/** A bank as the computation sees it: one voltage source behind resistances. SI but for Ah. */
export interface BankModel {
  chemistry: Chemistry;
  cellsInSeries: number;
  nominalVoltage: number;
  /** Capacity now: plate x condition x temperature, all in parallel. */
  capacityAh: number;
  startShare: number;
  reserveShare: number;
  /** Volts under load at which the bank's own protection, or its owner, ends the discharge. */
  stopVoltage: number;
  /** Highest voltage the bank is charged to. */
  chargeToVoltage: number;
  cellResistance: number;
  protectionResistance: number;
  continuousCurrent: number;
  peakCurrent: number;
  peakTime: number;
  peukert: number;
  /** Current at which the capacity is stated, for Peukert. */
  ratedCurrent: number;
}

/**
 * Cell resistance against temperature: unchanged above 25 degC, doubled at 0 degC (models: "double near 0 degC").
 */
export function coldFactor(temperatureC: number): number {
  return temperatureC >= 25 ? 1 : Math.pow(2, (25 - temperatureC) / 25);
}

/**
 * The bank model from resolved values.
 *
 * In batteries with a protection board half of the stated resistance is cells, which grow with cold; bare cells
 * are all cells, with the board stated beside them. A board of its own limits the whole bank; boards inside the
 * batteries add up over the parallel paths, taken as equal.
 */
export function bankModel(values: RigValues["bank"], chemistry: Chemistry, build: "batteries" | "cells"): BankModel {
  const v = (key: keyof RigValues["bank"]) => values[key].value;
  const cellsInSeries = cellsInBlock(chemistry, v("blockVoltage")) * v("series");
  const parallel = v("parallel");
  const model = CHEMISTRIES[chemistry];
  const stated = (v("resistance") * v("series")) / parallel;
  const boardInside = model.lithium && build === "batteries";
  const cells = boardInside ? stated / 2 : stated;
  const sharedBoard = model.lithium && build === "cells";
  const limited = sharedBoard ? 1 : parallel;
  const plateAh = v("capacityAh") * parallel;
  return {
    chemistry,
    cellsInSeries,
    nominalVoltage: v("blockVoltage") * v("series"),
    capacityAh:
      plateAh * v("condition") * interpolate(model.capacityTemperaturesC, model.capacityShares, v("temperatureC")),
    startShare: v("startShare"),
    reserveShare: v("reserve"),
    stopVoltage: v("stopVoltage"),
    chargeToVoltage: v("chargeToVoltage"),
    cellResistance: cells * coldFactor(v("temperatureC")),
    protectionResistance: boardInside ? stated / 2 : v("protectionResistance"),
    continuousCurrent: v("continuousCurrent") * limited,
    peakCurrent: v("peakCurrent") * limited,
    peakTime: v("peakTime"),
    peukert: v("peukert"),
    ratedCurrent: (plateAh * 3600) / v("ratedTime"),
  };
}

/** Rest voltage of the whole bank at state of charge `share`. */
export function bankRestVoltage(bank: BankModel, share: number): number {
  return bank.cellsInSeries * restVoltage(bank.chemistry, share);
}

/**
 * Current that counts against the stated capacity: I (I / I_H)^(k-1).
 * From Peukert's t = H (C / (I H))^k. Below the rated current nothing is gained: the plate's capacity is the most there is.
 */
export function effectiveCurrent(current: number, ratedCurrent: number, peukert: number): number {
  if (peukert === 1 || current <= ratedCurrent) return current;
  return current * Math.pow(current / ratedCurrent, peukert - 1);
}
