import { timeOfDay } from "../../units/clock";
import { timeWords } from "../../document/schedule";
import { formatQuantity } from "../../units/format";
import { constant, given, traced, type TracedValue } from "../../units/trace";
import { say } from "../../messages/say";
import { judge, verdictOf, type Verdict } from "../judge/judge";
import type { System } from "../../models/system/system";
import type { Use } from "../../simulation/day/first-use";
import { daysFollowed, timeWanted, type EndCause, type UseRun } from "../use/use";
import { STANCE_WORDS } from "../../document/stance";

/** What ends a run, as checks and tables name it. */
export const END_WORDS: Record<EndCause, string> = {
  reserve: "Battery reserve",
  inverter: "Inverter low-voltage cut-off",
  bank: "BMS low-voltage cut-off",
  empty: "Battery empty",
  overload: "Inverter overload",
  protection: "BMS current limit",
  unit: "Low-voltage cut-off of the air conditioner",
};

/** A name within a sentence: its first letter small, but for an abbreviation's. */
export const within = (name: string): string =>
  /^[A-Z]{2}/.test(name) ? name : name.charAt(0).toLowerCase() + name.slice(1);

/** A sentence, and the same in few words. */
export interface Said {
  long: string;
  short: string;
}

/** By what the hours are judged. */
const LASTS = { id: "lasts", broken: "Fails", fix: "" } as const;

/** Whether the battery lasts the hours wanted from switching on, on the design day. */
export function judgeLasts(
  system: System,
  use: Use | null,
  own: UseRun | null,
): { verdict: Verdict; words: Said; cutOff: TracedValue | null } {
  const wanted = hoursWanted(system, use);
  const verdict = verdictOf("Lasts", [
    judge(LASTS, {
      name: END_WORDS[own?.cause ?? "reserve"],
      demand: wanted,
      limit: hoursOfRun(system, own),
      hasMore: !own?.reached,
      remark: `run time based on ${STANCE_WORDS[system.job.brief.stance]}`,
      holdsFrom: 1.1,
    }),
  ]);
  const nothing = { long: say("lasts.nothing"), short: say("lasts.nothing.short") };
  return {
    verdict,
    words: use && own ? wordsOf(system, use, own, wanted.value) : nothing,
    cutOff: own?.cutOff ? hoursToCutOff(own.cutOff) : null,
  };
}

function hoursWanted(system: System, use: Use | null): TracedValue {
  const { job, values } = system;
  const titled = { key: "day.wanted", name: "Hours wanted", dimension: "duration" as const };
  if (job.brief.stance === "storage")
    return traced({
      value: timeWanted(system),
      relation: "t_w = n × d",
      terms: () => [given("n", values.plan.storageDays), constant("d", "A day", 86_400, "duration", "round the clock")],
      source: "days of storage",
      ...titled,
    });
  return traced({
    value: use ? timeWanted(system) : 0,
    relation: "t_w = t",
    terms: () => [
      use
        ? given("t", values.brief.hoursWanted)
        : constant("t", "No use in the plan", 0, "duration", "plan of the day"),
    ],
    source: "brief, or the plan of the day",
    ...titled,
  });
}

/** From switching on to the reserve, or as long as the run was followed. */
function hoursOfRun(system: System, own: UseRun | null): TracedValue {
  const { values, bank } = system;
  const seconds = own?.lasts ?? daysFollowed(system) * 86_400;
  const used = bank.startSoc - (own?.endCharge ?? bank.startSoc);
  const mean = (used * bank.capacityAh) / (seconds / 3600);
  const draws = Math.abs(mean) > 1e-9;
  const end = own?.reached ? within(END_WORDS[own.cause]) : "still above the reserve";
  return traced({
    key: "day.lasts",
    name: !own?.reached ? "Still above the reserve after" : "From switching on to the reserve",
    dimension: "duration",
    value: seconds,
    relation: draws ? "t = (s_0 − s_e) × C ÷ I" : "t = t_r",
    terms: () =>
      draws
        ? [
            given("s_0", values.bank.startSoc),
            constant("s_e", "State of charge at the end", own!.endCharge, "ratio", end),
            constant(
              "C",
              "Usable nameplate capacity now",
              bank.capacityAh,
              "charge",
              "state of health, cold and parallel wiring counted",
            ),
            constant("I", "Average battery current", mean, "current", "of the run, net of sun and other charging"),
          ]
        : [constant("t_r", "Length of the run", seconds, "duration", "nothing net is drawn")],
    source: "coupled run of cabin, unit, sun and battery at steps of a minute",
  });
}

function hoursToCutOff({ cause, at }: NonNullable<UseRun["cutOff"]>): TracedValue {
  return traced({
    key: "day.cutOff",
    name: "From switching on to the cut-off",
    dimension: "duration",
    value: at,
    relation: "t = t_c",
    terms: () => [constant("t_c", END_WORDS[cause], at, "duration", "of the run")],
    source: "coupled run",
  });
}

function wordsOf(system: System, use: Use, own: UseRun, wanted: number): Said {
  const { job, bank } = system;
  const prefs = job.notation;
  const storage = job.brief.stance === "storage";
  const span = (value: number) => formatQuantity(value, "duration", prefs);
  const values = {
    reserve: formatQuantity(bank.reserveSoc, "ratio", prefs, 2),
    storage: storage ? "yes" : "no",
    days: daysFollowed(system),
    time: timeOfDay(own.clock, own.startSecond + own.lasts),
    day: Math.floor((own.lasts + use.from * 60) / 86_400) + 1,
    span: span(own.lasts),
    from: timeWords(use.from),
    cause: own.cause,
  };
  if (!own.reached) return { long: say("lasts.never", values), short: say("lasts.never.short", values) };
  const how = own.cause === "reserve" ? "lasts.reserve" : "lasts.cut";
  return { long: `${say(how, values)} ${covers(own.lasts - wanted)}`, short: say(`${how}.short`, values) };

  function covers(gap: number): string {
    if (Math.abs(gap) < 60) return say("lasts.covers.just", { wanted: span(wanted) });
    return gap > 0
      ? say("lasts.covers", { wanted: span(wanted), spare: span(gap) })
      : say("lasts.short", { wanted: span(wanted), gap: span(-gap) });
  }
}
