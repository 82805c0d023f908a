import { mainUse, patternIndexOn, patternsOf } from "../../document/schedule";
import type { System } from "../../models/system/system";

/** The main use of the plan: minutes of its local day, and the plan's day that it first falls on. */
export interface Use {
  day: number;
  from: number;
  minutes: number;
}

/** The first of the plan's days with a use, or null where nothing cools all week. */
export function firstUse(system: System): Use | null {
  const { job, values } = system;
  const patterns = patternsOf(job, values.brief.hoursWanted.value);
  const start = Date.parse(`${values.site.startDate}T00:00:00Z`) / 86_400_000;
  for (let day = 0; day < 7; day++) {
    const weekday = (((start + day + 3) % 7) + 7) % 7;
    const use = mainUse(patterns[patternIndexOn(job, patterns, weekday)]!);
    if (use) return { day, ...use };
  }
  return null;
}
