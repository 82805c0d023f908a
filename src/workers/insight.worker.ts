/// <reference lib="webworker" />
import { expose } from "comlink";
import { packOf, packSource, type MeasuredRun } from "@/core/applications/handover/document";
import type { Rig } from "@/core/document/schema";
import { startWays } from "@/core/assessment/starts/start-conditions";
import { sizeRig } from "@/core/applications/sizing/size-system";
import { sizeCircuit } from "@/core/applications/sizing/size-circuit";
import { compareCures } from "@/core/applications/start-aids/start-aids";
import { startSupplies } from "@/core/assessment/starts/supplies";
import { answersOf } from "@/core/assessment/verdicts/answers";
import { measureNext } from "@/core/assessment/verdicts/measure-next";

/** What takes longer than a keystroke may: asked for from the page, computed beside it. */
const insight = {
  answers: (rig: Rig) => answersOf(rig),
  cures: (rig: Rig) => compareCures(rig),
  supplies: (rig: Rig) => startSupplies(rig),
  ways: (rig: Rig) => startWays(rig),
  measureNext: (rig: Rig) => measureNext(rig),
  /** Sections of the pack as it would be made today. */
  pack: (rig: Rig, runs: readonly MeasuredRun[] = []) =>
    packOf(packSource(rig, runs), { revision: 0, date: new Date().toISOString().slice(0, 10) }).sections,
  choose: (rig: Rig, path: string) => sizeCircuit(rig, path),
  size: (rig: Rig) => sizeRig(rig),
};

export type Insight = typeof insight;
expose(insight);
