import { readingSpec, type Bench, type ReadingKey } from "../fault-finding/readings";
import { formatQuantity } from "../../units/format";
import type { Job } from "../../document/schema";
import { say } from "../../messages/say";

/** How often a check comes back. */
export interface Every {
  unit: "week" | "month" | "year";
  count: number;
}

/** A check after the handing over. */
export interface FollowUp {
  key: string;
  title: string;
  /** What is done and what it should show, in the job's units. */
  what: string;
  /** Local day of the first one, YYYY-MM-DD. */
  first: string;
  /** Null where it is done once. */
  every: Every | null;
}

/** Days and months after the handing over; a month's end stays a month's end. */
function later(from: string, { unit, count }: Every): string {
  const [year, month, day] = from.split("-").map(Number) as [number, number, number];
  if (unit === "week") return new Date(Date.UTC(year, month - 1, day + 7 * count)).toISOString().slice(0, 10);
  const months = month - 1 + count * (unit === "year" ? 12 : 1);
  const last = new Date(Date.UTC(year, months + 1, 0)).getUTCDate();
  return new Date(Date.UTC(year, months, Math.min(day, last))).toISOString().slice(0, 10);
}

/** The day that follow-ups count from: signed on, else the last step of the run sheet, else `otherwise`. All YYYY-MM-DD. */
export function dayOfFollowUps(job: Job, otherwise: string): string {
  const { steps, document } = job.handover;
  const done = steps.flatMap(({ at, passed }) => (at && passed ? [at.slice(0, 10)] : [])).sort();
  return document.signedOn ?? done[done.length - 1] ?? otherwise;
}

export const everyWords = (every: Every | null): string =>
  every === null ? "once" : every.count === 1 ? `every ${every.unit}` : `every ${every.count} ${every.unit}s`;

/**
 * Checks that a system asks for after it was handed over, the soonest first, each with what the core expects. Their times are
 * of the trade (common practice, no source); makers' and local rules come first. `from` is YYYY-MM-DD.
 */
export function followUps(bench: Bench, from: string): FollowUp[] {
  const { job, assessment } = bench;
  const { values } = assessment;
  const converted = assessment.compartment !== null;
  const sea = job.units.some(({ condenser }) => condenser === "sea");
  const air = job.units.some(({ condenser }) => condenser !== "sea");
  const said = (reading: ReadingKey): string | null => {
    const spec = readingSpec(reading);
    const value = spec.expected(bench);
    return value === null ? null : formatQuantity(value, spec.dimension, job.notation);
  };
  const path = said("path");
  const capacity = said("capacity");
  const running = said("running");
  const solar = said("solarBest");
  // oxlint-disable-next-line max-params -- one line of a table: its columns in order
  const due = (key: string, title: string, what: string, first: Every, every: Every | null): FollowUp => ({
    key,
    title,
    what,
    first: later(from, first),
    every,
  });
  const when = (there: boolean, one: FollowUp): FollowUp[] => (there ? [one] : []);
  const week: Every = { unit: "week", count: 1 };
  const month: Every = { unit: "month", count: 1 };
  const halfYear: Every = { unit: "month", count: 6 };
  const year: Every = { unit: "year", count: 1 };
  const torque = say("handover.batteryIsolatedEveryConnection");
  const drop = path === null ? "" : ` ${say("handover.thenWiringBatteryInverter", { path })}`;
  const list = [
    ...when(sea, due("strainer", "Clean the sea-water strainer", say("handover.unitOffSeaCock"), week, week)),
    due("re-torque", "Tighten the connections again", `${torque}${drop}`, month, null),
    due(
      "air-filter",
      air ? "Clean air filter and condenser" : "Clean air filter",
      `Unit off and isolated.${running === null ? "" : ` ${say("handover.runningAmpsAfterTen", { running })}`}`,
      month,
      month,
    ),
    ...when(
      converted,
      due(
        "leakage",
        `Press the test button of each ${assessment.wiring.rules.residualName}`,
        say("handover.shoreInverterOneDoes"),
        halfYear,
        halfYear,
      ),
    ),
    ...when(
      solar !== null,
      due(
        "panels",
        "Wash the panels and read their highest power",
        say("handover.clearNoonBatteryNot", { solar: solar ?? "" }),
        halfYear,
        halfYear,
      ),
    ),
    due(
      "capacity",
      "Annual capacity run",
      say("handover.synchronisedFullCutOff", {
        capacity: capacity ?? "",
        reserve: formatQuantity(values.bank.reserve.value, "ratio", job.notation),
      }),
      year,
      year,
    ),
    due("torque-yearly", "Connections, every year", `${torque}${drop}`, year, year),
    due("alarms", "Try the alarms", say("handover.smokeCarbonMonoxideTheir"), halfYear, halfYear),
  ];
  return list.sort((a, b) => (a.first < b.first ? -1 : a.first > b.first ? 1 : 0));
}
