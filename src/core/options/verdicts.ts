import type { Rig } from "../rig/document";
import type { VerdictWord } from "../verdict/check";
import { summaryOf } from "../verdict/summary";
import type { Design } from "./design";
import { fittedRig } from "./evaluate";
import type { Wish } from "./wish";

export type DesignVerdicts = Record<"starts" | "carries" | "lasts" | "recovers", VerdictWord>;

/** The four verdicts of the job once a design is applied to it: the same sum that the job's own head band shows. */
export function verdictsOfDesign(rig: Rig, wish: Wish, design: Design): DesignVerdicts {
  const { starts, carries, lasts, recovers } = summaryOf(fittedRig(rig, wish, design));
  return { starts: starts.word, carries: carries.word, lasts: lasts.word, recovers: recovers.word };
}
