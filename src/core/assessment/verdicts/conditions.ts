import { momentOf, offsetAt } from "../../units/clock";
import { timeWords } from "../../document/schedule";
import { formatQuantity } from "../../units/format";
import type { Job } from "../../document/schema";
import { conditionsKnown, sunKnown } from "../../document/weather-defaults";
import { dayOfYearOf, hottestHourUtc } from "../../reference/weather/weather";
import { say } from "../../messages/say";
import type { JobValues } from "../../document/resolved";

const MONTH = new Intl.DateTimeFormat("en", { month: "long", timeZone: "UTC" });

/** The conditions that every figure of a job stands on. */
export interface Conditions {
  /** Whether the weather may be judged by: a place was chosen, or a design temperature entered. */
  known: boolean;
  /** Whether Recovers may be judged: it stands on the sun as well. */
  sun: boolean;
  place: string;
  month: number;
  kind: Job["weather"]["kind"];
  highC: number;
  lowC: number;
  /** Local minutes of the day at which it is hottest. */
  highAt: number;
  /** All of it in one sentence, in the job's units. */
  line: string;
}

/** Place, month and design day of a job, and the line that says them under the head band. */
export function conditionsOf(job: Job, values: JobValues): Conditions {
  const { kind } = job.weather;
  const { name: place, month, startDate, timeZone: zone } = values.site;
  const [year, m, d] = startDate.split("-").map(Number) as [number, number, number];
  const dayOfYear = dayOfYearOf(Date.UTC(year, m - 1, d));
  const offsetH = offsetAt(zone, momentOf(zone, year, m, d, 720)) / 3600;
  const hottest = hottestHourUtc(values.place.longitude.value, dayOfYear) + offsetH;
  const highAt = Math.round(((((hottest % 24) + 24) % 24) * 60) / 30) * 30;
  const known = conditionsKnown(job);
  const highC = values.weather.highestC.value;
  const lowC = values.weather.lowestC.value;
  // Whole degrees of the job's scale.
  const whole = job.notation.temperature === "C" ? Math.round : (value: number) => value;
  const degrees = (value: number) => formatQuantity(whole(value), "temperature", job.notation, 2);
  const spoken = {
    place,
    month: MONTH.format(Date.UTC(year, month - 1, 15)),
    kind,
    high: degrees(highC),
    low: degrees(lowC),
    highAt: timeWords(highAt),
    spread: kind === "generated" || kind === "file" ? "many" : "one",
  };
  const line = say(place ? "conditions.place" : known ? "conditions.own" : "conditions.none", spoken);
  return { known, sun: sunKnown(job), place, month, kind, highC, lowC, highAt, line };
}
