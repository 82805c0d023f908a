import { PLACES, type Place } from "./places";

/** A typical station that a point's climate is taken from, with its part of it. */
export interface Neighbour {
  station: Place;
  /** Great-circle distance, km. */
  km: number;
  /** Part of the climate that comes from it; all of them together are 1. */
  weight: number;
}

const RAD = Math.PI / 180;
const EARTH_KM = 6371;
/** Stations that a climate is blended from, and the distance within which the nearest one stands for the point alone. */
const BLENDED = 3;
const SAME_KM = 5;
/**
 * Kilometres of distance that a degree of latitude and a metre of height count for beside the distance itself: climate
 * changes faster northward and upward than along a coast (common practice, no source).
 */
const KM_PER_DEGREE_OF_LATITUDE = 60;
const KM_PER_METRE = 0.2;
/** K that the air cools with each metre of height: the standard atmosphere's lapse rate (ISO 2533). */
const LAPSE_K_PER_M = 0.0065;
/** K that its dew point falls with each metre (common practice, no source). */
const DEW_LAPSE_K_PER_M = 0.002;

/** Great-circle distance between two points on the globe, km (haversine formula). */
export function distanceKm(
  latitude: number,
  longitude: number,
  other: { latitude: number; longitude: number },
): number {
  const [p, q] = [latitude * RAD, other.latitude * RAD];
  const a =
    Math.sin((q - p) / 2) ** 2 + Math.cos(p) * Math.cos(q) * Math.sin(((other.longitude - longitude) * RAD) / 2) ** 2;
  return 2 * EARTH_KM * Math.asin(Math.min(1, Math.sqrt(a)));
}

/**
 * The typical stations nearest to a point by distance, latitude and (where it is known) height, in metres; weights fall
 * with the square of that distance.
 */
export function neighboursOf(latitude: number, longitude: number, altitude?: number): Neighbour[] {
  const ranked = PLACES.map((station) => {
    const km = distanceKm(latitude, longitude, station);
    const height = altitude === undefined ? 0 : Math.abs(altitude - station.altitude);
    const apart = km + KM_PER_DEGREE_OF_LATITUDE * Math.abs(latitude - station.latitude) + KM_PER_METRE * height;
    return { station, km, apart };
  })
    .sort((a, b) => a.apart - b.apart)
    .slice(0, BLENDED);
  const [first] = ranked as [(typeof ranked)[number]];
  if (first.km <= SAME_KM) return [{ station: first.station, km: first.km, weight: 1 }];
  const parts = ranked.map(({ apart }) => 1 / apart ** 2);
  const whole = parts.reduce((sum, part) => sum + part, 0);
  return ranked.map(({ station, km }, i) => ({ station, km, weight: parts[i]! / whole }));
}

/** The climate of a point: its neighbours' by weight, brought to the point's height where that is known. */
export function climateOfPoint(latitude: number, longitude: number, altitude?: number): Place {
  const neighbours = neighboursOf(latitude, longitude, altitude);
  const blend = (of: (station: Place) => number) =>
    neighbours.reduce((sum, { station, weight }) => sum + weight * of(station), 0);
  const height = altitude ?? blend((station) => station.altitude);
  const seasons = (of: (station: Place) => number[], lapse = 0) =>
    [0, 1, 2, 3].map((season) =>
      blend((station) => of(station)[season]! - lapse * (height - station.altitude) * Number(altitude !== undefined)),
    );
  const bySea = neighbours.filter(({ station }) => station.seaC !== null);
  const seaWeight = bySea.reduce((sum, { weight }) => sum + weight, 0);
  return {
    id: "",
    name: neighbours[0]!.station.name,
    latitude,
    longitude,
    altitude: height,
    timeZone: neighbours[0]!.station.timeZone,
    maxC: seasons(({ maxC }) => maxC, LAPSE_K_PER_M),
    minC: seasons(({ minC }) => minC, LAPSE_K_PER_M),
    dewPointC: seasons(({ dewPointC }) => dewPointC, DEW_LAPSE_K_PER_M),
    clearness: seasons(({ clearness }) => clearness),
    seaC:
      neighbours[0]!.station.seaC === null
        ? null
        : [0, 1].map(
            (half) => bySea.reduce((sum, { station, weight }) => sum + weight * station.seaC![half]!, 0) / seaWeight,
          ),
    wind: blend(({ wind }) => wind),
  };
}
