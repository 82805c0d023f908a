import zoneAt from "@photostructure/tz-lookup";
import { MAINS_SYSTEMS } from "../reference/standards/mains";
import { placeOf, type Place } from "../reference/weather/places";
import { climateOfPoint, neighboursOf } from "../reference/weather/stations";
import type { Rig } from "./schema";

/** Where the sums of a job without a place are taken to be: verdicts that need weather wait for a place. */
const WITHOUT_PLACE = (mains: Rig["brief"]["mains"]) => (MAINS_SYSTEMS[mains].american ? "quartzsite" : "faro");

/** A job's place and where its climate comes from. */
export interface PlaceOfRig {
  place: Place;
  /** Whether somebody chose it: a typical station, or coordinates. */
  known: boolean;
  /** Where the climate comes from, in words. */
  why: string;
}

/** The climate that fills the gaps: of the station chosen, or of the coordinates by the stations nearest to them. */
export function placeOfRig(rig: Rig): PlaceOfRig {
  const { listed, latitude, longitude } = rig.place;
  const altitude = rig.supplies.altitude?.value;
  const asked = [rig.brief.mains, listed, latitude?.value, longitude?.value, altitude] as const;
  const kept = found.get(rig.place);
  if (kept && asked.every((one, i) => one === kept.asked[i])) return kept.answer;
  const answer = findPlace(rig);
  found.set(rig.place, { asked, answer });
  return answer;
}

/** The last answer for a place of a document, with all that it hangs on: the same is asked many times while one is judged. */
const found = new WeakMap<Rig["place"], { asked: readonly unknown[]; answer: PlaceOfRig }>();

function findPlace(rig: Rig): PlaceOfRig {
  const { listed, latitude, longitude } = rig.place;
  const chosen = listed ? placeOf(listed) : undefined;
  if (chosen) return { place: chosen, known: true, why: chosen.name };
  if (latitude && longitude) {
    const altitude = rig.supplies.altitude?.value;
    const neighbours = neighboursOf(latitude.value, longitude.value, altitude);
    return {
      place: climateOfPoint(latitude.value, longitude.value, altitude),
      known: true,
      why: neighbours.map(({ station, km }) => `${station.name} (${Math.round(km)} km)`).join(", "),
    };
  }
  const usual = placeOf(WITHOUT_PLACE(rig.brief.mains))!;
  return { place: usual, known: false, why: "no place yet" };
}

/** Month of the job; the hottest of its half of the globe where none is stated. */
export function monthOfRig(rig: Rig, latitude: number): number {
  return rig.brief.month ?? (latitude >= 0 ? 7 : 1);
}

/** IANA time zone of the job: the one chosen, the station's, or that of the coordinates. */
export function timeZoneOfRig(rig: Rig): string {
  if (rig.place.timeZone) return rig.place.timeZone;
  const { listed, latitude, longitude } = rig.place;
  if (!(listed && placeOf(listed)) && latitude && longitude) return zoneAt(latitude.value, longitude.value);
  return placeOfRig(rig).place.timeZone;
}

/** First day of runs: the plan's, or the fifteenth of the job's month in a year of the almanac. */
export function startDateOfRig(rig: Rig, latitude: number): string {
  return rig.plan.start ?? `2026-${String(monthOfRig(rig, latitude)).padStart(2, "0")}-15`;
}
