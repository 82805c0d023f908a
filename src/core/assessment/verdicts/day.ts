import { openCircuitSteps } from "../../simulation/run-down/run-down";
import { simulate, type Simulation, type WeatherKind } from "../../simulation/day/simulate";
import type { SimulationResult } from "../../simulation/day/result";
import type { Job } from "../../document/schema";
import { conditionsKnown } from "../../document/weather-defaults";
import { constant, given, of, traced, type Trace, type TracedValue, withFigures } from "../../units/trace";
import { say } from "../../messages/say";
import { averageDay, type AverageDay } from "../use/average-day";
import { buildSystem } from "../../models/system/build";
import { bankColumnOf, type BankColumn } from "../use/state-of-charge-column";
import { conditionsOf, type Conditions } from "./conditions";
import { handHoursHolding, type ModeHours } from "./hand-method";
import { holdingOf, type Holding } from "../use/holding";
import { judgeLasts, type Said } from "./lasts";
import { judgeRecovers, trendOf, type Trend } from "./recovers";
import { questionOfDays, STAY_DAYS } from "../use/settled";
import { type Verdict, figuresOfChecks } from "../judge/judge";
import type { VerdictWord } from "../judge/word";
import type { System } from "../../models/system/system";
import { firstUse, type Use } from "../../simulation/day/first-use";
import { runOfUse, type UseRun } from "../use/use";
import { measuredHeatLoss } from "../../simulation/day/measured-load";

/** Days that the strip and the Day stage show, from noon of the plan's first. */
export const FORTNIGHT = STAY_DAYS;

/** Lasts on a mild and on a hot day of the month: seconds, and whether the reserve was reached at all. */
export interface UseRange {
  mild: { seconds: number; reached: boolean };
  hot: { seconds: number; reached: boolean };
}

/** Lowest state of charge at sunrise on mild and on hot days; null where it goes below the reserve. */
export interface ChargeRange {
  mild: number | null;
  hot: number | null;
}

export interface DayAssessment {
  conditions: Conditions;
  /** "Choose a place" until the weather is known; their figures are then of no place and are not shown. */
  verdicts: { lasts: Verdict<VerdictWord>; recovers: Verdict<VerdictWord> };
  figures: Trace;
  /** The two verdicts in sentences. */
  words: { lasts: Said; recovers: Said };
  /** Null where they were not asked for, and where there is no place. */
  range: { lasts: UseRange; recovers: ChargeRange } | null;
  use: Use | null;
  /** The use from switching on, without its run's arrays. */
  useRun: Omit<UseRun, "run"> | null;
  /** What holding the set point draws, from the use. */
  holding: Holding | null;
  /** Hours of the hand method at that draw. */
  handHolding: ModeHours | null;
  column: BankColumn;
  trend: Trend;
  /** Wh a day into the battery that is missing: 0 where none is, null where no energy does it. */
  missing: number | null;
  average: AverageDay;
  /** The fortnight from noon, for the strip and the Day stage. */
  simulated: Simulation;
  /** Panels by the old rule: a watt for each amp-hour at 12 V. */
  oldRule: { panels: number; wanted: number };
  /** The generator over the fortnight: hours and litres of fuel a day. */
  generator: { hoursADay: number; litresADay: number };
}

/** The verdicts that ask for the coupled run. `range` also runs the mild and the hot day. */
export function assessDay(
  job: Job,
  { range = true }: { range?: boolean } = {},
  system = buildSystem(job),
): DayAssessment {
  const { bank, values } = system;
  const conditions = conditionsOf(job, values);
  const use = firstUse(system);
  const own = use && runOfUse(job, system, use);
  const fortnight = (weather?: WeatherKind) => simulate(job, questionOfDays(job, FORTNIGHT, weather), system);
  const simulated = fortnight();
  const trend = trendOf(job, system, simulated);
  const lasts = judgeLasts(system, use, own);
  const recovers = judgeRecovers(system, simulated, trend);
  const holding = use && own ? holdingOf(system, use, own) : null;
  const column = bankColumnOf(system, openCircuitSteps(bank), own);
  const handHolding = holding && handHoursHolding(system, holding.unitPower);
  const lastsOn = (weather: WeatherKind) => {
    if (!use) return { seconds: 0, reached: false };
    const { lasts: seconds, reached } = runOfUse(job, system, use, weather);
    return { seconds, reached };
  };
  const lowestOn = (weather: WeatherKind) => {
    const { sustained, lowest } = trendOf(job, system, fortnight(weather), weather);
    return sustained ? lowest : null;
  };
  const { known, sun, place } = conditions;
  const open = (why: "place.choose.why" | "place.choose.sun" | "place.choose.both") => ({
    long: say(why),
    short: say("place.choose"),
  });
  const judged = <V extends Verdict>(verdict: V, may: boolean): Verdict<VerdictWord> =>
    may ? verdict : { ...verdict, word: "Choose a place" };
  const figures = () => [
    ...[lasts, recovers].flatMap(({ verdict }) => figuresOfChecks(verdict.checks)),
    lasts.cutOff,
    ...Object.values(recovers.energies),
    ...ageingOf(system, simulated.run),
    ...(holding?.figures ?? []),
    ...(handHolding ? [handHolding.reserveFigure, handHolding.cutOffFigure] : []),
    ...column.segments.map(({ figure }) => figure),
    measuredHeatLoss(system),
  ];
  const result = {
    conditions,
    verdicts: { lasts: judged(lasts.verdict, known), recovers: judged(recovers.verdict, sun) },
    words: {
      lasts: known ? lasts.words : open("place.choose.why"),
      recovers: sun ? recovers.words : open(known ? "place.choose.sun" : "place.choose.both"),
    },
    range:
      range && place
        ? {
            lasts: { mild: lastsOn("mild"), hot: lastsOn("hot") },
            recovers: { mild: lowestOn("mild"), hot: lowestOn("hot") },
          }
        : null,
    use,
    useRun: own && withoutRun(own),
    holding,
    handHolding,
    column,
    trend,
    missing: recovers.missing,
    average: averageDay(simulated),
    simulated,
    oldRule: {
      panels: values.sources.panels.reduce((sum, panel) => sum + panel.power.value * panel.count.value, 0),
      wanted: bank.capacityAh * (bank.nominalVoltage / 12.8),
    },
    generator: {
      hoursADay: simulated.run.totals.secondsGenerator / 3600 / FORTNIGHT,
      litresADay: simulated.run.totals.fuelLitres / FORTNIGHT,
    },
  };
  return withFigures(result, figures);
}

/** Lasts alone, by the run of the design day. */
export function lastsOf(job: Job, system = buildSystem(job)): Verdict<VerdictWord> {
  const use = firstUse(system);
  const { verdict } = judgeLasts(system, use, use && runOfUse(job, system, use));
  return conditionsKnown(job) ? verdict : { ...verdict, word: "Choose a place" };
}

/** The use without the arrays of its run: small enough to go between workers. */
function withoutRun(use: UseRun): Omit<UseRun, "run"> {
  const { lasts, reached, cause, cutOff, compressor, clock, startSecond, left, endCharge } = use;
  return { lasts, reached, cause, cutOff, compressor, clock, startSecond, left, endCharge };
}

/** Cycles and money for a night of cooling: the charge that goes through the battery, over what it lives for. */
function ageingOf(system: System, run: SimulationResult): TracedValue[] {
  const { values, bank } = system;
  const nights = (run.steps * run.stepS) / 86_400;
  const out = run.totals.ampHoursOut / nights;
  const cycles = traced({
    key: "day.cycles",
    name: "Full cycles a day",
    dimension: "number",
    value: out / bank.capacityAh,
    relation: "n = Q ÷ C",
    terms: () => [
      constant("Q", "Charge out of the battery a day", out, "charge", "mean of the fortnight"),
      constant("C", "Usable nameplate capacity now", bank.capacityAh, "charge", "bank"),
    ],
    source: "equivalent full cycles",
  });
  const cost = traced({
    key: "day.cost",
    name: "Battery wear, a day",
    dimension: "money",
    value: (cycles.value / values.plan.cycleLife.value) * values.plan.bankCost.value,
    relation: "M = n ÷ N × B",
    terms: () => [of("n", cycles), given("N", values.plan.cycleLife), given("B", values.plan.bankCost)],
    source: "price over the cycles it lives",
  });
  return [cycles, cost];
}
