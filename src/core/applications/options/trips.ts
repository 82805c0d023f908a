import { CHEMISTRIES } from "../../reference/battery/chemistry";
import { inputOf } from "../../simulation/day/simulate";
import { coupledRun } from "../../simulation/day/run";
import { localSecond } from "../../units/clock";
import { monthOfJob } from "../../document/place";
import type { Job } from "../../document/schema";
import { buildSystem } from "../../models/system/build";
import type { System } from "../../models/system/system";
import type { Requirement } from "./target";

/** Days away from a plug in made-up weather: they begin at noon with a full bank. */
export interface Trip {
  month: number;
  seed: number;
}

/** How the days of many trips went. Sums that add up over trips, so that any split of the work gives the same. */
export interface Tally {
  trips: number;
  days: number;
  met: number;
  /** Days missed as the battery came to its reserve, and as the unit could not hold the cabin. */
  byBank: number;
  byUnit: number;
  /** Sum over trips of met days squared: what days of one trip have in common. */
  squares: number;
  /** Trips on which no dawn found the battery at its reserve. */
  recovered: number;
  /** Sum over trips of the lowest level. */
  lowest: number;
}

/** Step of a search's runs, s: their levels lie within half a percent of those at a minute. */
export const TRIP_STEP_S = 300;
/** From midnight on: a cabin has its own warmth by noon. */
const TRIP_PRIME_S = 43_200;
const NOON = 720;
/** A cabin is held within this of its set point, after this long, for this share of the time that is asked. */
const WITHIN_K = 1;
const AFTER_S = 5400;
const HELD_SHARE = 0.8;

/**
 * Trips of so many weeks, spread evenly over the months of the target, or of a target of it. The confirming ones have seeds of
 * their own.
 */
export function tripsOf(
  job: Job,
  requirement: Requirement,
  set: "search" | "confirm",
  asked: { months: number[]; tripDays: number } = requirement,
): Trip[] {
  const weeks = set === "search" ? requirement.weeks : requirement.confirmWeeks;
  const count = Math.max(1, Math.round((weeks * 7) / asked.tripDays));
  const months = asked.months.length > 0 ? asked.months : [monthOfJob(job, 40)];
  const base = (requirement.seed * 7919 + (set === "search" ? 0 : 500_000)) % 900_000;
  return Array.from({ length: count }, (_, i) => ({ month: months[i % months.length]!, seed: base + i }));
}

export const emptyTally = (): Tally => ({
  trips: 0,
  days: 0,
  met: 0,
  byBank: 0,
  byUnit: 0,
  squares: 0,
  recovered: 0,
  lowest: 0,
});

/** Sends a system on trips and tallies its days. */
export function tally(job: Job, trips: readonly Trip[], tripDays: number): Tally {
  const sum = emptyTally();
  const systems = new Map<number, { job: Job; system: System }>();
  for (const { month, seed } of trips) {
    let kept = systems.get(month);
    if (!kept) {
      const dated: Job = {
        ...job,
        brief: { ...job.brief, month },
        plan: { ...job.plan, start: null },
        weather: { kind: "generated", seed: 0, file: null },
      };
      kept = { job: dated, system: buildSystem(dated) };
      systems.set(month, kept);
    }
    tallyTrip(kept.system, seed, tripDays, sum);
  }
  return sum;
}

function tallyTrip(system: System, seed: number, tripDays: number, sum: Tally): void {
  const { job } = system;
  const { input, clock, warmUpSteps } = inputOf(
    job,
    {
      days: tripDays,
      minuteOfDay: NOON,
      weather: "generated",
      seed,
      stepS: TRIP_STEP_S,
      warmUpS: TRIP_PRIME_S,
      noOverload: true,
      startSoc: CHEMISTRIES[job.bank.chemistry].lithium ? 1 : 0.98,
    },
    system,
  );
  const run = coupledRun(input);
  const { mode, setPointC } = input.schedule;
  const perDay = 86_400 / TRIP_STEP_S;
  const reserve = system.bank.reserveSoc;
  let met = 0;
  let lowest = 1;
  let recovered = true;
  let askedFor = 0;
  for (let day = 0; day < tripDays; day++) {
    let emptied = false;
    let asked = 0;
    let held = 0;
    for (let k = day * perDay; k < Math.min(run.steps, (day + 1) * perDay); k++) {
      const share = run.stateOfCharge[k]!;
      if (share < lowest) lowest = share;
      if (share <= reserve) {
        emptied = true;
        const hour = (localSecond(clock, (warmUpSteps + k) * TRIP_STEP_S) % 86_400) / 3600;
        if (hour >= 5 && hour < 8) recovered = false;
      }
      let set = Infinity;
      for (let u = 0; u < mode.length; u++)
        if (mode[u]![warmUpSteps + k]! >= 2) set = Math.min(set, setPointC[u]![warmUpSteps + k]!);
      askedFor = set === Infinity ? 0 : askedFor + TRIP_STEP_S;
      if (askedFor <= AFTER_S) continue;
      asked++;
      if (run.cabinC[k]! <= set + WITHIN_K) held++;
    }
    if (run.stop !== null && run.stop.at < (day + 1) * 86_400) emptied = true;
    if (emptied) sum.byBank++;
    else if (asked > 0 && held < HELD_SHARE * asked) sum.byUnit++;
    else met++;
  }
  sum.trips++;
  sum.days += tripDays;
  sum.met += met;
  sum.squares += met * met;
  sum.recovered += recovered ? 1 : 0;
  sum.lowest += lowest;
}

export interface Stated {
  share: number;
  /** The true share lies between these nine times in ten. */
  low: number;
  high: number;
}

/** Normal quantile that leaves a twentieth on either side. */
const Z90 = 1.645;
/** Design effect where the sample is too even to tell: a dull spell joins days, a full start parts first ones from last. */
const USUAL_EFFECT = 1;
const LEAST_EFFECT = 0.6;

/**
 * The share of days met and where the true one lies nine times in ten: Wilson's interval (1927) on as many independent
 * days as the trips are worth, by the variance between trips over that of independent days (Kish 1965, design effect).
 */
export function statedShare({ trips, days, met, squares }: Tally): Stated {
  if (days === 0) return { share: 0, low: 0, high: 1 };
  const share = met / days;
  const length = days / trips;
  const between = trips > 1 ? (squares - (met * met) / trips) / (trips - 1) : 0;
  const independent = length * share * (1 - share);
  // Few misses say little of how they go together: what is usual counts as twenty trips.
  const seen = independent > 0 ? Math.min(length, Math.max(LEAST_EFFECT, between / independent)) : USUAL_EFFECT;
  const missed = Math.min(met, days - met);
  const effect = (USUAL_EFFECT * 20 + seen * missed) / (20 + missed);
  const n = days / effect;
  const middle = (share + Z90 ** 2 / (2 * n)) / (1 + Z90 ** 2 / n);
  const half = (Z90 / (1 + Z90 ** 2 / n)) * Math.sqrt((share * (1 - share)) / n + Z90 ** 2 / (4 * n * n));
  // Rounding must not keep the ends out of their own interval.
  return {
    share,
    low: met === 0 ? 0 : Math.max(0, middle - half),
    high: met === days ? 1 : Math.min(1, middle + half),
  };
}
