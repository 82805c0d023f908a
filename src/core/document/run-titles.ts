import type { RunPath } from "./path";
import { usesInverter } from "./resolve-wiring";
import type { Branch, Job, Part } from "./schema";

/** A run of the job's wiring: a circuit, or the far side of what stands in one. */
export interface Run {
  path: RunPath;
  /** What it leads from and to, as the sheet calls it. */
  title: string;
  parts: readonly Part[];
}

/** What the run from the battery is called. */
export const mainTitle = (job: Job): string =>
  usesInverter(job) ? "Battery to inverter" : "Battery to air conditioner";

export const MAINS_TITLE = "Inverter to air conditioners";

/** What the far side of a branch leads from and to. */
export function farTitle(branch: Branch): string {
  switch (branch.role) {
    case "engine":
      return `${branch.name}: starter battery to converter`;
    case "charger":
      return `${branch.name}: AC side`;
    case "solar":
      return `${branch.name}: array to controller`;
    default:
      return `${branch.name}: converter to loads`;
  }
}

/** Every run of a job's document, its parts in their order; that behind the inverter where there is one. */
export function runsOf(job: Job): Run[] {
  const { main, mains, branches } = job.wiring;
  return [
    { path: "wiring.main", title: mainTitle(job), parts: main },
    ...(usesInverter(job) ? [{ path: "wiring.mains", title: MAINS_TITLE, parts: mains } as const] : []),
    ...branches.flatMap((branch, i): Run[] => [
      { path: `wiring.branches.${i}.parts`, title: branch.name, parts: branch.parts },
      { path: `wiring.branches.${i}.far`, title: farTitle(branch), parts: branch.far },
    ]),
  ];
}
