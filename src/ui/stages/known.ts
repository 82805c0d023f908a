import type { Known } from "@/core/rig/quantity";
import type { RigValues } from "@/core/rig/resolve";
import type { StageKey } from "./stages";

/** How many quantities of a stage are measured (or fitted), from the plate, assumed. */
export function knownOfStage(values: RigValues, stage: StageKey): { measured: number; plate: number; assumed: number } {
  const groups: object[] = {
    brief: [values.brief, ...values.loads],
    unit: values.units,
    start: [values.inverter, values.path],
    bank: [values.bank],
  }[stage];
  const count = { measured: 0, plate: 0, assumed: 0 };
  for (const group of groups) {
    for (const known of Object.values(group) as Known[]) count[known.origin === "fitted" ? "measured" : known.origin]++;
  }
  return count;
}
