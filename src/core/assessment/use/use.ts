import type { Clock } from "../../units/clock";
import type { SimulationResult } from "../../simulation/day/result";
import { simulate, type Question, type WeatherKind } from "../../simulation/day/simulate";
import type { Job } from "../../document/schema";
import type { Use } from "../../simulation/day/first-use";
import type { System } from "../../models/system/system";

/** Days that a use is followed for at the least. */
const USE_DAYS = 3;
/** The same for days of storage without sun. */
const STORAGE_DAYS = 14;
/** Minutes between the states of charge that are kept of a use. */
const LEFT_EVERY_MIN = 10;

/** Why a use ended: the reserve, or what cut the supply. */
export type EndCause = "reserve" | NonNullable<SimulationResult["stop"]>["cause"];

/** How a use went in one kind of weather, from switching on. Times in seconds from switching on. */
export interface UseRun {
  /** To the reserve, or to where supply ended before it; the run's length where neither came. */
  lasts: number;
  reached: boolean;
  cause: EndCause;
  /** To where supply from the battery ends, with its cause; null where it does not within the run. */
  cutOff: { at: number; cause: NonNullable<SimulationResult["stop"]>["cause"] } | null;
  /** Hours of compressor until `lasts`, s: of several units and part speeds the equivalent of one at full speed. */
  compressor: number;
  clock: Clock;
  /** Second of the clock that the use begins at. */
  startSecond: number;
  /** State of charge every ten minutes from switching on, the first at once. */
  left: number[];
  endCharge: number;
  run: SimulationResult;
}

/** Time from switching on that Lasts asks for, s: the hours wanted, or the days of storage. */
export function timeWanted({ job, values }: System): number {
  return job.brief.stance === "storage" ? values.plan.storageDays.value * 86_400 : values.brief.hoursWanted.value;
}

/** Days that a use is followed for: a quarter beyond what is asked for, so that the end of the run never makes it Tight. */
export function daysFollowed(system: System): number {
  const least = system.job.brief.stance === "storage" ? STORAGE_DAYS : USE_DAYS;
  return Math.max(least, Math.ceil((1.25 * timeWanted(system)) / 86_400));
}

/** The question that Lasts asks of the coupled run. */
function questionOfUse(job: Job, system: System, use: Use, weather?: WeatherKind): Question {
  const storage = job.brief.stance === "storage";
  return {
    days: daysFollowed(system),
    minuteOfDay: use.from,
    day: use.day,
    weather,
    noOverload: true,
    untilCut: true,
    neverResting: job.brief.stance === "never-resting",
    ...(storage ? { bankAlone: true } : { extendFrom: { minuteOfRun: use.minutes } }),
  };
}

/** Runs a use until supply from the battery ends, or for `daysFollowed`. */
export function runOfUse(job: Job, system: System, use: Use, weather?: WeatherKind): UseRun {
  const { run, clock, warmUpSteps } = simulate(job, questionOfUse(job, system, use, weather), system);
  const { stepS } = run;
  const reserve = run.reserveAt ?? Infinity;
  const stop = run.stop?.at ?? Infinity;
  const reached = Math.min(reserve, stop) < Infinity;
  const lasts = reached ? Math.min(reserve, stop) : run.steps * stepS;
  const last = Math.min(run.steps, Math.ceil(lasts / stepS));
  let compressor = 0;
  for (let k = 0; k < last; k++) compressor += run.compressor[k]! * stepS;
  const every = Math.max(1, Math.round((LEFT_EVERY_MIN * 60) / stepS));
  const left = [system.bank.startSoc];
  for (let k = every - 1; k < run.steps; k += every) left.push(run.stateOfCharge[k]!);
  return {
    lasts,
    reached,
    cause: stop < reserve ? run.stop!.cause : "reserve",
    cutOff: run.stop,
    compressor,
    clock,
    startSecond: warmUpSteps * stepS,
    left,
    endCharge: last > 0 ? run.stateOfCharge[last - 1]! : system.bank.startSoc,
    run,
  };
}

/** State of charge of a use `seconds` after switching on, between the ten minutes that are kept; null past its end. */
export function chargeAfter(left: readonly number[], seconds: number): number | null {
  const at = seconds / (LEFT_EVERY_MIN * 60);
  const before = Math.floor(at);
  if (before < 0 || before >= left.length - 1) return at === left.length - 1 ? left[before]! : null;
  return left[before]! + (left[before + 1]! - left[before]!) * (at - before);
}
