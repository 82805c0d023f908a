import type { Rig } from "../../document/schema";
import type { VerdictWord } from "../../assessment/checks/check";
import { summaryOf } from "../../assessment/verdicts/summary";
import type { Design } from "./design";
import { fittedRig } from "./evaluate";
import type { Wish } from "./target";

export type DesignVerdicts = Record<"starts" | "carries" | "lasts" | "recovers", VerdictWord>;

/** The four verdicts of the job once a design is applied to it: the same sum that the job's own head band shows. */
export function verdictsOfDesign(rig: Rig, wish: Wish, design: Design): DesignVerdicts {
  const { starts, carries, lasts, recovers } = summaryOf(fittedRig(rig, wish, design));
  return { starts: starts.word, carries: carries.word, lasts: lasts.word, recovers: recovers.word };
}
