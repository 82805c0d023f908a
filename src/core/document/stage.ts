import { groupOf, type JobPath } from "./path";

/** The stages of the sheet that hold quantities of the job. */
export type Stage = "brief" | "unit" | "start" | "wiring" | "bank" | "charging" | "day";

/** The stage on which the quantity at a document path is entered. */
export function stageOfPath(path: JobPath): Stage {
  const group = groupOf(path);
  if (group === "units") return "unit";
  if (group === "brief" || group === "bank" || group === "wiring") return group;
  if (group === "weather") return "brief";
  if (group === "sources") return "charging";
  if (group === "place" || group === "cabin" || group === "plan") return "day";
  return "start";
}
