import { interpolate } from "../../units/interpolate";

export type Chemistry = "lfp" | "nmc" | "agm";

export interface ChemistryModel {
  name: string;
  lithium: boolean;
  /** Nominal volts of one cell. */
  cellVoltage: number;
  /** Rest voltage of one cell at 25 degC over state of charge 0 to 1. */
  restSocs: readonly number[];
  restVoltages: readonly number[];
  /** Usual end of charge and end of discharge under load, volts a cell. */
  chargeTo: number;
  /** V a cell over which charging damages it (IEC 62619 for lithium; absorption in the cold for AGM; from memory). */
  mostChargeTo: number;
  stopAt: number;
  /** V a cell under which discharging damages it (lithium by IEC 62619 and data sheets, AGM at a high rate; from memory). */
  leastDrawTo: number;
  /** Hottest that it may get, degC (data sheets, from memory). */
  hottestC: number;
  /** Usable capacity, as a share of that at 25 degC, over temperature in degC. */
  capacityTemperaturesC: readonly number[];
  capacityShares: readonly number[];
}

/*
 * Rest voltages: typical of published curves, from memory; AGM given there for a 12 V block, here by cell.
 * Capacity against temperature: LFP 100 % at 25 degC, 90 % at 0, 70 % at -20; AGM 1 %/K below 25 degC (memory).
 */
const TENTHS = [0, 0.1, 0.2, 0.3, 0.4, 0.5, 0.6, 0.7, 0.8, 0.9, 1];

export const CHEMISTRIES: Record<Chemistry, ChemistryModel> = {
  lfp: {
    name: "LFP",
    lithium: true,
    cellVoltage: 3.2,
    restSocs: [0, 0.05, 0.1, 0.2, 0.3, 0.4, 0.5, 0.6, 0.7, 0.8, 0.9, 0.95, 1],
    restVoltages: [2.6, 3.05, 3.18, 3.23, 3.26, 3.28, 3.29, 3.3, 3.32, 3.33, 3.335, 3.34, 3.4],
    chargeTo: 3.55,
    mostChargeTo: 3.65,
    stopAt: 2.8,
    leastDrawTo: 2,
    hottestC: 60,
    capacityTemperaturesC: [-20, 0, 25],
    capacityShares: [0.7, 0.9, 1],
  },
  nmc: {
    name: "NMC lithium-ion",
    lithium: true,
    cellVoltage: 3.65,
    restSocs: TENTHS,
    restVoltages: [3.0, 3.45, 3.55, 3.6, 3.64, 3.68, 3.76, 3.86, 3.95, 4.07, 4.18],
    chargeTo: 4.15,
    mostChargeTo: 4.2,
    stopAt: 3.2,
    leastDrawTo: 2.5,
    hottestC: 60,
    capacityTemperaturesC: [-20, 0, 25],
    capacityShares: [0.7, 0.9, 1],
  },
  agm: {
    name: "AGM lead-acid",
    lithium: false,
    cellVoltage: 2,
    restSocs: [0, 0.25, 0.5, 0.75, 1],
    restVoltages: [11.6 / 6, 12.0 / 6, 12.3 / 6, 12.55 / 6, 12.85 / 6],
    chargeTo: 2.4,
    mostChargeTo: 2.5,
    stopAt: 1.75,
    leastDrawTo: 1.6,
    hottestC: 50,
    capacityTemperaturesC: [-20, 25],
    capacityShares: [0.55, 1],
  },
};

/** Rest voltage of one cell at state of charge `share` (0 to 1). */
export function cellOpenCircuitVoltage(chemistry: Chemistry, stateOfCharge: number): number {
  const model = CHEMISTRIES[chemistry];
  return interpolate(model.restSocs, model.restVoltages, stateOfCharge);
}

/** State of charge, 0 to 1, at which a cell rests at `voltage`: what a charge to that voltage reaches. */
export function socAtOpenCircuit(chemistry: Chemistry, voltage: number): number {
  const model = CHEMISTRIES[chemistry];
  return interpolate(model.restVoltages, model.restSocs, voltage);
}

/** Cells in one battery or block: the nominal voltage over that of one cell, at least one. */
export function cellsInBlock(chemistry: Chemistry, blockVoltage: number): number {
  return Math.max(1, Math.round(blockVoltage / CHEMISTRIES[chemistry].cellVoltage));
}
