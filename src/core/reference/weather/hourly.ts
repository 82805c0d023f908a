import Papa from "papaparse";
/** Hourly weather: temperature degC, dew point degC, sun on the level W/m2, its diffuse part or null, wind m/s. */
export type WeatherHour = [
  temperatureC: number,
  dewPointC: number,
  global: number,
  diffuse: number | null,
  wind: number,
];

export interface HourlyWeather {
  name: string;
  /** Hours that the file's clock is ahead of UTC, without summer time. */
  offsetHours: number;
  /** Whole days from a midnight of the file's clock; each hour's values are means over it. */
  hours: WeatherHour[];
}

/** A weather file as read: where, when, and all of its hours. */
export interface WeatherFile {
  name: string;
  latitude: number | null;
  longitude: number | null;
  altitude: number | null;
  offsetHours: number | null;
  rows: { month: number; day: number; hour: number; values: WeatherHour }[];
  /** What was left out or mended, in words. */
  remarks: string[];
}

export type ReadWeather = { ok: true; file: WeatherFile } | { ok: false; message: string };

const LIMITS = { temperature: [-90, 70], dew: [-95, 45], sun: [0, 1600], wind: [0, 90] } as const;
const within = (value: number, [low, high]: readonly [number, number]) => value >= low && value <= high;

/** Reads an hourly weather file by its first line: EPW (EnergyPlus weather format), or a plain CSV with a heading. */
export function readWeather(text: string, name: string): ReadWeather {
  return /^\uFEFF?LOCATION,/i.test(text) ? readEpw(text, name) : readPlain(text, name);
}

/** The cells of a table, blank lines passed over. */
function rowsOf(text: string, delimiter: string): string[][] {
  const { data } = Papa.parse<string[]>(text.replace(/^\uFEFF/, ""), { delimiter, skipEmptyLines: "greedy" });
  return data.map((cells) => cells.map((cell) => cell.trim()));
}

/**
 * EPW: eight heading lines, then an hour a line; columns by number as the EnergyPlus documentation has them: 2 month,
 * 3 day, 4 hour (1 to 24, ending), 7 dry bulb, 8 dew point, 14 global, 16 diffuse, 22 wind (memory).
 */
function readEpw(text: string, name: string): ReadWeather {
  const lines = rowsOf(text, ",");
  const [, city, , country, , , latitude, longitude, zone, altitude] = lines[0]!;
  const rows: WeatherFile["rows"] = [];
  let dropped = 0;
  for (const cells of lines.slice(8)) {
    const at = (column: number) => Number(cells[column - 1]);
    const values: WeatherHour = [at(7), at(8), at(14), at(16), at(22)];
    const sound =
      cells.length >= 22 &&
      within(values[0], LIMITS.temperature) &&
      within(values[1], LIMITS.dew) &&
      within(values[2], LIMITS.sun);
    if (!sound) {
      dropped++;
      continue;
    }
    if (values[3] === null || !within(values[3], LIMITS.sun)) values[3] = null;
    if (!within(values[4], LIMITS.wind)) values[4] = 2;
    rows.push({ month: at(2), day: at(3), hour: at(4) - 1, values });
  }
  if (rows.length < 24) return { ok: false, message: "no day's worth of readable hours after its eight heading lines" };
  const number = (cell: string | undefined) => (cell?.trim() && Number.isFinite(Number(cell)) ? Number(cell) : null);
  return {
    ok: true,
    file: {
      name: [city, country].filter(Boolean).join(", ") || name,
      latitude: number(latitude),
      longitude: number(longitude),
      altitude: number(altitude),
      offsetHours: number(zone),
      rows,
      remarks: dropped > 0 ? [`${dropped} hours without usable values left out`] : [],
    },
  };
}

const HEADINGS = {
  time: /^(time|date|timestamp|local time)/i,
  temperature: /^(temp|t_?out|dry ?bulb|outdoor)/i,
  dew: /^dew/i,
  humidity: /^(rh|relative|humidity)/i,
  global: /^(ghi|global|sun|solar|irradiance)/i,
  diffuse: /^(dhi|diffuse)/i,
  wind: /^wind/i,
};

/** A CSV with a heading: time (YYYY-MM-DD HH:MM), temperature, dew point or relative humidity, global, diffuse, wind. */
function readPlain(text: string, name: string): ReadWeather {
  const heading = text.trimStart().split("\n", 1)[0]!;
  const [names = [], ...lines] = rowsOf(text, heading.includes(";") ? ";" : heading.includes("\t") ? "\t" : ",");
  const column = (key: keyof typeof HEADINGS) => names.findIndex((cell) => HEADINGS[key].test(cell));
  const [time, temperature, dew, humidity, global, diffuse, wind] = (
    ["time", "temperature", "dew", "humidity", "global", "diffuse", "wind"] as const
  ).map(column) as [number, number, number, number, number, number, number];
  if (time < 0 || temperature < 0 || global < 0)
    return {
      ok: false,
      message:
        "the first line must name columns for time, temperature and global sun (ghi); dew point, rh, dhi and wind may follow",
    };
  const rows: WeatherFile["rows"] = [];
  let dropped = 0;
  for (const cells of lines) {
    const number = (at: number) =>
      at < 0 || cells[at] === undefined || cells[at] === "" ? NaN : Number(cells[at]!.replace(",", "."));
    const stamp = /^(\d{4})-(\d{2})-(\d{2})[T ](\d{2}):(\d{2})/.exec(cells[time] ?? "");
    const degrees = number(temperature);
    const sun = number(global);
    if (!stamp || !within(degrees, LIMITS.temperature) || !within(sun, LIMITS.sun) || Number(stamp[5]) !== 0) {
      dropped++;
      continue;
    }
    const rh = number(humidity);
    const dewPoint = number(dew);
    rows.push({
      month: Number(stamp[2]),
      day: Number(stamp[3]),
      hour: Number(stamp[4]),
      values: [
        degrees,
        within(dewPoint, LIMITS.dew) ? dewPoint : within(rh, [1, 100]) ? dewPointFrom(degrees, rh / 100) : degrees - 8,
        sun,
        within(number(diffuse), LIMITS.sun) ? number(diffuse) : null,
        within(number(wind), LIMITS.wind) ? number(wind) : 2,
      ],
    });
  }
  if (rows.length < 24) return { ok: false, message: "no day's worth of readable hours (times as YYYY-MM-DD HH:00)" };
  return {
    ok: true,
    file: {
      name,
      latitude: null,
      longitude: null,
      altitude: null,
      offsetHours: null,
      rows,
      remarks: dropped > 0 ? [`${dropped} lines without a whole hour and usable values left out`] : [],
    },
  };
}

/** Dew point, degC, from temperature in degC and relative humidity, 0 to 1: Magnus, 17.62 and 243.12 (WMO guide). */
export function dewPointFrom(temperatureC: number, relative: number): number {
  const x = Math.log(relative) + (17.62 * temperatureC) / (243.12 + temperatureC);
  return (243.12 * x) / (17.62 - x);
}

/** Relative humidity, 0 to 1, from temperature and dew point in degC: the same relation turned round. */
export function relativeHumidityFrom(temperatureC: number, dewPointC: number): number {
  const exponent = (degC: number) => (17.62 * degC) / (243.12 + degC);
  return Math.min(1, Math.exp(exponent(dewPointC) - exponent(temperatureC)));
}

/**
 * The days of a file that a job keeps: `days` whole days from the date nearest to month and day, going on at the start
 * of the year where the file ends; hours that are missing take the hour's value of the day before.
 */
export function cutWeather(file: WeatherFile, month: number, day: number, days: number): HourlyWeather {
  const ordinal = (m: number, d: number) => m * 31 + d;
  const dates = [...new Set(file.rows.map((row) => ordinal(row.month, row.day)))];
  const wanted = ordinal(month, day);
  const gap = (at: number) => Math.min(Math.abs(at - wanted), 403 - Math.abs(at - wanted));
  const first = dates.reduce((best, at) => (gap(at) < gap(best) ? at : best));
  const from = dates.indexOf(first);
  const byHour = new Map(file.rows.map((row) => [ordinal(row.month, row.day) * 24 + row.hour, row.values]));
  const hours: WeatherHour[] = [];
  const length = Math.min(days, dates.length);
  for (let i = 0; i < length; i++) {
    const date = dates[(from + i) % dates.length]!;
    for (let hour = 0; hour < 24; hour++) {
      const values = byHour.get(date * 24 + hour) ?? hours[hours.length - 24] ?? hours[hours.length - 1];
      hours.push(values ? [...values] : [...file.rows[0]!.values]);
    }
  }
  const round = (value: number) => Math.round(value * 10) / 10;
  return {
    name: file.name.slice(0, 120),
    offsetHours: file.offsetHours ?? 0,
    hours: hours.map(([t, dew, global, diffuse, wind]) => [
      round(t),
      round(dew),
      Math.round(global),
      diffuse === null ? null : Math.round(diffuse),
      round(wind),
    ]),
  };
}
