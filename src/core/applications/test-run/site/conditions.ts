import { z } from "zod";
import type { Job } from "../../../document/schema";

/** How much sun reaches the vehicle where it stands. */
export const SHADES = ["sun", "part", "shade"] as const;
export type Shade = (typeof SHADES)[number];

/** Share of the sun that trees or an awning of that kind let through: common practice, no source. */
export const SUN_THROUGH: Record<Shade, number> = { sun: 1, part: 0.6, shade: 0.3 };

/** How old a battery is, as its owner would say it. */
export const BATTERY_AGES = ["new", "some-years", "tired"] as const;
export type BatteryAge = (typeof BATTERY_AGES)[number];

/** When a battery was last charged full, which is where its monitor counts from. */
export const LAST_FULL = ["now", "days", "weeks"] as const;

const celsius = z.number().min(-20, { error: "at least -20 °C" }).max(60, { error: "at most 60 °C" });

/**
 * What whoever is on board knows as a test run begins and no instrument tells: every answer may be left out. The day's
 * highest and lowest outdoor temperatures are those of its weather forecast.
 */
export const runConditionsSchema = z
  .strictObject({
    people: z.int().min(0).max(20).nullable(),
    colour: z.enum(["white", "grey", "dark"]).nullable(),
    blinds: z.enum(["none", "inside", "outside"]).nullable(),
    shade: z.enum(SHADES).nullable(),
    forecastHighC: celsius.nullable(),
    forecastLowC: celsius.nullable(),
    /** State of charge of the battery at the first reading, from 0.05 to 1. */
    startSoc: z.number().min(0.05).max(1).nullable(),
    /** The battery's age in words: what is left of its plate's capacity follows from it. */
    batteryAge: z.enum(BATTERY_AGES).nullable().default(null),
    /** When it was last charged full: just before the run, some days or weeks ago. A monitor drifts from there on. */
    lastFull: z.enum(LAST_FULL).nullable().default(null),
    /** Moments of notes, Unix ms, that are not taken for settings though they read like some. */
    notesLeftOut: z.array(z.number()).max(500).default([]),
  })
  .refine(({ forecastHighC, forecastLowC }) => (forecastHighC ?? 60) >= (forecastLowC ?? -20), {
    path: ["forecastLowC"],
    error: "the lowest temperature is above the highest",
  });
export type RunConditions = z.infer<typeof runConditionsSchema>;

export const NOTHING_SAID: RunConditions = {
  people: null,
  colour: null,
  blinds: null,
  shade: null,
  forecastHighC: null,
  forecastLowC: null,
  startSoc: null,
  batteryAge: null,
  lastFull: null,
  notesLeftOut: [],
};

/** Usual range of temperature over a day, K, where only one end of it was said: common practice, no source. */
const USUAL_RANGE_K = 10;

/** The document of a job as it is on the day of a test run: what was said of colour, window covers, day and charge is in it. */
export function jobOnTheDay(job: Job, conditions: RunConditions): Job {
  const { colour, blinds, forecastHighC: high, forecastLowC: low, startSoc } = conditions;
  const told = (value: number) => ({ value, origin: "plate" as const });
  return {
    ...job,
    cabin: { ...job.cabin, colour: colour ?? job.cabin.colour, blinds: blinds ?? job.cabin.blinds },
    bank: startSoc === null ? job.bank : { ...job.bank, startSoc: told(startSoc) },
    place:
      high === null && low === null
        ? job.place
        : { ...job.place, maxC: told(high ?? low! + USUAL_RANGE_K), minC: told(low ?? high! - USUAL_RANGE_K) },
  };
}
