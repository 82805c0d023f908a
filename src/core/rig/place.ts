import { MAINS_SYSTEMS } from "../rules/mains";
import { nearestPlace, placeOf, PLACES, type Place } from "../weather/places";
import type { Rig } from "./document";

/** Where a job is taken to be when neither list, numbers nor words say it. */
const UNSAID = (mains: Rig["brief"]["mains"]) => (MAINS_SYSTEMS[mains].american ? "quartzsite" : "faro");

/** The listed place whose climate fills the gaps: chosen, nearest to the coordinates, found in the brief's words, or a usual one. */
export function placeOfRig(rig: Rig): { place: Place; why: string } {
  const { listed, latitude, longitude } = rig.place;
  const asked = [rig.brief.mains, rig.brief.place, listed, latitude?.value, longitude?.value] as const;
  const kept = found.get(rig.place);
  if (kept && asked.every((one, i) => one === kept.asked[i])) return kept.answer;
  const answer = findPlace(rig);
  found.set(rig.place, { asked, answer });
  return answer;
}

/** The last answer for a place of a document, with all that it hangs on: the same is asked many times while one is judged. */
const found = new WeakMap<Rig["place"], { asked: readonly unknown[]; answer: { place: Place; why: string } }>();

function findPlace(rig: Rig): { place: Place; why: string } {
  const { listed, latitude, longitude } = rig.place;
  const chosen = listed ? placeOf(listed) : undefined;
  if (chosen) return { place: chosen, why: chosen.name };
  if (latitude && longitude) {
    const place = nearestPlace(latitude.value, longitude.value);
    return { place, why: `${place.name}, the nearest listed place` };
  }
  const words = rig.brief.place.toLowerCase();
  const named = PLACES.find(({ name }) => words.includes(name.split(",")[0]!.toLowerCase()));
  if (named) return { place: named, why: named.name };
  const region =
    words && PLACES.find(({ name }) => name.includes(",") && words.includes(name.split(", ")[1]!.toLowerCase()));
  if (region) return { place: region, why: `${region.name}, in the same region` };
  const usual = placeOf(UNSAID(rig.brief.mains))!;
  return { place: usual, why: `${usual.name}, as no place is said` };
}

/** Month of the job; the hottest of its half of the globe where none is said. */
export function monthOfRig(rig: Rig, latitude: number): number {
  return rig.brief.month ?? (latitude >= 0 ? 7 : 1);
}

export function timeZoneOfRig(rig: Rig): string {
  return rig.place.timeZone ?? placeOfRig(rig).place.timeZone;
}

/** First day of runs: the plan's, or the fifteenth of the job's month in a year of the almanac. */
export function startDateOfRig(rig: Rig, latitude: number): string {
  return rig.plan.start ?? `2026-${String(monthOfRig(rig, latitude)).padStart(2, "0")}-15`;
}
