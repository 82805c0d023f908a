import type { Clock } from "../day/clock";
import { localSecond, timeOfDay } from "../day/clock";
import { mainUse, patternIndexOn, patternsOf } from "../day/plan";
import { startDateOfRig } from "../rig/place";
import { simulate, type Question, type Simulated, type WeatherKind } from "../day/simulate";
import type { Run, RunTotals } from "../day/run";
import { formatQuantity } from "../quantity/format";
import type { Rig } from "../rig/document";
import { constant, given, of, record, type Figures } from "../sum/figure";
import { buildSystem } from "./build";
import { check, verdictOf, type Verdict } from "./check";
import type { System } from "./system";

/** Days that "recovers" looks at, from noon of the plan's first. */
export const FORTNIGHT = 14;
/** Hours that "lasts" follows a use for; past that it is as good as for ever. */
const LASTS_DAYS = 3;
/** Share a day that a level may drift by and still be called settled. */
const SETTLED = 0.003;
const FULL = 0.99;

/** The main use of the plan: minutes of its local day, and the plan's day it first falls on. */
export interface Use {
  day: number;
  from: number;
  minutes: number;
}

/** The first of the plan's days with a use, or null where nothing cools all week. */
export function firstUse(system: System): Use | null {
  const { rig, values } = system;
  const patterns = patternsOf(rig, values.brief.hoursWanted.value);
  const start = Date.parse(`${startDateOfRig(rig, values.place.latitude.value)}T00:00:00Z`) / 86_400_000;
  for (let day = 0; day < 7; day++) {
    const weekday = (((start + day + 3) % 7) + 7) % 7;
    const use = mainUse(patterns[patternIndexOn(rig, patterns, weekday)]!);
    if (use) return { day, ...use };
  }
  return null;
}

/** How a use went in one kind of weather. */
export interface UseRun {
  /** Seconds from its start to the reserve, or to where supply ended before it; the run's length where neither came. */
  lasts: number;
  reached: boolean;
  cause: "reserve" | NonNullable<Run["stop"]>["cause"];
  clock: Clock;
  startSecond: number;
  totals: RunTotals;
  endShare: number;
}

/** The question that "lasts" asks of the coupled run, under the job's stance. */
export function questionOfUse(rig: Rig, use: Use, weather?: WeatherKind): Question {
  const storage = rig.brief.stance === "storage";
  return {
    days: storage ? FORTNIGHT : LASTS_DAYS,
    minuteOfDay: use.from,
    day: use.day,
    weather,
    noOverload: true,
    untilReserve: true,
    neverResting: rig.brief.stance === "never-resting",
    ...(storage ? { bankAlone: true } : { extendFrom: { minuteOfRun: use.minutes } }),
  };
}

/** Runs a use until the reserve. */
export function runOfUse(rig: Rig, system: System, use: Use, weather?: WeatherKind): UseRun {
  const { run, clock, prime } = simulate(rig, questionOfUse(rig, use, weather), system);
  const ends = [run.reserveAt, run.stop?.at ?? null].filter((at) => at !== null);
  const reached = ends.length > 0;
  const lasts = reached ? Math.min(...ends) : run.steps * run.stepS;
  return {
    lasts,
    reached,
    cause: run.stop && (run.reserveAt === null || run.stop.at < run.reserveAt) ? run.stop.cause : "reserve",
    clock,
    startSecond: prime * run.stepS,
    totals: run.totals,
    endShare: run.steps > 0 ? run.share[run.steps - 1]! : system.bank.startShare,
  };
}

export interface Dawn {
  /** Seconds from the run's start. */
  at: number;
  share: number;
}

/** Level of the bank at each sunrise of a run; at six where the sun does not rise or set. */
export function dawnsOf({ run, clock, prime, weather }: Simulated): Dawn[] {
  const dawns: Dawn[] = [];
  let day = NaN;
  let found = true;
  let six = 0;
  for (let k = 0; k < run.steps; k++) {
    const local = localSecond(clock, (prime + k) * run.stepS);
    const here = Math.floor(local / 86_400);
    if (here !== day) {
      if (!found && six > 0) dawns.push({ at: six * run.stepS, share: run.share[six]! });
      // The first part of a day counts only where the run saw its small hours.
      found = Number.isNaN(day) && local - here * 86_400 > 4 * 3600;
      day = here;
      six = 0;
    }
    if (six === 0 && local - here * 86_400 >= 6 * 3600) six = k;
    const altitude = weather.track.altitude;
    if (!found && altitude[prime + k]! > 0 && altitude[prime + k - 1]! <= 0) {
      dawns.push({ at: k * run.stepS, share: run.share[k]! });
      found = true;
    }
  }
  if (!found && six > 0) dawns.push({ at: six * run.stepS, share: run.share[six]! });
  return dawns;
}

/** How the days go in one kind of weather. */
export interface Trend {
  dawns: Dawn[];
  /** Lowest dawn level; four weeks on at the trend where it still sinks after a fortnight. */
  lowest: number;
  /** Share a day that the level falls by: until the reserve, or over the second week; negative where it rises. */
  fall: number;
  sinks: boolean;
  reserveAt: number | null;
  /** Local seconds of the day at which the bank is usually full, or null where it is not on most days. */
  fullAt: number | null;
}

function trendOf(simulated: Simulated): Trend {
  const { run, clock, prime } = simulated;
  const dawns = dawnsOf(simulated);
  const levels = dawns.map(({ share }) => share);
  const least = levels.length > 0 ? Math.min(...levels) : run.steps > 0 ? run.share[run.steps - 1]! : 1;
  const days = run.reserveAt === null ? null : Math.max(1, run.reserveAt / 86_400);
  const [half, last] = [levels[Math.floor(levels.length / 2)] ?? least, levels[levels.length - 1] ?? least];
  const late = levels.length > 2 ? (half - last) / (levels.length - 1 - Math.floor(levels.length / 2)) : 0;
  const untilReserve = levels.filter((_, i) => days === null || dawns[i]!.at <= run.reserveAt! + 86_400);
  const early =
    untilReserve.length > 1
      ? (untilReserve[0]! - untilReserve[untilReserve.length - 1]!) / (untilReserve.length - 1)
      : late;
  const sinks = days === null && late > SETTLED;
  const times: number[] = [];
  let lastDay = NaN;
  for (let k = 1; k < run.steps; k++) {
    if (run.share[k]! < FULL || run.share[k - 1]! >= FULL) continue;
    const local = localSecond(clock, (prime + k) * run.stepS);
    const day = Math.floor(local / 86_400);
    if (day !== lastDay) times.push(local - day * 86_400);
    lastDay = day;
  }
  times.sort((a, b) => a - b);
  const enough = times.length >= (run.steps * run.stepS) / 86_400 / 2;
  return {
    dawns,
    lowest: sinks ? Math.max(0, least - FORTNIGHT * late) : least,
    fall: days === null ? late : early,
    sinks,
    reserveAt: run.reserveAt,
    fullAt: enough ? times[Math.floor(times.length / 2)]! : null,
  };
}

/** An average day of a run by local hour, W: what comes in and where it goes. */
export interface AverageDay {
  solar: number[];
  lost: number[];
  engine: number[];
  shore: number[];
  generator: number[];
  units: number[];
  loads: number[];
  losses: number[];
}

function averageDay({ run, clock, prime }: Simulated): AverageDay {
  const hours = () => Array<number>(24).fill(0);
  const day: AverageDay = {
    solar: hours(),
    lost: hours(),
    engine: hours(),
    shore: hours(),
    generator: hours(),
    units: hours(),
    loads: hours(),
    losses: hours(),
  };
  const count = hours();
  const lines: [keyof AverageDay, Float32Array][] = [
    ["solar", run.solarUsed],
    ["lost", run.solarLost],
    ["engine", run.enginePower],
    ["shore", run.shorePower],
    ["generator", run.generatorPower],
    ["units", run.unitPower],
    ["loads", run.loadPower],
    ["losses", run.lossPower],
  ];
  for (let k = 0; k < run.steps; k++) {
    const hour = Math.floor((localSecond(clock, (prime + k) * run.stepS) % 86_400) / 3600);
    count[hour] = count[hour]! + 1;
    for (const [key, line] of lines) day[key][hour] = day[key][hour]! + line[k]!;
  }
  for (const [key] of lines) day[key] = day[key].map((sum, hour) => (count[hour]! > 0 ? sum / count[hour]! : 0));
  return day;
}

/** A span of answers from a mild day to a hot one. */
export interface Range {
  mild: number;
  hot: number;
}

export interface DayAssessment {
  verdicts: { lasts: Verdict; recovers: Verdict };
  figures: Figures;
  /** The two verdicts in words. */
  words: { lasts: string; recovers: string };
  /** Seconds to the reserve and dawn levels on a mild and on a hot day; null where they were not asked for. */
  range: { lasts: Range; recovers: Range } | null;
  use: Use | null;
  trend: Trend;
  average: AverageDay;
  /** The fortnight from noon, for the strip and the Day stage. */
  simulated: Simulated;
  /** Panels by the old rule: a watt for each amp-hour at 12 V. */
  oldRule: { panels: number; wanted: number };
  /** The generator over the fortnight: hours and litres of fuel a day. */
  generator: { hoursADay: number; litresADay: number };
}

/** The verdicts that ask for the coupled run. `range` also runs the mild and the hot day. */
export function assessDay(
  rig: Rig,
  { range = true }: { range?: boolean } = {},
  system = buildSystem(rig),
): DayAssessment {
  const figures: Figures = {};
  const use = firstUse(system);
  const own = use && runOfUse(rig, system, use);
  const fortnight = (weather?: WeatherKind) =>
    simulate(
      rig,
      {
        days: FORTNIGHT,
        minuteOfDay: 720,
        weather,
        noOverload: true,
        neverResting: rig.brief.stance === "never-resting",
      },
      system,
    );
  const simulated = fortnight();
  const trend = trendOf(simulated);
  const lasts = judgeLasts(system, figures, use, own);
  const recovers = judgeRecovers(system, figures, simulated, trend);
  recordAgeing(system, figures, simulated.run);
  const spread = (of: (weather: "mild" | "hot") => number): Range => ({ mild: of("mild"), hot: of("hot") });
  const { bank, values } = system;
  return {
    verdicts: { lasts: lasts.verdict, recovers: recovers.verdict },
    figures,
    words: { lasts: lasts.words, recovers: recovers.words },
    range: range
      ? {
          lasts: spread((weather) => (use ? runOfUse(rig, system, use, weather).lasts : 0)),
          recovers: spread((weather) => trendOf(fortnight(weather)).lowest),
        }
      : null,
    use,
    trend,
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
}

const STOPS = {
  reserve: "reserve",
  inverter: "inverter cut-off before the reserve",
  bank: "BMS low-voltage cut-off before the reserve",
  empty: "bank empty before the reserve",
  overload: "inverter overloaded",
  protection: "protection board opens before the reserve",
  unit: "unit's own cut-off before the reserve",
} as const;

function judgeLasts(
  system: System,
  figures: Figures,
  use: Use | null,
  own: UseRun | null,
): { verdict: Verdict; words: string } {
  const { rig, values, bank } = system;
  const prefs = rig.notation;
  const storage = rig.brief.stance === "storage";
  const wanted = storage
    ? record(
        figures,
        "day.wanted",
        "Hours wanted",
        "duration",
        values.plan.storageDays.value * 86_400,
        "t_w = n × d",
        [given("n", values.plan.storageDays), constant("d", "A day", 86_400, "duration", "round the clock")],
        "days of storage, the stance of the job",
      )
    : record(
        figures,
        "day.wanted",
        "Hours of use",
        "duration",
        (use?.minutes ?? 0) * 60,
        "t_w = t",
        [constant("t", "Main use of the plan", (use?.minutes ?? 0) * 60, "duration", "longest stretch of cooling")],
        "plan of the day",
      );
  const seconds = own?.lasts ?? LASTS_DAYS * 86_400;
  const used = bank.startShare - (own?.endShare ?? bank.startShare);
  const mean = (used * bank.capacityAh) / (seconds / 3600);
  const has = record(
    figures,
    "day.lasts",
    own?.reached === false ? "Not at the reserve after" : "To the reserve",
    "duration",
    seconds,
    Math.abs(mean) > 1e-9 ? "t = (s_0 − s_e) × C ÷ I" : "t = t_r",
    Math.abs(mean) > 1e-9
      ? [
          given("s_0", values.bank.startShare),
          constant("s_e", "Level at the end", own!.endShare, "ratio", own!.reached ? STOPS[own!.cause] : "still above"),
          constant("C", "Capacity now", bank.capacityAh, "charge", "condition, cold and batteries in parallel counted"),
          constant("I", "Mean counted current", mean, "current", "of the coupled run, sun and cycling counted"),
        ]
      : [constant("t_r", "Length of the run", seconds, "duration", "nothing net is drawn")],
    "coupled run of cabin, unit, sun and bank at steps of a minute",
  );
  const stance = { expected: "expected draw", "never-resting": "compressor never resting", storage: "without any sun" };
  const verdict = verdictOf("Lasts", [
    check("lasts", "use", STOPS[own?.cause ?? "reserve"], wanted, has, stance[rig.brief.stance], { tightBelow: 1.1 }),
  ]);
  return { verdict, words: lastsWords() };

  function lastsWords(): string {
    if (!use || !own) return "nothing is cooled in this plan";
    const at = timeOfDay(own.clock, own.startSecond + own.lasts);
    const what = own.cause === "reserve" ? "reserve" : STOPS[own.cause];
    const asked = wanted.value;
    if (!own.reached)
      return storage
        ? "not at the reserve in a fortnight without sun"
        : `not at the reserve in ${LASTS_DAYS} days of it going on`;
    const days = Math.floor((own.lasts + use.from * 60) / 86_400);
    const when = own.lasts > 86_400 ? `${at} on day ${days + 1}` : at;
    const gap = Math.round(Math.abs(own.lasts - asked) / 600) * 600;
    if (gap < 600) return `${what} at ${when}, just as it is over`;
    const span = formatQuantity(gap, "duration", prefs, 2);
    return `${what} at ${when}, ${span} ${own.lasts < asked ? "before" : "after"} the end`;
  }
}

const ORDINALS = ["first", "second", "third", "fourth", "fifth", "sixth", "seventh", "eighth", "ninth", "tenth"];

function judgeRecovers(
  system: System,
  figures: Figures,
  { run, clock, prime }: Simulated,
  trend: Trend,
): { verdict: Verdict; words: string } {
  const { rig, values } = system;
  const percent = (share: number) => formatQuantity(share, "ratio", rig.notation, 2);
  const need = record(
    figures,
    "day.reserve",
    "Reserve",
    "ratio",
    values.bank.reserve.value,
    "s_r = s",
    [given("s", values.bank.reserve)],
    "bank",
  );
  const first = trend.dawns[0]?.share ?? run.share[run.steps - 1] ?? 0;
  const has = record(
    figures,
    "day.dawn",
    trend.sinks ? "Lowest dawn level, four weeks at this trend" : "Lowest dawn level in a fortnight",
    "ratio",
    trend.lowest,
    "s_d = s_1 − f",
    [
      constant("s_1", "Level at the first dawn", first, "ratio", "coupled run"),
      constant("f", "Falls until the lowest by", first - trend.lowest, "ratio", "fourteen days of plan and weather"),
    ],
    "coupled run of cabin, unit, sun and bank at steps of a minute",
  );
  const perDay = (joules: number) => joules / 3600 / ((run.steps * run.stepS) / 86_400);
  const { totals } = run;
  const into = record(
    figures,
    "day.in",
    "Brought in a day",
    "energy",
    perDay(totals.solarUsed + totals.engine + totals.shore + totals.generator),
    "E_i = E_s + E_e + E_m + E_g",
    [
      constant("E_s", "Sun used", perDay(totals.solarUsed), "energy", "mean of the fortnight"),
      constant("E_e", "Engine", perDay(totals.engine), "energy", "mean of the fortnight"),
      constant("E_m", "Shore", perDay(totals.shore), "energy", "mean of the fortnight"),
      constant("E_g", "Generator", perDay(totals.generator), "energy", "mean of the fortnight"),
    ],
    "coupled run",
  );
  const losses = totals.inverterLoss + totals.pathLoss + totals.bankLoss + totals.chargerLoss;
  record(
    figures,
    "day.out",
    "Taken out a day",
    "energy",
    perDay(totals.units + totals.loads + losses),
    "E_o = E_u + E_l + E_x",
    [
      constant("E_u", "Air conditioner", perDay(totals.units), "energy", "mean of the fortnight"),
      constant("E_l", "Other loads", perDay(totals.loads), "energy", "mean of the fortnight"),
      constant("E_x", "Lost on the way", perDay(losses), "energy", "inverter, cables, chargers, the cells"),
    ],
    "coupled run",
  );
  record(
    figures,
    "day.lost",
    "Sun that found no room, a day",
    "energy",
    perDay(totals.solarLost),
    "E_w = E_a − E_s",
    [
      constant(
        "E_a",
        "Sun the controllers could pass",
        perDay(totals.solarLost + totals.solarUsed),
        "energy",
        "mean of the fortnight",
      ),
      constant("E_s", "Sun used", perDay(totals.solarUsed), "energy", "mean of the fortnight"),
    ],
    "coupled run",
  );
  const short = Math.max(0, perDay(totals.fromStore));
  const name =
    into.value < 1
      ? "nothing charges it"
      : has.value < need.value || trend.sinks
        ? `short by ${formatQuantity(short, "energy", rig.notation, 2)} a day`
        : "dawn level";
  const days = `${FORTNIGHT} days`;
  const checks = [check("recovers", "dawn", name, need, has, days)];
  // Below the reserve the level says it all; above it a cut-off is the news.
  if (run.secondsCut > 0 && has.value >= need.value) {
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
      [of("t", hours), constant("t_c", "Cut off for", run.secondsCut, "duration", STOPS[run.stop!.cause])],
      "coupled run",
    );
    checks.push(
      check("recovers", "supply", STOPS[run.stop!.cause].replace(" before the reserve", ""), hours, left, days, {
        rule: true,
      }),
    );
  }
  const verdict = verdictOf("Recovers", checks);
  return { verdict, words: recoversWords() };

  function recoversWords(): string {
    if (trend.reserveAt !== null) {
      const noons = Math.floor(trend.reserveAt / 86_400);
      const at = timeOfDay(clock, prime * run.stepS + trend.reserveAt);
      const which = ORDINALS[noons] ?? `${noons + 1}th`;
      if (noons === 0) return `at the reserve at ${at} on the first night`;
      const rate = trend.fall > 0.0005 ? `sinks ${percent(trend.fall)} a day, ` : "";
      return `${rate}at the reserve on the ${which} night`;
    }
    if (trend.sinks) return `still sinks ${percent(trend.fall)} a day after a fortnight`;
    if (trend.fullAt !== null) {
      const minutes = Math.round(trend.fullAt / 600) * 10;
      return `holds; back to full by ${String(Math.floor(minutes / 60)).padStart(2, "0")}:${String(minutes % 60).padStart(2, "0")}`;
    }
    return `holds at ${percent(trend.lowest)} or more at dawn`;
  }
}

/** Cycles and money for a night of cooling: the charge that goes through the bank, over what it lives for. */
function recordAgeing(system: System, figures: Figures, run: Run): void {
  const { values, bank } = system;
  const nights = (run.steps * run.stepS) / 86_400;
  const out = run.totals.ampHoursOut / nights;
  const cycles = record(
    figures,
    "day.cycles",
    "Full cycles a day",
    "number",
    out / bank.capacityAh,
    "n = Q ÷ C",
    [
      constant("Q", "Charge out of the bank a day", out, "charge", "mean of the fortnight"),
      constant("C", "Capacity now", bank.capacityAh, "charge", "bank"),
    ],
    "equivalent full cycles",
  );
  record(
    figures,
    "day.cost",
    "Bank worn, a day",
    "money",
    (cycles.value / values.plan.cycleLife.value) * values.plan.bankCost.value,
    "M = n ÷ N × B",
    [of("n", cycles), given("N", values.plan.cycleLife), given("B", values.plan.bankCost)],
    "price over the cycles it lives",
  );
}
