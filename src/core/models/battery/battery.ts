import { interpolate } from "../../units/interpolate";
import { cableResistance } from "../../reference/conductors/cable";
import { shareAmong } from "../../reference/conductors/links";
import type { Job } from "../../document/schema";
import { temperatureShare } from "../../reference/battery/temperature";
import { CHEMISTRIES, cellsInBlock, cellOpenCircuitVoltage, type Chemistry } from "../../reference/battery/chemistry";
import { PARALLEL_IMBALANCE } from "../../document/resolve-wiring";
import type { JobValues } from "../../document/resolved";

/** A battery as the computation sees it: one voltage source behind resistances. SI but for Ah. */
export interface BankModel {
  chemistry: Chemistry;
  cellsInSeries: number;
  nominalVoltage: number;
  /** Capacity now: plate x condition x temperature, all in parallel. */
  capacityAh: number;
  startSoc: number;
  reserveSoc: number;
  /** Volts under load at which the battery's own protection, or its owner, ends the discharge. */
  stopVoltage: number;
  /** Highest voltage the battery is charged to. */
  chargeToVoltage: number;
  cellResistance: number;
  protectionResistance: number;
  /** What the links between parallel batteries add, ohm. */
  linkResistance: number;
  /** Cells, protection and links: rest voltage to the battery's terminals. */
  innerResistance: number;
  /** Share of the current that each battery in parallel gives; one entry where they are equal or a single board. */
  shares: number[];
  /** A that the protection boards let out for hours and for a moment: of the battery that gives most, and in its heat. */
  continuousCurrent: number;
  /** A that the battery may be charged with at 25 degC, and the shares of both limits left at its temperature. */
  chargeCurrent: number;
  hotShare: number;
  chargeShare: number;
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
 * The battery model from resolved values.
 *
 * In batteries with a protection board half of the stated resistance is cells, which grow with cold; bare cells
 * are all cells, with the board stated beside them. A board of its own limits the whole battery; boards inside the
 * batteries add up over the parallel paths as far as the links let them share: the one that gives most meets its limit
 * first.
 */
export function bankModel(values: JobValues, job: Job, temperatureC = values.bank.temperatureC.value): BankModel {
  const { chemistry, build } = job.bank;
  const v = (key: keyof JobValues["bank"]) => values.bank[key].value;
  const cellsInSeries = cellsInBlock(chemistry, v("blockVoltage")) * v("series");
  const parallel = v("parallel");
  const model = CHEMISTRIES[chemistry];
  const stated = (v("resistance") * v("series")) / parallel;
  const boardInside = model.lithium && build === "batteries";
  const cellResistance = (boardInside ? stated / 2 : stated) * coldFactor(temperatureC);
  const protectionResistance = boardInside ? stated / 2 : v("protectionResistance");
  const sharedBoard = model.lithium && build === "cells";

  const { links } = values.wiring;
  const linked = build === "batteries" && parallel > 1 && links.paths.length > 0;
  const ohms = links.paths.map(
    ({ length }) =>
      cableResistance(links.areaMm2.value, length.value, 1, LINK_CONDUCTOR_C) + links.jointResistance.value / 2,
  );
  const own = cellResistance + protectionResistance;
  const sharing = linked
    ? shareAmong(job.wiring.links.layout, Math.min(parallel, 24), own * parallel, ohms)
    : { shares: [1 / parallel], resistance: own };
  // Beyond 24 in parallel the layout is no longer followed: the rest are taken as the mean.
  const scale = linked ? Math.min(parallel, 24) / parallel : 1;
  const shares = sharing.shares.map((share) => share * scale);
  const linkResistance = linked ? Math.max(0, sharing.resistance * scale - own) : 0;
  // No two batteries are quite alike: the one that gives most gives a tenth over an equal share at least.
  const largest = Math.max(parallel > 1 ? PARALLEL_IMBALANCE / parallel : 1, ...shares);
  const limited = sharedBoard ? 1 : 1 / largest;
  const left = temperatureShare(model.lithium, temperatureC, v("highestChargeC"));
  const plateAh = v("capacityAh") * parallel;
  return {
    chemistry,
    cellsInSeries,
    nominalVoltage: v("blockVoltage") * v("series"),
    capacityAh: plateAh * v("condition") * interpolate(model.capacityTemperaturesC, model.capacityShares, temperatureC),
    startSoc: v("startSoc"),
    reserveSoc: v("reserve"),
    stopVoltage: v("stopVoltage"),
    chargeToVoltage: v("chargeToVoltage"),
    cellResistance,
    protectionResistance,
    linkResistance,
    innerResistance: own + linkResistance,
    shares,
    continuousCurrent: v("continuousCurrent") * limited * left.discharge,
    chargeCurrent: v("chargeCurrent") * limited,
    hotShare: left.discharge,
    chargeShare: left.charge,
    peakCurrent: v("peakCurrent") * limited * left.discharge,
    peakTime: v("peakTime"),
    peukert: v("peukert"),
    ratedCurrent: (plateAh * 3600) / v("ratedTime"),
  };
}

/** Links are short and seldom hot: their copper is taken at this temperature. */
const LINK_CONDUCTOR_C = 40;

/** Rest voltage of the whole battery at state of charge `share`. */
export function openCircuitVoltage(bank: BankModel, stateOfCharge: number): number {
  return bank.cellsInSeries * cellOpenCircuitVoltage(bank.chemistry, stateOfCharge);
}

/**
 * Current that counts against the stated capacity: I (I / I_H)^(k-1).
 * From Peukert's t = H (C / (I H))^k. Below the rated current nothing is gained: the plate's capacity is the most there is.
 */
export function effectiveCurrent(current: number, ratedCurrent: number, peukert: number): number {
  if (peukert === 1 || current <= ratedCurrent) return current;
  return current * Math.pow(current / ratedCurrent, peukert - 1);
}
