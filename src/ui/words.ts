import { STANCE_WORDS } from "@/core/document/stance";
import type { Job } from "@/core/document/schema";
import { MAINS_SYSTEMS } from "@/core/reference/standards/mains";

export const MONTHS = [
  "January",
  "February",
  "March",
  "April",
  "May",
  "June",
  "July",
  "August",
  "September",
  "October",
  "November",
  "December",
] as const;

export function monthName(month: number): string {
  return MONTHS[month - 1] ?? "";
}

export function mainsWords(mains: Job["brief"]["mains"]): string {
  return MAINS_SYSTEMS[mains].label;
}

/** Day and time of a moment as the server writes it: "15 Jul 2026, 14:05". */
export const dateWords = (moment: string): string =>
  new Date(moment).toLocaleString("en-GB", { dateStyle: "medium", timeStyle: "short" });

/** The moment, Unix ms: readings stamp themselves. */
export const moment = (): number => Date.now();

/** An id for a new row of a list: unique in its document. */
export function newId(): string {
  return `r${Math.random().toString(36).slice(2, 10)}`;
}

/** Degree-hours (K h) in the job's degrees. */
export function degreeHours(kelvinHours: number, { temperature }: Job["notation"]): string {
  return temperature === "F" ? `${(kelvinHours * 1.8).toFixed(1)} °F h` : `${kelvinHours.toFixed(1)} K h`;
}

/** Which leg of a supply of two legs a load hangs on. */
export const LEGS = [
  { value: "L1", label: "L1" },
  { value: "L2", label: "L2" },
  { value: "both", label: "between L1 and L2" },
] as const;

/** What the run time of a job is based on. */
export const STANCES = (Object.keys(STANCE_WORDS) as (keyof typeof STANCE_WORDS)[]).map((value) => ({
  value,
  label: STANCE_WORDS[value],
}));
