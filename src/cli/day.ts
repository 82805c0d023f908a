import { isoOf } from "../core/units/clock";
import { recordAsCsv, totalsOf } from "../core/simulation/day/export";
import { recordOf } from "../core/simulation/day/record";
import { simulate } from "../core/simulation/day/simulate";
import type { Job } from "../core/document/schema";
import { assessDay } from "../core/assessment/verdicts/day";
import { sunrisesOf } from "../core/assessment/use/sunrises";

export interface DayCall {
  days: number;
  /** Number of the made-up fortnight; null for the document's own weather. */
  seed: number | null;
  summary: boolean;
}

/** The days of a system from noon of the plan's first: a CSV line a minute, or their summary as JSON. */
export function dayOutput(job: Job, { days, seed, summary }: DayCall): string {
  const own: Job = seed === null ? job : { ...job, weather: { ...job.weather, kind: "generated", seed } };
  const simulated = simulate(own, {
    days,
    minuteOfDay: 720,
    neverResting: job.brief.stance === "never-resting",
  });
  const record = recordOf(simulated);
  if (!summary) return recordAsCsv(record, days);
  const { verdicts, words, range, figures } = assessDay(own);
  const levels = record.stateOfCharge.subarray(0, record.steps);
  const lowest = levels.reduce((low, share, k) => (share < levels[low]! ? k : low), 0);
  const at = (seconds: number) => isoOf(record.clock, seconds);
  return `${JSON.stringify(
    {
      name: job.name,
      from: at(0),
      days,
      weather: own.weather.kind,
      seed: own.weather.kind === "generated" ? own.weather.seed : undefined,
      verdicts,
      words,
      range,
      lowest: { state_of_charge: levels[lowest], time: at(lowest * record.stepS) },
      sunrises: sunrisesOf(simulated).map((sunrise) => ({ time: at(sunrise.at), state_of_charge: sunrise.share })),
      reserve: record.reserveAt === null ? null : at(record.reserveAt),
      stop: record.stop && { time: at(record.stop.at), cause: record.stop.cause },
      totals: totalsOf(record),
      figures,
    },
    null,
    2,
  )}\n`;
}
