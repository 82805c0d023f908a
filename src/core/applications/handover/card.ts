import { patternsOf } from "../../document/schedule";
import { simulate } from "../../simulation/day/simulate";
import type { PlanSpan, Job } from "../../document/schema";
import { buildSystem } from "../../models/system/build";
import { firstUse } from "../../simulation/day/first-use";
import { say } from "../../messages/say";
import { fixedSpeed } from "../../document/unit-kinds";

/** Ways of running that the customer's card gives hours for. */
export const CARD_MODES = ["auto", "low", "fan"] as const;
export type CardMode = (typeof CARD_MODES)[number];
export const CARD_DAYS = ["mild", "usual", "hot", "own"] as const;
export type CardDay = (typeof CARD_DAYS)[number];
/** The days of a job's card: the month's three, and the design day where it is one of its own. */
const cardDays = (job: Job): CardDay[] => CARD_DAYS.filter((day) => day !== "own" || job.weather.kind === "own");

/** How long a full battery lasts, s; `more` where it is not at its reserve at the end of the run. */
export interface CardHours {
  seconds: number;
  more: boolean;
}

type CardRow = Record<Exclude<CardDay, "own">, CardHours> & { own?: CardHours };
type CardTable = Record<CardMode, CardRow>;

/** What the customer may expect: hours from the usual hour of switching on, left on, from a full battery to its reserve. */
export interface Card {
  /** Local minutes of the day that it is switched on. */
  from: number;
  setPointC: number;
  /** By mode, then day; with the panels' sun and without it. */
  withSun: CardTable;
  withoutSun: CardTable;
  days: CardDay[];
  /** Whether the system has panels at all. */
  panels: boolean;
}

/** Longest a cell of the card runs, days. */
export const CARD_DAYS_RUN = 3;
const STEP_S = 120;
/** Where nothing is planned: after dinner. */
const EVENING = 21 * 60;

/** The system with its units left on in one mode, day and night; people, doors and shade as planned. */
function leftOn(job: Job, hoursWanted: number, mode: CardMode): Job {
  const patterns = patternsOf(job, hoursWanted).map((pattern) => {
    const own = pattern.spans.find((span) => span.kind === "unit" && span.mode !== "fan");
    const setPoint = own?.kind === "unit" && own.setPointC ? { setPointC: own.setPointC } : {};
    const on: PlanSpan = { id: "card", kind: "unit", from: 0, minutes: 1440, mode, ...setPoint };
    const stays = pattern.spans.filter(({ kind }) => ["people", "open", "shade", "load"].includes(kind));
    return { ...pattern, spans: [...stays, on] };
  });
  return { ...job, plan: { ...job.plan, patterns } };
}

/**
 * The customer's card by the coupled run at two-minute steps, one cell at a time: each step gives the share that is done.
 * Nobody drives, plugs in or runs a generator meanwhile. Pure: the same system gives the same card.
 */
export function* cardSteps(job: Job): Generator<number, Card> {
  const system = buildSystem(job);
  const { values } = system;
  const use = firstUse(system);
  const from = use?.from ?? EVENING;
  const hoursWanted = values.brief.hoursWanted.value;
  const systems = new Map(
    CARD_MODES.map((mode) => {
      const own = leftOn(job, hoursWanted, mode);
      return [mode, { own, system: buildSystem(own) }] as const;
    }),
  );
  const cell = (mode: CardMode, day: CardDay, noSolar: boolean): CardHours => {
    const { own, system: built } = systems.get(mode)!;
    const { run } = simulate(
      own,
      {
        days: CARD_DAYS_RUN,
        minuteOfDay: from,
        day: use?.day ?? 0,
        weather: day,
        stepS: STEP_S,
        noOverload: true,
        untilReserve: true,
        noSolar,
        startSoc: 1,
      },
      built,
    );
    const ends = [run.reserveAt, run.stop?.at ?? null].filter((at) => at !== null);
    return ends.length > 0
      ? { seconds: Math.min(...ends), more: false }
      : { seconds: run.steps * run.stepS, more: true };
  };
  const panels = job.sources.panels.length > 0;
  const days = cardDays(job);
  const cells = CARD_MODES.length * days.length * (panels ? 2 : 1);
  let done = 0;
  function* table(noSolar: boolean): Generator<number, CardTable> {
    const hours: Partial<CardTable> = {};
    for (const mode of CARD_MODES) {
      const row: Partial<CardRow> = {};
      for (const day of days) {
        row[day] = cell(mode, day, noSolar);
        yield ++done / cells;
      }
      hours[mode] = row as CardRow;
    }
    return hours as CardTable;
  }
  const withoutSun = yield* table(true);
  const planned = patternsOf(job, hoursWanted)
    .flatMap(({ spans }) => spans)
    .find((span) => span.kind === "unit" && span.mode !== "fan");
  return {
    from,
    setPointC: (planned?.kind === "unit" ? planned.setPointC?.value : undefined) ?? values.brief.setPointC.value,
    withSun: panels ? yield* table(false) : withoutSun,
    withoutSun,
    days,
    panels,
  };
}

/** The customer's card, all at once. */
export const cardOf = (job: Job): Card => drained(cardSteps(job));

/** Runs steps to their end for the answer alone. */
export function drained<T>(steps: Generator<number, T>): T {
  let step = steps.next();
  while (!step.done) step = steps.next();
  return step.value;
}

/** Hours as a customer reads them: whole ones from three up, halves below. */
export function cardWords({ seconds, more }: CardHours): string {
  const hours = seconds / 3600;
  if (more) return `over ${Math.round(hours / 24)} days`;
  if (hours >= 48) return `${Math.floor(hours / 24)} days`;
  if (hours >= 3) return `${Math.floor(hours)} h`;
  if (hours >= 0.5) return `${(Math.floor(hours * 2) / 2).toString()} h`;
  return "under half an hour";
}

/** What to do, and what not, by what the system has. */
export function adviceOf(job: Job, card: Card): { does: string[]; nots: string[] } {
  const fixed = job.units.some(fixedSpeed);
  const sea = job.units.some(({ condenser }) => condenser === "sea");
  const lithium = job.bank.chemistry !== "agm";
  const charger = job.wiring.branches.some(({ role }) => role === "charger" || role === "shore");
  return {
    does: [
      card.panels ? say("handover.coolDownBeforeSunset") : say("handover.coolDownBeforeNight"),
      say("handover.twoDegreesWarmerLow"),
      say("handover.shadeFirstBlindsAwning"),
      say("handover.afterMidnightFanAlone"),
      ...(sea ? [say("handover.lookStreamOverboardEvery")] : []),
      ...(charger ? [say("handover.chargeFullOnceWeek")] : []),
    ],
    nots: [
      ...(fixed ? [say("handover.doNotSwitchOff")] : []),
      say("handover.doNotRunKettle"),
      say("handover.doNotLeavePerson"),
      ...(lithium ? [say("handover.doNotChargeBattery")] : [say("handover.doNotLeaveBattery")]),
      say("handover.doNotCoverInverter"),
      say("handover.doNotOpenCovers"),
    ],
  };
}
