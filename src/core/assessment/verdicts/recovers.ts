import { localSecond, timeOfDay } from "../../units/clock";
import { timeWords } from "../../document/schedule";
import type { Simulation, WeatherKind } from "../../simulation/day/simulate";
import { formatQuantity } from "../../units/format";
import type { Job } from "../../document/schema";
import { constant, given, of, stated, traced, type TracedValue } from "../../units/trace";
import { say } from "../../messages/say";
import { judge, verdictOf, type Check, type Verdict } from "../judge/judge";
import { USUAL_SPARE } from "../judge/word";
import { END_WORDS, type Said } from "./lasts";
import {
  lossInSecondWeek,
  missingEnergy,
  periodOf,
  SETTLED_A_DAY,
  settledOf,
  settledRun,
  STAY_DAYS,
} from "../use/settled";
import { sunrisesOf, type Sunrise } from "../use/sunrises";
import type { System } from "../../models/system/system";

/** By what the days are judged. */
const RECOVERS = { id: "recovers", broken: "Fails", fix: "" } as const;

/** State of charge that counts as full. */
const FULL = 0.99;
/** Days after which a battery that still sinks is not told apart from one that stands. */
const LONGEST_DAYS = 400;

/** How the days go in one kind of weather. */
export interface Trend {
  sunrises: Sunrise[];
  /** Lowest state of charge at sunrise for as long as the days go on; over the fortnight where the weather does not repeat. */
  lowest: number;
  /** State of charge lost a day until the reserve; 0 where the days settle above it. */
  fall: number;
  sustained: boolean;
  /** Seconds from the run's start to the reserve within the fortnight, or null. */
  reserveAt: number | null;
  /** Days after which a battery that sinks slower than that reaches its reserve, or null. */
  reserveAfterDays: number | null;
  /** Local seconds of the day at which the battery is usually full, or null where it is not on most days. */
  fullAt: number | null;
}

/** The trend of a fortnight's run, followed to where the days settle. */
export function trendOf(job: Job, system: System, simulated: Simulation, weather?: WeatherKind): Trend {
  const { run, clock, warmUpSteps } = simulated;
  const { reserveSoc } = system.bank;
  const sunrises = sunrisesOf(simulated);
  const charges = sunrises.map(({ share }) => share);
  const last = run.steps > 0 ? run.stateOfCharge[run.steps - 1]! : 1;
  const least = charges.length > 0 ? Math.min(...charges) : last;
  const period = periodOf(system, weather ?? job.weather.kind);
  const late = lossInSecondWeek(simulated);
  // What no longer falls by the second week has settled; what still does is followed to where it settles.
  const settled =
    period !== null && run.reserveAt === null && late > SETTLED_A_DAY
      ? settledOf(system, { days: period, weather })
      : null;
  const sustained = run.reserveAt === null && settled?.sustained !== false;
  const settling =
    settled?.sustained && period !== null
      ? sunrisesOf(settledRun(system, { days: period, weather }, settled.noon)).map(({ share }) => share)
      : [];
  let lowestAtAll = 1;
  for (let k = 0; k < run.steps; k++) lowestAtAll = Math.min(lowestAtAll, run.stateOfCharge[k]!);
  // The fall is counted between sunrises a period apart, until the reserve.
  const until = charges.filter((_, i) => run.reserveAt === null || sunrises[i]!.at <= run.reserveAt + 86_400);
  const apart = until.length - 1 >= (period ?? 1) ? Math.floor((until.length - 1) / (period ?? 1)) * (period ?? 1) : 0;
  const fall = apart > 0 ? (until[until.length - 1 - apart]! - until[until.length - 1]!) / apart : 0;
  const after =
    !sustained && run.reserveAt === null
      ? Math.min(LONGEST_DAYS, STAY_DAYS + Math.max(0, last - reserveSoc) / Math.max(late, 1e-4))
      : null;
  return {
    sunrises,
    lowest: sustained ? Math.min(least, ...settling) : Math.min(least, lowestAtAll),
    fall: sustained ? 0 : run.reserveAt === null ? late : Math.max(0, fall),
    sustained,
    reserveAt: run.reserveAt,
    reserveAfterDays: after === null ? null : Math.round(after),
    fullAt: fullAtOf(run, (k) => localSecond(clock, (warmUpSteps + k) * run.stepS)),
  };
}

function fullAtOf(run: Simulation["run"], localAt: (k: number) => number): number | null {
  const times: number[] = [];
  let lastDay = NaN;
  for (let k = 1; k < run.steps; k++) {
    if (run.stateOfCharge[k]! < FULL || run.stateOfCharge[k - 1]! >= FULL) continue;
    const local = localAt(k);
    const day = Math.floor(local / 86_400);
    if (day !== lastDay) times.push(local - day * 86_400);
    lastDay = day;
  }
  times.sort((a, b) => a - b);
  const enough = times.length >= (run.steps * run.stepS) / 86_400 / 2;
  return enough ? times[Math.floor(times.length / 2)]! : null;
}

/** Energies of a mean day of the run, Wh. */
function energiesOf(run: Simulation["run"]): Record<"into" | "out" | "lost", TracedValue> {
  const perDay = (joules: number) => joules / 3600 / ((run.steps * run.stepS) / 86_400);
  const { totals } = run;
  const mean = "mean of the fortnight";
  const energy = (symbol: string, name: string, joules: number, why = mean) =>
    constant(symbol, name, perDay(joules), "energy", why);
  const losses = totals.inverterLoss + totals.pathLoss + totals.bankLoss + totals.chargerLoss;
  return {
    into: traced({
      key: "day.in",
      name: "Energy in, a day",
      dimension: "energy",
      value: perDay(totals.solarUsed + totals.engine + totals.shore + totals.generator),
      relation: "E_i = E_s + E_e + E_m + E_g",
      terms: () => [
        energy("E_s", "Solar used", totals.solarUsed),
        energy("E_e", "Engine", totals.engine),
        energy("E_m", "Shore power", totals.shore),
        energy("E_g", "Generator", totals.generator),
      ],
      source: "coupled run",
    }),
    out: traced({
      key: "day.out",
      name: "Energy out, a day",
      dimension: "energy",
      value: perDay(totals.units + totals.loads + losses),
      relation: "E_o = E_u + E_l + E_x",
      terms: () => [
        energy("E_u", "Air conditioner", totals.units),
        energy("E_l", "Other loads", totals.loads),
        energy("E_x", "Losses", losses, "inverter, cables, chargers, the cells"),
      ],
      source: "coupled run",
    }),
    lost: traced({
      key: "day.lost",
      name: "Curtailed solar, a day",
      dimension: "energy",
      value: perDay(totals.solarLost),
      relation: "E_w = E_a − E_s",
      terms: () => [
        energy("E_a", "Solar that the controllers could pass", totals.solarLost + totals.solarUsed),
        energy("E_s", "Solar used", totals.solarUsed),
      ],
      source: "coupled run",
    }),
  };
}

/** The verdict with its sentences. */
export interface Recovery {
  verdict: Verdict;
  words: Said;
  /** Wh a day into the battery that is missing: 0 where none is, null where no energy does it. */
  missing: number | null;
  energies: Record<"into" | "out" | "lost", TracedValue>;
}

/** Whether the battery comes back every day, and what is missing a day where it does not. */
export function judgeRecovers(system: System, simulated: Simulation, trend: Trend): Recovery {
  const { job } = system;
  const { run } = simulated;
  const cut = run.secondsCut > 0 && trend.sustained;
  const missing = trend.sustained && !cut ? 0 : missingEnergy(job, system);
  const held = !cut && missing === 0;
  const energies = energiesOf(run);
  const checks = [
    missing !== null && missing > 0 ? energyCheck(energies.into, missing) : sunriseCheck(system, run, trend, held),
  ];
  // Where energy alone keeps the supply on, the energy is the answer; else the hours without supply are.
  if (!missing && run.secondsCut > 0 && (cut || missing === null)) checks.push(supplyCheck(run));
  return {
    verdict: verdictOf("Recovers", checks),
    words: wordsOf(system, simulated, trend, { held, cut, missing }),
    missing,
    energies,
  };
}

function energyCheck(into: TracedValue, missing: number): Check {
  const more = traced({
    key: "day.missing",
    name: "Energy missing a day",
    dimension: "energy",
    value: missing,
    relation: "E_m = E",
    terms: () => [
      constant("E", "Found by solving for it", missing, "energy", "the least that keeps the charge above the reserve"),
    ],
    source: "coupled run with more and more energy a day, spread as the sun is",
  });
  const demand = traced({
    key: "day.needIn",
    name: "Energy needed a day",
    dimension: "energy",
    value: into.value + missing,
    relation: "E_n = E_i + E_m",
    terms: () => [of("E_i", into), of("E_m", more)],
    source: "coupled run",
  });
  return judge(RECOVERS, {
    aspect: "day",
    name: "Energy a day",
    demand,
    limit: into,
    remark: "into the battery, design day",
    holdsFrom: USUAL_SPARE,
  });
}

function sunriseCheck({ values }: System, run: Simulation["run"], trend: Trend, held: boolean): Check {
  const reserve = stated(
    { key: "day.reserve", name: "Reserve", source: "battery" },
    "s_r",
    given("s", values.bank.reserve),
  );
  const first = trend.sunrises[0]?.share ?? run.stateOfCharge[run.steps - 1] ?? 0;
  const least = held ? Math.max(trend.lowest, reserve.value) : trend.lowest;
  const lowest = traced({
    key: "day.dawn",
    name: "Lowest state of charge at sunrise",
    dimension: "ratio",
    value: least,
    relation: "s_d = s_1 − f",
    terms: () => [
      constant("s_1", "State of charge at the first sunrise", first, "ratio", "coupled run"),
      constant("f", "Falls until the lowest by", first - least, "ratio", "followed until the days settle"),
    ],
    source: "coupled run of cabin, unit, sun and battery at steps of a minute",
  });
  return judge(RECOVERS, {
    aspect: "lasting",
    name: "Lowest state of charge at sunrise",
    demand: reserve,
    limit: lowest,
    remark: "as long as the stay lasts",
    holdsFrom: USUAL_SPARE,
  });
}

function supplyCheck(run: Simulation["run"]): Check {
  const cause = END_WORDS[run.stop!.cause];
  const hours = traced({
    key: "day.plannedHours",
    name: "Hours of the run",
    dimension: "duration",
    value: run.steps * run.stepS,
    relation: "t = n × d",
    terms: () => [
      constant("n", "Steps", run.steps, "count", "of the run"),
      constant("d", "A step", run.stepS, "duration", "of the run"),
    ],
  });
  const left = traced({
    key: "day.suppliedHours",
    name: "Hours with supply",
    dimension: "duration",
    value: hours.value - run.secondsCut,
    relation: "t_s = t − t_c",
    terms: () => [of("t", hours), constant("t_c", "Cut off for", run.secondsCut, "duration", cause)],
    source: "coupled run",
  });
  return judge(RECOVERS, {
    aspect: "supply",
    name: cause,
    demand: hours,
    limit: left,
    remark: `${STAY_DAYS} days`,
  });
}

function wordsOf(
  { job, values }: System,
  { run, clock, warmUpSteps }: Simulation,
  trend: Trend,
  { held, cut, missing }: { held: boolean; cut: boolean; missing: number | null },
): Said {
  const percent = (share: number) => formatQuantity(share, "ratio", job.notation, 2);
  const full = trend.fullAt === null ? "" : timeWords(Math.round(trend.fullAt / 600) * 10);
  const spoken = {
    reserve: percent(values.bank.reserve.value),
    rate: percent(trend.fall),
    lowest: percent(trend.lowest),
    time: full,
    energy: formatQuantity(missing ?? 0, "energy", job.notation, 2),
    cause: run.stop?.cause ?? "other",
    days: trend.reserveAfterDays ?? 0,
    night: trend.reserveAt === null ? 0 : Math.floor(trend.reserveAt / 86_400) + 1,
  };
  const more = missing === null ? say("recovers.missing.none") : missing > 0 ? say("recovers.missing", spoken) : "";
  if (!held && trend.reserveAt !== null) {
    const long =
      spoken.night === 1
        ? say("recovers.firstNight", { ...spoken, time: timeOfDay(clock, warmUpSteps * run.stepS + trend.reserveAt) })
        : say(trend.fall > 0.0005 ? "recovers.night" : "recovers.night.flat", spoken);
    return {
      long: `${long} ${more}`.trim(),
      short: say(missing === null ? "recovers.short.night" : "recovers.short.missing", spoken),
    };
  }
  if (!held && !trend.sustained)
    return { long: `${say("recovers.later", spoken)} ${more}`.trim(), short: say("recovers.short.later", spoken) };
  if (cut) return { long: `${say("recovers.cut", spoken)} ${more}`.trim(), short: say("recovers.short.cut", spoken) };
  return full
    ? { long: say("recovers.full", spoken), short: say("recovers.short.full", spoken) }
    : { long: say("recovers.settles", spoken), short: say("recovers.short.settles", spoken) };
}
