import { recordOf, type DayRecord } from "@/core/simulation/day/record";
import { simulate } from "@/core/simulation/day/simulate";
import { emptyPanel, emptySpan, type PlanSpan, type Job } from "@/core/document/schema";
import { jobOf, q } from "../jobs";

/*
 * What facts of the trade describe: plans, cabins and panels, left at typical values otherwise.
 */

export const BTU = 0.29307107;

/** Cooled and lived in for some hours, doors open for the half day before. */
export function plan(
  from: number,
  hours: number,
  setPointC: number,
  mode: "auto" | "low" | "fan" = "auto",
): Job["plan"] {
  const minutes = hours * 60;
  const cool = {
    ...(emptySpan("unit", "u", from * 60, minutes) as Extract<PlanSpan, { kind: "unit" }>),
    mode,
    setPointC: q(setPointC),
  };
  const spans = [
    cool,
    emptySpan("people", "p", from * 60, minutes),
    emptySpan("open", "o", ((from + 12) % 24) * 60, 720),
  ];
  return { start: null, days: 7, week: [], patterns: [{ id: "d", name: "Day", spans }] };
}
export const MOTORHOME: Job["cabin"] = {
  kind: "motorhome",
  insulation: "grade3",
  colour: "white",
  glazing: "double",
  blinds: "inside",
  inverterInside: false,
};
export const panels = (power: number): Job["sources"] => ({
  panels: [{ ...emptyPanel("p"), power: q(power) }],
  controllers: [],
  obstacles: [],
});
/** A run of so many days from an hour on. */
export const run = (job: Job, hour: number, days: number, rest: object = {}): DayRecord =>
  recordOf(simulate(job, { days, minuteOfDay: hour * 60, noOverload: true, ...rest }));

/** A roof heat pump of 15,000 BTU/h at 110 A on 400 Ah in a motorhome. */
export const heatPump = (parts: Partial<Job>): Job => ({
  ...jobOf({
    mains: "120V60Hz",
    brief: { month: 7 },
    unit: {
      coolingPower: q(15_000 * BTU),
      dcRunningCurrent: q(110, "measured"),
      measuredAtC: q(35),
      startAid: "soft-starter",
    },
    bank: { capacityAh: q(100), parallel: q(4) },
    inverter: { rating: q(3000) },
  }),
  cabin: MOTORHOME,
  ...parts,
});
