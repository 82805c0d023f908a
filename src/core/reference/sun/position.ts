import { Equator, MakeTime, Observer, SiderealTime } from "astronomy-engine";

const RAD = Math.PI / 180;
const SIDEREAL_RATE = (2 * Math.PI * 1.002737909350795) / 86_400;
/** Declination and right ascension are asked of the library this often and joined by straight lines: 0.001° at most. */
const KNOT_S = 6 * 3600;

/**
 * Where the sun stands: altitude and azimuth (from north through east), radians, without refraction. The altitude's sine and
 * cosine are kept beside it: every run in the same weather asks for them again.
 */
export interface SunTrack {
  altitude: Float64Array;
  azimuth: Float64Array;
  sinAltitude: Float64Array;
  cosAltitude: Float64Array;
}

/** Moments of a run: how many, and seconds between them. */
export interface Grid {
  steps: number;
  stepS: number;
}

/**
 * The sun's track at `steps` moments from `startMs` (Unix time, ms), `stepS` seconds apart, seen from a place in degrees
 * and metres. The equator's coordinates are the library's (topocentric, of date, with aberration); the hour angle turns
 * evenly between its knots.
 */
export function sunTrack(
  startMs: number,
  { steps, stepS }: Grid,
  { latitude, longitude, altitude = 0 }: { latitude: number; longitude: number; altitude?: number },
): SunTrack {
  const observer = new Observer(latitude, longitude, altitude);
  const [sinLat, cosLat] = [Math.sin(latitude * RAD), Math.cos(latitude * RAD)];
  const line = () => new Float64Array(steps);
  const track: SunTrack = { altitude: line(), azimuth: line(), sinAltitude: line(), cosAltitude: line() };
  const knot = (ms: number) => {
    const time = MakeTime(new Date(ms));
    const { ra, dec } = Equator("Sun" as Parameters<typeof Equator>[0], time, observer, true, true);
    return { angle: (SiderealTime(time) * 15 + longitude - ra * 15) * RAD, declination: dec * RAD };
  };
  const perKnot = Math.max(1, Math.round(KNOT_S / stepS));
  let next = knot(startMs);
  for (let from = 0; from < steps; from += perKnot) {
    const here = next;
    next = knot(startMs + (from + perKnot) * stepS * 1000);
    // The turn between two knots is a known number of days and a little: unwrap to the nearest.
    const turned = SIDEREAL_RATE * perKnot * stepS;
    const span = next.angle - here.angle;
    const whole = span + 2 * Math.PI * Math.round((turned - span) / (2 * Math.PI));
    for (let i = from; i < Math.min(steps, from + perKnot); i++) {
      const share = (i - from) / perKnot;
      const hour = here.angle + whole * share;
      const declination = here.declination + (next.declination - here.declination) * share;
      const sinDec = Math.sin(declination);
      const cosDec = Math.cos(declination);
      const sinAlt = sinLat * sinDec + cosLat * cosDec * Math.cos(hour);
      const altitude = Math.asin(Math.max(-1, Math.min(1, sinAlt)));
      track.altitude[i] = altitude;
      track.sinAltitude[i] = Math.sin(altitude);
      track.cosAltitude[i] = Math.cos(altitude);
      // South-based azimuth of the textbook, turned to north.
      const azimuth = Math.atan2(Math.sin(hour), Math.cos(hour) * sinLat - Math.tan(declination) * cosLat) + Math.PI;
      track.azimuth[i] = azimuth;
    }
  }
  return track;
}

/**
 * Atmospheric refraction in radians at a true altitude in radians, for pressure in Pa and temperature in degC.
 * Saemundsson's formula (memory), as the solar position algorithm of NREL/TP-560-34302 uses it; none below -0.57°.
 */
export function refraction(altitude: number, pressurePa = 101_325, temperatureC = 15): number {
  const degrees = altitude / RAD;
  if (degrees < -0.57) return 0;
  const minutes =
    (pressurePa / 101_000) *
    (283 / (273 + temperatureC)) *
    (1.02 / Math.tan((degrees + 10.3 / (degrees + 5.11)) * RAD));
  return (minutes / 60) * RAD;
}
