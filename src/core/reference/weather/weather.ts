import { humidityAtDewPoint, pressureAt } from "../air/moist";
import { localSecond, type Clock } from "../../units/clock";
import { seeded } from "../../units/random";
import { clearSky, diffuseShare, extraterrestrial } from "../sun/sky";
import { sunTrack, type SunTrack, type Grid } from "../sun/position";
import type { DayWeather } from "./climate";
import type { HourlyWeather } from "./hourly";

/** A place on the globe: degrees, metres. */
export interface Site {
  latitude: number;
  longitude: number;
  altitude: number;
}

/** Weather over a run, one value a step; irradiance in W/m2 on the level. */
export interface Weather {
  stepS: number;
  steps: number;
  pressurePa: number;
  outdoorC: Float64Array;
  /** Kilograms of water to a kilogram of dry air. */
  humidity: Float64Array;
  global: Float64Array;
  diffuse: Float64Array;
  /** Sun above the air facing it. */
  beamTop: Float64Array;
  track: SunTrack;
}

const RAD = Math.PI / 180;
/** Hours after solar noon that the day is hottest: two to three (Parton and Logan 1981, memory). */
const LAG_H = 2.5;
/** How fast the night cools, of the same. */
const NIGHT = 2.2;

/** Sunrise and sunset in hours from solar noon, for the day's shape only; polar days and nights are held at 4 and 20 h. */
function halfDay(latitude: number, dayOfYear: number): number {
  const declination = 23.45 * RAD * Math.sin((2 * Math.PI * (284 + dayOfYear)) / 365);
  const cos = -Math.tan(latitude * RAD) * Math.tan(declination);
  const half = cos >= 1 ? 0 : cos <= -1 ? 12 : Math.acos(cos) / (15 * RAD);
  return Math.min(10, Math.max(2, half));
}

/** Equation of time in hours: Spencer 1971, as Duffie and Beckman give it (memory). */
function equationOfTime(dayOfYear: number): number {
  const b = ((dayOfYear - 1) * 2 * Math.PI) / 365;
  return (
    (229.2 *
      (0.000075 +
        0.001868 * Math.cos(b) -
        0.032077 * Math.sin(b) -
        0.014615 * Math.cos(2 * b) -
        0.04089 * Math.sin(2 * b))) /
    60
  );
}

/** UTC hours after midnight at which a day is hottest at a longitude in degrees. */
export function hottestHourUtc(longitude: number, dayOfYear: number): number {
  return 12 - longitude / 15 - equationOfTime(dayOfYear) + LAG_H;
}

export function dayOfYearOf(ms: number): number {
  const date = new Date(ms);
  return Math.floor((ms - Date.UTC(date.getUTCFullYear(), 0, 1)) / 86_400_000) + 1;
}

/**
 * Temperature by a sine from its minimum at sunrise past its maximum two and a half hours after solar noon to sunset, and
 * an even decay through the night to the next minimum: Parton and Logan 1981 (memory). Days are counted by solar noon.
 */
function temperatures(
  site: Site,
  startMs: number,
  { steps, stepS }: Grid,
  dayOf: (day: number) => DayWeather,
): Float64Array {
  const out = new Float64Array(steps);
  // Hours of UTC at solar noon of the day that holds the start.
  const firstDay = Math.floor((startMs / 3_600_000 + site.longitude / 15) / 24);
  const noonOf = (day: number) => {
    const dayOfYear = dayOfYearOf((firstDay + day) * 86_400_000);
    return {
      noonH: (firstDay + day) * 24 + 12 - site.longitude / 15 - equationOfTime(dayOfYear),
      half: halfDay(site.latitude, dayOfYear),
    };
  };
  let index = -2;
  let here = noonOf(index);
  let next = noonOf(index + 1);
  for (let i = 0; i < steps; i++) {
    const hour = (startMs + i * stepS * 1000) / 3_600_000;
    while (hour >= next.noonH - next.half) {
      index++;
      here = next;
      next = noonOf(index + 1);
    }
    const today = dayOf(index);
    const tomorrow = dayOf(index + 1);
    const length = 2 * here.half;
    const since = hour - (here.noonH - here.half);
    const swing = today.maxC - today.minC;
    const sine = (h: number) => today.minC + swing * Math.sin((Math.PI * h) / (length + 2 * LAG_H));
    if (since <= length) out[i] = sine(since);
    else {
      const night = next.noonH - next.half - (here.noonH + here.half);
      const dusk = sine(length);
      const left = Math.exp(-NIGHT);
      out[i] =
        (tomorrow.minC - dusk * left + (dusk - tomorrow.minC) * Math.exp((-NIGHT * (since - length)) / night)) /
        (1 - left);
    }
  }
  return out;
}

/**
 * Weather of a run from daily values: one day's for each solar day of the run and one on either side (`days[0]` is the
 * day before). Clearness becomes a factor on the clear sky that gives the day its sun; with `seed` clouds come and go by
 * the hour, more on half-clear days.
 */
export function weatherOfDays(
  site: Site,
  clock: Clock,
  { steps, stepS }: Grid,
  { days, seed }: { days: DayWeather[]; seed?: number },
): Weather {
  const { startMs } = clock;
  const dayOf = (day: number) => days[Math.min(days.length - 1, Math.max(0, day + 1))]!;
  const track = sunTrack(startMs, { steps, stepS }, site);
  const pressurePa = pressureAt(site.altitude);
  const weather: Weather = {
    stepS,
    steps,
    pressurePa,
    outdoorC: temperatures(site, startMs, { steps, stepS }, dayOf),
    humidity: new Float64Array(steps),
    global: new Float64Array(steps),
    diffuse: new Float64Array(steps),
    beamTop: new Float64Array(steps),
    track,
  };
  const firstDay = Math.floor((startMs / 3_600_000 + site.longitude / 15) / 24);
  const dayAt = (i: number) =>
    Math.floor(((startMs + i * stepS * 1000) / 3_600_000 + site.longitude / 15) / 24) - firstDay;
  const random = seed === undefined ? null : seeded(seed + 7919);
  const perHour = Math.max(1, Math.round(3600 / stepS));
  let cloud = 0;
  let cloudBefore = 0;
  for (let from = 0; from < steps;) {
    const day = dayAt(from);
    let to = from;
    while (to < steps && dayAt(to) === day) to += Math.min(perHour, 4);
    to = Math.min(to, steps);
    const { clearness, dewPointC } = dayOf(day);
    const top = extraterrestrial(dayOfYearOf((firstDay + day) * 86_400_000));
    // A part of a day has the factor of its own sun: summed over what the run holds of it, every fifth minute.
    let above = 0;
    let clear = 0;
    for (let i = from; i < to; i += 5) {
      const sin = track.sinAltitude[i]!;
      if (sin > 0) above += top * sin;
      clear += clearSky(sin);
    }
    const factor = clear > 0 ? (clearness * above) / clear : 0;
    const humidity = humidityAtDewPoint(dewPointC, pressurePa);
    // Clouds matter most on half-clear days: none on a clear one, one even grey on a dull one.
    const restless = random ? 0.55 * Math.max(0, factor * (1.1 - factor)) * 2 : 0;
    for (let i = from; i < to; i++) {
      weather.humidity[i] = humidity;
      weather.beamTop[i] = top;
      if (random && i % perHour === 0) {
        cloudBefore = cloud;
        cloud = 0.6 * cloud + 0.8 * random.normal();
      }
      const sin = track.sinAltitude[i]!;
      if (sin <= 0) continue;
      const now = cloudBefore + ((cloud - cloudBefore) * (i % perHour)) / perHour;
      const global = clearSky(sin) * Math.min(1.08, Math.max(0.08, factor + restless * now));
      weather.global[i] = global;
      weather.diffuse[i] = global * diffuseShare(Math.min(1, global / (top * sin)));
    }
    from = to;
  }
  return weather;
}

/** Weather of a run from hourly values, repeated where the run is longer than the file. */
export function weatherOfHours(site: Site, clock: Clock, { steps, stepS }: Grid, file: HourlyWeather): Weather {
  const { startMs } = clock;
  const track = sunTrack(startMs, { steps, stepS }, site);
  const pressurePa = pressureAt(site.altitude);
  const made = () => new Float64Array(steps);
  const weather: Weather = {
    stepS,
    steps,
    pressurePa,
    outdoorC: made(),
    humidity: made(),
    global: made(),
    diffuse: made(),
    beamTop: made(),
    track,
  };
  const count = file.hours.length;
  const row = (hour: number) => file.hours[((hour % count) + count) % count]!;
  // The file begins at a midnight of its own zone, on the local date that the run begins on.
  const midnight = Math.floor(localSecond(clock, 0) / 86_400) * 86_400 - file.offsetHours * 3600;
  const humidities = file.hours.map(([, dewPointC]) => humidityAtDewPoint(dewPointC, pressurePa));
  const humidityOf = (hour: number) => humidities[((hour % count) + count) % count]!;
  // Each hour's sun goes by the shape of the clear sky within the hour.
  const clearOf = new Map<number, number>();
  const hourAt = (i: number) => Math.floor((startMs / 1000 + i * stepS - midnight) / 3600);
  for (let i = 0; i < steps; i++) {
    const clear = clearSky(track.sinAltitude[i]!);
    clearOf.set(hourAt(i), (clearOf.get(hourAt(i)) ?? 0) + (clear * stepS) / 3600);
  }
  for (let i = 0; i < steps; i++) {
    const seconds = startMs / 1000 + i * stepS - midnight;
    const hour = Math.floor(seconds / 3600);
    // An hour's value is its mean: it stands in the middle of the hour.
    const middle = seconds / 3600 - 0.5;
    const before = Math.floor(middle);
    const share = middle - before;
    weather.outdoorC[i] = row(before)[0] + (row(before + 1)[0] - row(before)[0]) * share;
    weather.humidity[i] = humidityOf(before) + (humidityOf(before + 1) - humidityOf(before)) * share;
    const top = extraterrestrial(dayOfYearOf(startMs + i * stepS * 1000));
    weather.beamTop[i] = top;
    const sin = track.sinAltitude[i]!;
    if (sin <= 0) continue;
    const [, , global, diffuse] = row(hour);
    const mean = clearOf.get(hour)!;
    const now = mean > 5 ? Math.min(1.2 * clearSky(sin), (global * clearSky(sin)) / mean) : 0;
    weather.global[i] = now;
    weather.diffuse[i] =
      diffuse !== null && global > 0
        ? now * Math.min(1, diffuse / global)
        : now * diffuseShare(Math.min(1, now / (top * sin)));
  }
  return weather;
}
