import type { DayRecord } from "./record";

/** W out of the battery's cells at a step, losses included; negative into them. */
export function fromCells(record: DayRecord, k: number): number {
  const { units, loads, losses, sunPower, engine, shore, generator } = record;
  return units[k]! + loads[k]! + losses[k]! - sunPower[k]! - engine[k]! - shore[k]! - generator[k]!;
}
