import { localSecond, timeOfDay } from "../../units/clock";
import { timeWords } from "../../document/schedule";
import type { Simulation, WeatherKind } from "../../simulation/day/simulate";
import { formatQuantity } from "../../units/format";
import type { Rig } from "../../document/schema";
import { constant, given, of, record, type Trace } from "../../units/trace";
import { say } from "../../messages/say";
import { check, verdictOf, type Verdict } from "../checks/check";
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
export function trendOf(rig: Rig, system: System, simulated: Simulation, weather?: WeatherKind): Trend {
  const { run, clock, prime } = simulated;
  const { reserveSoc: reserveShare } = system.bank;
  const sunrises = sunrisesOf(simulated);
  const charges = sunrises.map(({ share }) => share);
  const last = run.steps > 0 ? run.stateOfCharge[run.steps - 1]! : 1;
  const least = charges.length > 0 ? Math.min(...charges) : last;
  const period = periodOf(system, weather ?? rig.weather.kind);
  const late = lossInSecondWeek(simulated);
  // What no longer falls by the second week has settled; what still does is followed to where it settles.
  const settled =
    period !== null && run.reserveAt === null && late > SETTLED_A_DAY ? settledOf(rig, system, period, weather) : null;
  const sustained = run.reserveAt === null && settled?.sustained !== false;
  const settling =
    settled?.sustained && period !== null
      ? sunrisesOf(settledRun(rig, system, period, settled.noon, weather)).map(({ share }) => share)
      : [];
  let lowestAtAll = 1;
  for (let k = 0; k < run.steps; k++) lowestAtAll = Math.min(lowestAtAll, run.stateOfCharge[k]!);
  // The fall is counted between sunrises a period apart, until the reserve.
  const until = charges.filter((_, i) => run.reserveAt === null || sunrises[i]!.at <= run.reserveAt + 86_400);
  const apart = until.length - 1 >= (period ?? 1) ? Math.floor((until.length - 1) / (period ?? 1)) * (period ?? 1) : 0;
  const fall = apart > 0 ? (until[until.length - 1 - apart]! - until[until.length - 1]!) / apart : 0;
  const after =
    !sustained && run.reserveAt === null
      ? Math.min(LONGEST_DAYS, STAY_DAYS + Math.max(0, last - reserveShare) / Math.max(late, 1e-4))
      : null;
  return {
    sunrises,
    lowest: sustained ? Math.min(least, ...settling) : Math.min(least, lowestAtAll),
    fall: sustained ? 0 : run.reserveAt === null ? late : Math.max(0, fall),
    sustained,
    reserveAt: run.reserveAt,
    reserveAfterDays: after === null ? null : Math.round(after),
    fullAt: fullAtOf(run, (k) => localSecond(clock, (prime + k) * run.stepS)),
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

/** Energies of a mean day, Wh, as figures. */
function recordEnergies(figures: Trace, run: Simulation["run"]): { into: number } {
  const perDay = (joules: number) => joules / 3600 / ((run.steps * run.stepS) / 86_400);
  const { totals } = run;
  const mean = "mean of the fortnight";
  const into = record(
    figures,
    "day.in",
    "Energy in, a day",
    "energy",
    perDay(totals.solarUsed + totals.engine + totals.shore + totals.generator),
    "E_i = E_s + E_e + E_m + E_g",
    [
      constant("E_s", "Solar used", perDay(totals.solarUsed), "energy", mean),
      constant("E_e", "Engine", perDay(totals.engine), "energy", mean),
      constant("E_m", "Shore power", perDay(totals.shore), "energy", mean),
      constant("E_g", "Generator", perDay(totals.generator), "energy", mean),
    ],
    "coupled run",
  );
  const losses = totals.inverterLoss + totals.pathLoss + totals.bankLoss + totals.chargerLoss;
  record(
    figures,
    "day.out",
    "Energy out, a day",
    "energy",
    perDay(totals.units + totals.loads + losses),
    "E_o = E_u + E_l + E_x",
    [
      constant("E_u", "Air conditioner", perDay(totals.units), "energy", mean),
      constant("E_l", "Other loads", perDay(totals.loads), "energy", mean),
      constant("E_x", "Losses", perDay(losses), "energy", "inverter, cables, chargers, the cells"),
    ],
    "coupled run",
  );
  record(
    figures,
    "day.lost",
    "Curtailed solar, a day",
    "energy",
    perDay(totals.solarLost),
    "E_w = E_a − E_s",
    [
      constant(
        "E_a",
        "Solar that the controllers could pass",
        perDay(totals.solarLost + totals.solarUsed),
        "energy",
        mean,
      ),
      constant("E_s", "Solar used", perDay(totals.solarUsed), "energy", mean),
    ],
    "coupled run",
  );
  return { into: into.value };
}

/** Whether the battery comes back every day, and what is missing a day where it does not. */
export function judgeRecovers(
  system: System,
  figures: Trace,
  { run, clock, prime }: Simulation,
  trend: Trend,
): { verdict: Verdict; words: Said; missing: number | null } {
  const { rig, values } = system;
  const percent = (share: number) => formatQuantity(share, "ratio", rig.notation, 2);
  const wh = (value: number) => formatQuantity(value, "energy", rig.notation, 2);
  const reserve = record(
    figures,
    "day.reserve",
    "Reserve",
    "ratio",
    values.bank.reserve.value,
    "s_r = s",
    [given("s", values.bank.reserve)],
    "battery",
  );
  const cut = run.secondsCut > 0 && trend.sustained;
  const missing = trend.sustained && !cut ? 0 : missingEnergy(rig, system);
  const held = !cut && missing === 0;
  const first = trend.sunrises[0]?.share ?? run.stateOfCharge[run.steps - 1] ?? 0;
  const lowest = record(
    figures,
    "day.dawn",
    "Lowest state of charge at sunrise",
    "ratio",
    held ? Math.max(trend.lowest, reserve.value) : trend.lowest,
    "s_d = s_1 − f",
    [
      constant("s_1", "State of charge at the first sunrise", first, "ratio", "coupled run"),
      constant(
        "f",
        "Falls until the lowest by",
        first - (held ? Math.max(trend.lowest, reserve.value) : trend.lowest),
        "ratio",
        "followed until the days settle",
      ),
    ],
    "coupled run of cabin, unit, sun and battery at steps of a minute",
  );
  const { into } = recordEnergies(figures, run);
  const checks = [];
  if (missing !== null && missing > 0) {
    const more = record(
      figures,
      "day.missing",
      "Energy missing a day",
      "energy",
      missing,
      "E_m = E",
      [
        constant(
          "E",
          "Found by solving for it",
          missing,
          "energy",
          "the least that keeps the charge above the reserve",
        ),
      ],
      "coupled run with more and more energy a day, spread as the sun is",
    );
    const has = figures["day.in"]!;
    const need = record(
      figures,
      "day.needIn",
      "Energy needed a day",
      "energy",
      into + missing,
      "E_n = E_i + E_m",
      [of("E_i", has), of("E_m", more)],
      "coupled run",
    );
    checks.push(check("recovers", "energy", "Energy a day", need, has, "into the battery, design day"));
  } else
    checks.push(
      check("recovers", "dawn", "Lowest state of charge at sunrise", reserve, lowest, "as long as the stay lasts"),
    );
  // Where energy alone keeps the supply on, the energy is the answer; else the hours without supply are.
  if (!missing && run.secondsCut > 0 && (cut || missing === null)) {
    const hours = record(
      figures,
      "day.plannedHours",
      "Hours of the run",
      "duration",
      run.steps * run.stepS,
      "t = n × d",
      [
        constant("n", "Steps", run.steps, "count", "of the run"),
        constant("d", "A step", run.stepS, "duration", "of the run"),
      ],
    );
    const left = record(
      figures,
      "day.suppliedHours",
      "Hours with supply",
      "duration",
      hours.value - run.secondsCut,
      "t_s = t − t_c",
      [of("t", hours), constant("t_c", "Cut off for", run.secondsCut, "duration", END_WORDS[run.stop!.cause])],
      "coupled run",
    );
    checks.push(
      check("recovers", "supply", END_WORDS[run.stop!.cause], hours, left, `${STAY_DAYS} days`, { rule: true }),
    );
  }
  const verdict = verdictOf("Recovers", checks);
  return { verdict, words: words(), missing };

  function words(): Said {
    const full = trend.fullAt === null ? "" : timeWords(Math.round(trend.fullAt / 600) * 10);
    const spoken = {
      reserve: percent(reserve.value),
      rate: percent(trend.fall),
      lowest: percent(trend.lowest),
      time: full,
      energy: wh(missing ?? 0),
      cause: run.stop?.cause ?? "other",
      days: trend.reserveAfterDays ?? 0,
      night: trend.reserveAt === null ? 0 : Math.floor(trend.reserveAt / 86_400) + 1,
    };
    const more = missing === null ? say("recovers.missing.none") : missing > 0 ? say("recovers.missing", spoken) : "";
    if (!held && trend.reserveAt !== null) {
      const long =
        spoken.night === 1
          ? say("recovers.firstNight", { ...spoken, time: timeOfDay(clock, prime * run.stepS + trend.reserveAt) })
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
}
