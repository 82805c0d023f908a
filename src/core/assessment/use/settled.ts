import { patternIndexOn, patternsOf } from "../../document/schedule";
import { simulate, type Question, type Simulation, type WeatherKind } from "../../simulation/day/simulate";
import type { Job } from "../../document/schema";
import { sunrisesOf } from "./sunrises";
import type { System } from "../../models/system/system";

/*
 * What a system comes to when the same days follow one another: the state of charge it settles at, and the energy a day
 * that is missing where it settles below its reserve.
 *
 * One period (a day, or the plan's week) takes a state of charge at noon to the next: e(s). A fuller battery takes no more
 * charge and gives no less, so e(s) − s never rises with s. The system keeps above its reserve for as long as the days last
 * where a period that touches the reserve ends no lower than it began; and the state of charge that a period ends at as it
 * began is what the days settle at. Neither depends on how many days are run.
 */

/** Days that are run from noon: a fortnight. */
export const STAY_DAYS = 14;
/** State of charge a day that may still be lost in the second week by a battery that has settled. */
export const SETTLED_A_DAY = 0.0002;
/** State of charge a period that may be missing near the reserve by one that stands still above it. */
const NEARLY_KEPT = 0.02;

const DAYS_KINDS: WeatherKind[] = ["mild", "usual", "hot", "own"];
/** Steps of the many short runs that a search makes, s; twice those of the run itself. */
const SEARCH_STEP_S = 120;
/** The same of a search over weeks. */
const WEEK_STEP_S = 300;
/** State of charge that a search for a level ends within. */
const CLOSE = 0.0002;
/** Part of the answer that a search for energy ends within. */
const ENERGY_CLOSE = 0.005;
/** Most energy a day that is searched for, in full batteries. */
const MOST_BANKS = 40;
/** State of charge over that of a cut-off that counts as clear of it. */
const CLEAR = 0.005;

/** Days after which the job's days repeat: 1, 7 for a weekly plan, or null where the weather does not repeat. */
export function periodOf({ job, values }: System, weather: WeatherKind): number | null {
  if (!DAYS_KINDS.includes(weather)) return null;
  const patterns = patternsOf(job, values.brief.hoursWanted.value);
  const used = new Set([0, 1, 2, 3, 4, 5, 6].map((day) => patternIndexOn(job, patterns, day)));
  return used.size > 1 ? 7 : 1;
}

/** The question of Recovers: the job's days from noon, whatever the inverter is too small for. */
export function questionOfDays(job: Job, days: number, weather?: WeatherKind): Question {
  return {
    days,
    minuteOfDay: 720,
    weather,
    noOverload: true,
    neverResting: job.brief.stance === "never-resting",
  };
}

interface Period {
  end: number;
  least: number;
  /** State of charge at the first cut of supply, or null. */
  cutAt: number | null;
  /** Whether a limit of current, which no charge mends, cut it. */
  hopeless: boolean;
}

/** The days that repeat: how many, their weather if it is not the job's own, and J a day added to them. */
interface Days {
  days: number;
  weather?: WeatherKind;
  extra?: number;
}

function periodFrom(system: System, { days, weather, extra = 0 }: Days, start: number): Period {
  const { run } = simulate(
    system.job,
    {
      ...questionOfDays(system.job, days, weather),
      startSoc: start,
      extraPerDay: extra,
      stepS: days > 1 ? WEEK_STEP_S : SEARCH_STEP_S,
    },
    system,
  );
  let least = start;
  for (let k = 0; k < run.steps; k++) least = Math.min(least, run.stateOfCharge[k]!);
  const stopStep = run.stop ? Math.min(run.steps - 1, Math.floor(run.stop.at / run.stepS)) : -1;
  return {
    end: run.stateOfCharge[run.steps - 1]!,
    least,
    cutAt: run.stop && run.stop.cause !== "empty" ? run.stateOfCharge[stopStep]! : null,
    hopeless: run.stop?.cause === "protection" || run.stop?.cause === "overload",
  };
}

/** The period whose lowest state of charge is `floor`: where it begins, and how much it gains. Null where none reaches it. */
function periodAt(
  run: (start: number) => Period,
  floor: number,
): { start: number; gain: number; period: Period } | null {
  let [low, high] = [floor, 1];
  let at = run(high);
  if (at.least < floor - CLOSE) return null;
  let start = high;
  for (let i = 0; i < 14 && high - low > CLOSE; i++) {
    // The lowest moves with the start, one for one where nothing saturates.
    const guess = start - (at.least - floor);
    start = guess > low && guess < high ? guess : (low + high) / 2;
    at = run(start);
    if (Math.abs(at.least - floor) < CLOSE) break;
    if (at.least > floor) high = start;
    else low = start;
  }
  return { start, gain: at.end - start, period: at };
}

/** What the days settle at. */
export interface Settled {
  /** Whether the charge stays at or above the reserve for as long as the days go on. */
  sustained: boolean;
  /** State of charge at noon that the days settle at, where they are sustained. */
  noon: number;
}

/** Whether the job's days keep the battery above its reserve for good. `days` is the period; J a day may be added. */
export function settledOf(system: System, days: Days): Settled & { gain: number; hopeless: boolean } {
  const run = (start: number) => periodFrom(system, days, start);
  const found = periodAtFloor(run, system.bank.reserveSoc);
  if (!found) return { sustained: false, noon: 1, gain: -1, hopeless: true };
  const { start, gain, period } = found;
  if (period.hopeless) return { sustained: false, noon: start, gain: -1, hopeless: true };
  if (gain < -CLOSE) return { sustained: false, noon: start, gain, hopeless: false };
  // e(s) = s between there and full, by bisection.
  let [low, high] = [start, 1];
  if (run(1).end >= 1 - CLOSE) low = high;
  for (let i = 0; i < 12 && high - low > 0.001; i++) {
    const middle = (low + high) / 2;
    if (run(middle).end >= middle) low = middle;
    else high = middle;
  }
  return { sustained: true, noon: (low + high) / 2, gain, hopeless: false };
}

/**
 * Energy a day, Wh into the battery, that is missing for the charge to stay above the reserve: 0 where none is, null where no
 * energy does it (a night that empties a full battery, a limit of current).
 */
export function missingEnergy(job: Job, system: System, weather?: WeatherKind): number | null {
  const kind = weather ?? job.weather.kind;
  const period = periodOf(system, kind);
  const stands = (wh: number): boolean => {
    const simulated = simulate(job, { ...questionOfDays(job, STAY_DAYS, weather), extraPerDay: wh * 3600 }, system);
    return simulated.run.reserveAt === null && !simulated.run.stop && lossInSecondWeek(simulated) <= SETTLED_A_DAY;
  };
  const firstDays = (wh: number): number => {
    const { run } = simulate(job, { ...questionOfDays(job, STAY_DAYS, weather), extraPerDay: wh * 3600 }, system);
    if (run.stop && (run.stop.cause === "protection" || run.stop.cause === "overload")) return -1;
    let least = system.bank.startSoc;
    for (let k = 0; k < run.steps; k++) least = Math.min(least, run.stateOfCharge[k]!);
    return (run.stop ? Math.min(least, system.bank.reserveSoc - CLEAR) : least) - system.bank.reserveSoc;
  };
  /** Negative while some is missing. */
  const gain = (wh: number): number => {
    if (period !== null) {
      const run = (start: number) => periodFrom(system, { days: period, weather, extra: wh * 3600 }, start);
      const found = periodAtFloor(run, system.bank.reserveSoc);
      const kept = !found || found.period.hopeless ? -1 : found.gain;
      // The first days begin where the battery stands, which may be lower than where the days settle.
      if (kept >= -CLOSE) return Math.min(kept, firstDays(wh));
      // A charge that stands still far above the reserve is kept as well: there a battery has more volts to give.
      return kept > -NEARLY_KEPT && stands(wh) ? 0 : kept;
    }
    return firstDays(wh);
  };
  const now = gain(0);
  if (now >= -CLOSE) return 0;
  const bankWh = system.bank.nominalVoltage * system.bank.capacityAh;
  let [low, lowGain] = [0, now];
  let high = Math.max(50, bankWh * Math.min(1, -now * 1.3));
  let highGain = gain(high);
  while (highGain < 0 && high < MOST_BANKS * bankWh) {
    [low, lowGain] = [high, highGain];
    high *= 2;
    highGain = gain(high);
  }
  if (highGain < 0) return null;
  // Regula falsi, with the end that stays halved (Illinois): the gain is continuous and rises with the energy.
  for (let i = 0; i < 30 && high - low > ENERGY_CLOSE * high; i++) {
    const guess = (low * highGain - high * lowGain) / (highGain - lowGain);
    const wh = guess > low && guess < high ? guess : (low + high) / 2;
    const at = gain(wh);
    if (at < 0) {
      [low, lowGain] = [wh, at];
      highGain /= 2;
    } else {
      [high, highGain] = [wh, at];
      lowGain /= 2;
    }
  }
  return high;
}

/** State of charge lost a day between sunrises of a run's last week. */
export function lossInSecondWeek(simulated: Simulation): number {
  const charges = sunrisesOf(simulated).map(({ share }) => share);
  const week = Math.min(7, charges.length - 1);
  return week > 0 ? (charges[charges.length - 1 - week]! - charges[charges.length - 1]!) / week : 0;
}

/** The period that touches the reserve, or the state of charge that clears a cut-off where that is higher. */
function periodAtFloor(run: (start: number) => Period, reserve: number): ReturnType<typeof periodAt> {
  let floor = reserve;
  let found = periodAt(run, floor);
  for (let i = 0; i < 3 && found && found.period.cutAt !== null && !found.period.hopeless; i++) {
    floor = Math.min(0.99, Math.max(floor, found.period.cutAt) + CLEAR * (i + 1));
    found = periodAt(run, floor);
  }
  return found;
}

/** The days that a system settles at, as a run from noon, for their sunrises. */
export const settledRun = (system: System, { days, weather }: Days, noon: number): Simulation =>
  simulate(system.job, { ...questionOfDays(system.job, Math.max(2, days + 1), weather), startSoc: noon }, system);
