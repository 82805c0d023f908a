import { everyKnown } from "@/core/document/resolve";
import { groupOf } from "@/core/document/path";
import { stageOfPath } from "@/core/document/stage";
import type { StageKey } from "./stages";
import type { JobValues } from "@/core/document/resolved";

/** How many quantities of a stage are measured (or fitted), from the plate, assumed. */
export function knownOfStage(values: JobValues, stage: StageKey): { measured: number; plate: number; assumed: number } {
  const count = { measured: 0, plate: 0, assumed: 0 };
  for (const known of everyKnown(values)) {
    if (stageOfPath(known.path) === stage && groupOf(known.path) !== "startAids")
      count[known.origin === "fitted" ? "measured" : known.origin]++;
  }
  return count;
}
