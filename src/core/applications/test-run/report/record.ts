import { median } from "d3-array";
import type { Job } from "../../../document/schema";
import type { Forecast } from "../inference/forecast";
import type { HandAnswers } from "../inference/hand-answers";
import type { Quantiles } from "../inference/quantiles";
import type { TestRun } from "../inference/test-run";
import { DIMENSIONS } from "../inference/particle";
import type { Population } from "../inference/sampler";
import { fixedSpeed } from "../../../document/unit-kinds";

/** Minutes into a log at which a test run's forecast is kept, to be held against what happens. */
export const SNAPSHOT_MINUTES = [15, 30, 60, 120] as const;

/** Kind of a system, for the workshop's record: how its unit runs, what its battery is, whether the sun helps. */
export function kindOfJob(job: Job): string {
  const unit = fixedSpeed(job.units[0]!) ? "fixed speed" : "variable speed";
  const bank = job.bank.chemistry === "agm" ? "lead-acid" : "lithium";
  return `${unit}, ${bank}${job.sources.panels.length > 0 ? ", sun" : ""}`;
}

/** A forecast as it was given. */
export interface ForecastSnapshot {
  minutes: number;
  toReserve: Quantiles;
  toCutoff: Quantiles;
  hand: { now: number | null; average: number | null; halfHour: number | null };
}

export function forecastSnapshot(minutes: number, forecast: Forecast, hand: HandAnswers): ForecastSnapshot {
  return {
    minutes,
    toReserve: forecast.hoursToReserve,
    toCutoff: forecast.hoursToCutoff,
    hand: { now: hand.now, average: hand.average, halfHour: hand.halfHour },
  };
}

export interface Outcome {
  /** Hours from the first reading until the counted charge, or the monitor's own, met the reserve. */
  reserveH: number | null;
  cutoffH: number | null;
  endSoc: number | null;
  /** Hours until what engine, shore or generator gave was over; null or left out where nothing was given before the reserve. */
  chargedToH?: number | null | undefined;
}

/** Charge at the first reading and capacity in A h, as the particles have them in the mean. */
export function chargeOf(testRun: TestRun, population: Population): { start: number; capacity: number } {
  let start = 0;
  let capacity = 0;
  for (let n = 0; n < population.count; n++) {
    const particle = testRun.prior.particle(population.z, n * DIMENSIONS);
    start += particle.startSoc / population.count;
    capacity += particle.bankAh / population.count;
  }
  return { start, capacity };
}

/**
 * What a finished log shows to have happened: when the charge, counted from the posterior's middle start and capacity,
 * went under the reserve. A log that ends before has none.
 */
export function outcomeOf(testRun: TestRun, startSoc: number, bankAh: number): Outcome {
  const { segments, site, readings } = testRun;
  const reserve = site.system.bank.reserveSoc;
  const current = readings.values.battery_current_a;
  let counted = 0;
  let reserveH: number | null = null;
  for (let i = 1; i < current.length; i++) {
    counted -= ((current[i]! + current[i - 1]!) / 2) * ((segments.seconds[i]! - segments.seconds[i - 1]!) / 3600);
    // The first time counts, whatever charge comes back and is used again.
    if (reserveH === null && startSoc - counted / bankAh <= reserve) reserveH = segments.seconds[i]! / 3600;
  }
  const end = reserveH ?? Infinity;
  const given = segments.charged.filter(({ fromS }) => fromS / 3600 < end);
  const chargedToH = given.length > 0 ? given[given.length - 1]!.toS / 3600 : null;
  return { reserveH, cutoffH: null, endSoc: startSoc - counted / bankAh, chargedToH };
}

/** One promise held against what happened. */
export interface Held {
  kind: string;
  minutes: number;
  left: number;
  /** p50 over what was left, less one. */
  error: number;
  inside: boolean;
  /** The same of the hand's average so far; null where it had none. */
  handError: number | null;
}

export function heldAgainst(kind: string, snapshots: readonly ForecastSnapshot[], outcome: Outcome | null): Held[] {
  if (!outcome || outcome.reserveH === null) return [];
  const { reserveH } = outcome;
  const chargedToH = outcome.chargedToH ?? 0;
  return snapshots.flatMap(({ minutes, toReserve, hand }) => {
    const left = reserveH - minutes / 60;
    // A forecast goes on without what is plugged in later: such a run does not say whether it was right.
    if (left < 0.1 || toReserve.p50 === null || minutes / 60 < chargedToH) return [];
    const inside = (toReserve.p10 ?? Infinity) <= left && (toReserve.p90 === null || left <= toReserve.p90);
    return [
      {
        kind,
        minutes,
        left,
        error: toReserve.p50 / left - 1,
        inside,
        handError: hand.average === null ? null : hand.average / left - 1,
      },
    ];
  });
}

export interface KindSummary {
  kind: string;
  forecasts: number;
  medianError: number;
  inside: number;
  medianHandError: number | null;
}

/** Error and coverage by kind of system, the kinds with most forecasts first. */
export function byKind(held: readonly Held[]): KindSummary[] {
  const kinds = [...new Set(held.map(({ kind }) => kind))];
  return kinds
    .map((kind) => {
      const own = held.filter((one) => one.kind === kind);
      const hand = own.flatMap(({ handError }) => (handError === null ? [] : [Math.abs(handError)]));
      return {
        kind,
        forecasts: own.length,
        medianError: median(own, ({ error }) => Math.abs(error)) ?? NaN,
        inside: own.filter(({ inside }) => inside).length / own.length,
        medianHandError: median(hand) ?? null,
      };
    })
    .sort((a, b) => b.forecasts - a.forecasts);
}
