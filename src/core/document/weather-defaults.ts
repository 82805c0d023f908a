import { extraterrestrialOverDay } from "../reference/sun/sky";
import {
  CLEAREST,
  DULLEST,
  generatedDays,
  readyDay,
  type Climate,
  type DayWeather,
  type ReadyDay,
} from "../reference/weather/climate";
import { dewPointFrom, relativeHumidityFrom } from "../reference/weather/hourly";
import { dayOfYearOf } from "../reference/weather/weather";
import type { PlaceKey, WeatherKey } from "./day-fields";
import type { Job } from "./schema";
import { placeOfJob, startDateOfJob } from "./place";
import type { ResolvedQuantity, DefaultValue } from "../units/known";
import type { Need } from "./defaults";

/** Days that a run may go through from simulated weather: a fortnight, one on either side, and a use that begins late. */
export const SIMULATED_DAYS = 18;
/** Outdoor temperature of the rating point, which stands for a design day until there is a place (ISO 5151, T1). */
const RATING_C = 35;
/** Usual fall from afternoon to sunrise inland, K (common practice, no source). */
const USUAL_SWING = 13;

/** Clearness of a clear day: sun on the level over that above the air (common practice, no source). */
const CLEAR = 0.72;

const is = (value: number, why: string): DefaultValue => ({ value, why });
const READY_WORDS: Record<ReadyDay, string> = { mild: "mild day", usual: "typical day", hot: "hot day" };

/** Whether the job has a design day that somebody chose: a place, or a day of its own with a temperature. */
export function conditionsKnown(job: Job): boolean {
  return placeOfJob(job).known || (job.weather.kind === "own" && job.weather.highestC !== undefined);
}

/** Whether the sun of the design day is known too: from the place, or entered for a day of its own. */
export function sunKnown(job: Job): boolean {
  return placeOfJob(job).known || (conditionsKnown(job) && job.weather.sunHours !== undefined);
}

/** The month's climate from the values of a place. */
export function climateFrom(place: Record<PlaceKey, ResolvedQuantity>): Climate {
  const v = (key: PlaceKey) => place[key].value;
  return {
    maxC: Math.max(v("maxC"), v("minC") + 0.5),
    minC: v("minC"),
    dewPointC: v("dewPointC"),
    clearness: v("clearness"),
    spread: v("spread"),
    wind: v("wind"),
    seaC: v("seaC"),
  };
}

/** Day of the year, 1 to 366, that runs begin on. */
const firstDayOfYear = (job: Job, latitude: number) =>
  dayOfYearOf(Date.parse(`${startDateOfJob(job, latitude)}T00:00:00Z`));

/** Peak sun hours, s, of a clearness at a place on the job's day: an hour is 1 kWh/m2. */
const sunHoursOf = (clearness: number, latitude: number, dayOfYear: number) =>
  (clearness * extraterrestrialOverDay(latitude, dayOfYear)) / 1000;

/** The design day's four quantities as they follow from its kind where nobody entered them. */
export function weatherDefaults(
  job: Job,
  place: Record<PlaceKey, ResolvedQuantity>,
): { [K in WeatherKey]: (need: Need<WeatherKey>) => DefaultValue } {
  const { kind, file, seed } = job.weather;
  const climate = climateFrom(place);
  const latitude = place.latitude.value;
  const dayOfYear = firstDayOfYear(job, latitude);
  const { known } = placeOfJob(job);
  const sun = (clearness: number) => sunHoursOf(clearness, latitude, dayOfYear);
  const humidity = (need: Need<WeatherKey>, dewPointC: number) =>
    Math.max(0.02, relativeHumidityFrom(need("highestC"), Math.min(dewPointC, need("lowestC") + 1)));
  const many = (list: { high: number; low: number; dewPointC: number; sunHours: number }[], why: string) => {
    const most = list.reduce((best, one) => (one.high > best.high ? one : best));
    return {
      highestC: () => is(most.high, `the highest of ${why}`),
      lowestC: () => is(Math.min(...list.map(({ low }) => low)), `the lowest of ${why}`),
      humidity: (need: Need<WeatherKey>) => is(humidity(need, most.dewPointC), `the hottest of ${why}`),
      sunHours: () => is(list.reduce((sum, one) => sum + one.sunHours, 0) / list.length, `the mean of ${why}`),
    };
  };
  if (kind === "file" && file) {
    const days = Array.from({ length: Math.floor(file.hours.length / 24) }, (_, d) => {
      const hours = file.hours.slice(24 * d, 24 * d + 24);
      const hottest = hours.reduce((best, hour) => (hour[0] > best[0] ? hour : best));
      return {
        high: hottest[0],
        low: Math.min(...hours.map(([degC]) => degC)),
        dewPointC: hottest[1],
        sunHours: (hours.reduce((sum, hour) => sum + hour[2], 0) * 3600) / 1000,
      };
    });
    return many(days, "the weather file");
  }
  if (kind === "generated" || kind === "file")
    return many(
      generatedDays(climate, SIMULATED_DAYS, seed).map((day) => ({
        high: day.maxC,
        low: day.minC,
        dewPointC: day.dewPointC,
        sunHours: sun(day.clearness),
      })),
      "the simulated days",
    );
  const ready = kind === "own" ? "hot" : kind;
  const day = readyDay(climate, ready);
  const why = known ? `${READY_WORDS[ready]} of the month` : "typical, until a place is chosen";
  const swing = known ? day.maxC - day.minC : USUAL_SWING;
  return {
    highestC: () => (known ? is(day.maxC, why) : is(RATING_C, `rating point, ${why}`)),
    lowestC: (need) => is(need("highestC") - swing, why),
    humidity: (need) => is(humidity(need, day.dewPointC), why),
    sunHours: (need) =>
      // A day of one's own as hot as the month's highs is a clear one.
      kind === "own" && job.weather.highestC !== undefined && known && need("highestC") >= climate.maxC
        ? is(sun(Math.max(CLEAR, day.clearness)), "a clear day of the month, as hot days are")
        : is(sun(day.clearness), why),
  };
}

/** The design day as the run takes it, from its four quantities. */
export function designDay(
  weather: Record<WeatherKey, ResolvedQuantity>,
  latitude: number,
  dayOfYear: number,
): DayWeather {
  const maxC = weather.highestC.value;
  const minC = Math.min(weather.lowestC.value, maxC - 0.5);
  const whole = sunHoursOf(1, latitude, dayOfYear);
  return {
    maxC,
    minC,
    dewPointC: Math.min(dewPointFrom(maxC, weather.humidity.value), minC + 1),
    clearness: whole > 0 ? Math.min(CLEAREST, Math.max(DULLEST, weather.sunHours.value / whole)) : DULLEST,
  };
}

/** The design day of a job whose values are settled. */
export const designDayOf = (
  job: Job,
  values: { weather: Record<WeatherKey, ResolvedQuantity>; place: Record<PlaceKey, ResolvedQuantity> },
): DayWeather =>
  designDay(values.weather, values.place.latitude.value, firstDayOfYear(job, values.place.latitude.value));
