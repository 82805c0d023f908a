import { ampHoursBetween } from "./prior";
import type { TestRun } from "./test-run";

/** The three answers a hand gives: hours to the reserve by the amps now, by the average so far, by the last half hour. */
export interface HandAnswers {
  now: number | null;
  average: number | null;
  halfHour: number | null;
  /** What they divide: A h down to the reserve by the plate, from the charge shown. */
  ampHours: number;
}

export function handAnswers({
  site,
  readings,
  segments,
}: Pick<TestRun, "site" | "readings" | "segments">): HandAnswers {
  const { bank } = site.system;
  const count = readings.timeMs.length;
  const end = count - 1;
  const soc = lastRead(readings.values.soc_pct);
  const counted = ampHoursBetween(readings, 0, end);
  const level = Number.isNaN(soc) ? bank.startSoc - counted / bank.capacityAh : soc / 100;
  const ampHours = Math.max(0, (level - bank.reserveSoc) * bank.capacityAh);
  const over = (amps: number) => (amps > 0.01 ? ampHours / amps : null);
  const lasted = segments.seconds[end]! / 3600;
  let from = end;
  while (from > 0 && segments.seconds[end]! - segments.seconds[from - 1]! <= 1800) from--;
  const half = (segments.seconds[end]! - segments.seconds[from]!) / 3600;
  return {
    now: over(-readings.values.battery_current_a[end]!),
    average: lasted > 0 ? over(counted / lasted) : null,
    halfHour: half > 0 ? over(ampHoursBetween(readings, from, end) / half) : null,
    ampHours,
  };
}

function lastRead(line: Float64Array): number {
  for (let i = line.length - 1; i >= 0; i--) if (!Number.isNaN(line[i]!)) return line[i]!;
  return NaN;
}
