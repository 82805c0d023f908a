/// <reference lib="webworker" />
import { expose, transfer } from "comlink";
import type { PairKey } from "@/core/assessment/run-time-map/axes";
import { comparePair, runTimeMap } from "@/core/assessment/run-time-map/run-time-map";
import { recordOf, type DayRecord } from "@/core/simulation/day/record";
import { cutWeather, readWeather, type HourlyWeather } from "@/core/reference/weather/hourly";
import type { Job } from "@/core/document/schema";
import { assessDay, type DayAssessment } from "@/core/assessment/verdicts/day";

export type DayAnswer = Omit<DayAssessment, "simulated"> & { record: DayRecord };

export type WeatherImport =
  | { ok: false; message: string }
  | {
      ok: true;
      file: HourlyWeather;
      latitude: number | null;
      longitude: number | null;
      altitude: number | null;
      remarks: string[];
    };

const buffers = (record: object) =>
  Object.values(record).flatMap((value: unknown) => (value instanceof Float32Array ? [value.buffer] : []));

/** The coupled run, beside the page: verdicts with the fortnight's record, pairs to compare, the run-time map. */
const worker = {
  assess(job: Job): DayAnswer {
    const { simulated, ...rest } = assessDay(job);
    const record = recordOf(simulated);
    return transfer({ ...rest, record }, buffers(record));
  },
  /** Reads a weather file and cuts a fortnight and a few days more from a date on. */
  weather(text: string, name: string, month: number, day: number): WeatherImport {
    const read = readWeather(text, name);
    if (!read.ok) return read;
    const { latitude, longitude, altitude, remarks } = read.file;
    // The run looks a day back, and "lasts" may begin in the plan's second week.
    return { ok: true, file: cutWeather(read.file, month, day, 16), latitude, longitude, altitude, remarks };
  },
  pair: (job: Job, key: PairKey) => comparePair(job, key),
  map: (job: Job, onProgress: (share: number) => boolean | Promise<boolean>) => runTimeMap(job, onProgress),
};

export type DayWorker = typeof worker;
expose(worker);
