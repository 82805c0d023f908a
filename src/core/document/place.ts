import zoneAt from "@photostructure/tz-lookup";
import { MAINS_SYSTEMS } from "../reference/standards/mains";
import { placeOf, type Place } from "../reference/weather/places";
import { climateOfPoint, neighboursOf } from "../reference/weather/stations";
import type { Job } from "./schema";

/** Where a job without a place is taken to be: verdicts that need weather wait for a place. */
const WITHOUT_PLACE = (mains: Job["brief"]["mains"]) => (MAINS_SYSTEMS[mains].american ? "quartzsite" : "faro");

/** A job's place and where its climate comes from. */
export interface PlaceOfJob {
  place: Place;
  /** Whether somebody chose it: a typical station, or coordinates. */
  known: boolean;
  /** Where the climate comes from, in words. */
  why: string;
}

/** What of a document its place follows from. */
export type Placed = Pick<Job, "brief" | "place" | "supplies">;

/** The climate that fills the gaps: of the station chosen, or of the coordinates by the stations nearest to them. */
export function placeOfJob(job: Placed): PlaceOfJob {
  const { listed, latitude, longitude } = job.place;
  const altitude = job.supplies.altitude?.value;
  const asked = [job.brief.mains, listed, latitude?.value, longitude?.value, altitude] as const;
  const kept = found.get(job.place);
  if (kept && asked.every((one, i) => one === kept.asked[i])) return kept.answer;
  const answer = findPlace(job);
  found.set(job.place, { asked, answer });
  return answer;
}

/** The last answer for a place of a document, with all that it hangs on: the same is asked many times while one is judged. */
const found = new WeakMap<Job["place"], { asked: readonly unknown[]; answer: PlaceOfJob }>();

function findPlace(job: Placed): PlaceOfJob {
  const { listed, latitude, longitude } = job.place;
  const chosen = listed ? placeOf(listed) : undefined;
  if (chosen) return { place: chosen, known: true, why: chosen.name };
  if (latitude && longitude) {
    const altitude = job.supplies.altitude?.value;
    const neighbours = neighboursOf(latitude.value, longitude.value, altitude);
    return {
      place: climateOfPoint(latitude.value, longitude.value, altitude),
      known: true,
      why: neighbours.map(({ station, km }) => `${station.name} (${Math.round(km)} km)`).join(", "),
    };
  }
  const usual = placeOf(WITHOUT_PLACE(job.brief.mains))!;
  return { place: usual, known: false, why: "no place yet" };
}

/** Where and when a job is: resolved once into its values, for all that comes after. */
export interface SiteOfJob {
  /** Whether somebody chose the place. */
  known: boolean;
  /** The place in few words, as the job or the typical station names it; empty where nobody chose one. */
  name: string;
  /** IANA time zone. */
  timeZone: string;
  month: number;
  /** First day of runs, YYYY-MM-DD. */
  startDate: string;
}

export function siteOfJob(job: Job): SiteOfJob {
  const { known, place } = placeOfJob(job);
  const latitude = job.place.latitude?.value ?? place.latitude;
  return {
    known,
    name: known ? nameOf(job, place) : "",
    timeZone: timeZoneOfJob(job),
    month: monthOfJob(job, latitude),
    startDate: startDateOfJob(job, latitude),
  };
}

function nameOf(job: Job, place: Place): string {
  const own = job.brief.place.trim();
  if (own) return own;
  if (place.id) return place.name;
  const degrees = (value: number, [positive, negative]: [string, string]) =>
    `${Math.abs(value).toFixed(2)}° ${value >= 0 ? positive : negative}`;
  return `${degrees(place.latitude, ["N", "S"])} ${degrees(place.longitude, ["E", "W"])}`;
}

/** Month of the job; the hottest of its half of the globe where none is stated. */
export function monthOfJob(job: Job, latitude: number): number {
  return job.brief.month ?? (latitude >= 0 ? 7 : 1);
}

/** IANA time zone of the job: the one chosen, the station's, or that of the coordinates. */
export function timeZoneOfJob(job: Job): string {
  if (job.place.timeZone) return job.place.timeZone;
  const { listed, latitude, longitude } = job.place;
  if (!(listed && placeOf(listed)) && latitude && longitude) return zoneAt(latitude.value, longitude.value);
  return placeOfJob(job).place.timeZone;
}

/** First day of runs: the plan's, or the fifteenth of the job's month in a year of the almanac. */
export function startDateOfJob(job: Job, latitude: number): string {
  return job.plan.start ?? `2026-${String(monthOfJob(job, latitude)).padStart(2, "0")}-15`;
}
