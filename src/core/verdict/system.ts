import type { BankModel } from "../bank/bank";
import type { InverterModel } from "../inverter/inverter";
import type { PathModel } from "../path/path";
import type { Rig } from "../rig/document";
import type { RigValues } from "../rig/resolve";
import type { Figures } from "../sum/figure";
import type { UnitDraws } from "../unit/unit";

/** Everything the verdicts share: the models built once from the document, and the ledger they write into. */
export interface System {
  rig: Rig;
  values: RigValues;
  figures: Figures;
  bank: BankModel;
  inverter: InverterModel;
  path: PathModel;
  units: UnitDraws[];
  mains: number;
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
  };
}

/** State of charge at which the rig must still start and carry: the reserve, or the start level where that is lower. */
export function lowestShare({ bank }: System): number {
  return Math.min(bank.startShare, bank.reserveShare);
}

/** Name of the machine at the end of the path. */
export function farEnd(system: System): string {
  return system.converted ? "inverter" : "unit";
}
