/// <reference lib="webworker" />
import { expose } from "comlink";
import { packOf, packSource, type MeasuredRun } from "@/core/handover/pack";
import type { Rig } from "@/core/rig/document";
import { startWays } from "@/core/start/cases";
import { sizeRig } from "@/core/sizing/size-rig";
import { chooseRun } from "@/core/sizing/size-run";
import { compareCures } from "@/core/start/cures";
import { startSupplies } from "@/core/start/supplies";
import { answersOf } from "@/core/verdict/answers";
import { measureNext } from "@/core/verdict/measure-next";

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
  choose: (rig: Rig, path: string) => chooseRun(rig, path),
  size: (rig: Rig) => sizeRig(rig),
};

export type Insight = typeof insight;
expose(insight);
