/** Local civil time of a place over a run, with its summer time. */
export interface Clock {
  timeZone: string;
  /** Unix time of the run's start, ms. */
  startMs: number;
  /** Seconds to add to UTC, by whole hour of the run. */
  offsets: Int32Array;
}

const formats = new Map<string, Intl.DateTimeFormat>();
function formatOf(timeZone: string): Intl.DateTimeFormat {
  let format = formats.get(timeZone);
  if (!format) {
    format = new Intl.DateTimeFormat("en-US", {
      timeZone,
      hourCycle: "h23",
      year: "numeric",
      month: "numeric",
      day: "numeric",
      hour: "numeric",
      minute: "numeric",
      second: "numeric",
    });
    formats.set(timeZone, format);
  }
  return format;
}

/** Whether the name is a time zone that this machine knows, such as Europe/Lisbon. */
export function isTimeZone(name: string): boolean {
  try {
    formatOf(name);
    return true;
  } catch {
    return false;
  }
}

/** Offsets looked up lately: one date is asked again and again while values are varied, and asking the machine is slow. */
const lately = new Map<string, number>();
const KEPT = 500;

/** Seconds that local time is ahead of UTC at a moment. */
export function offsetAt(timeZone: string, ms: number): number {
  const key = `${timeZone} ${ms}`;
  let seconds = lately.get(key);
  if (seconds === undefined) {
    seconds = lookUpOffset(timeZone, ms);
    if (lately.size >= KEPT) lately.clear();
    lately.set(key, seconds);
  }
  return seconds;
}

function lookUpOffset(timeZone: string, ms: number): number {
  const at: Record<string, number> = {};
  for (const { type, value } of formatOf(timeZone).formatToParts(ms)) at[type] = Number(value);
  const local = Date.UTC(at.year!, at.month! - 1, at.day!, at.hour, at.minute, at.second);
  return Math.round((local - Math.floor(ms / 1000) * 1000) / 1000);
}

/** Unix time, ms, of a local wall-clock time; where the clock skips it, the moment after the gap. */
// oxlint-disable-next-line max-params -- the parts of a date, in their order
export function momentOf(timeZone: string, year: number, month: number, day: number, minuteOfDay: number): number {
  const wall = Date.UTC(year, month - 1, day) + minuteOfDay * 60_000;
  let ms = wall - offsetAt(timeZone, wall) * 1000;
  ms = wall - offsetAt(timeZone, ms) * 1000;
  return ms;
}

/** The clock of a run of `seconds` from a local moment of a date `YYYY-MM-DD`. */
export function clockFrom(timeZone: string, date: string, minuteOfDay: number, seconds: number): Clock {
  const [year, month, day] = date.split("-").map(Number) as [number, number, number];
  const startMs = momentOf(timeZone, year, month, day, minuteOfDay);
  const hours = Math.ceil(seconds / 3600) + 1;
  const offsets = new Int32Array(hours);
  // Zones change on the hour or not at all: asked every sixth hour, and by the hour only where something changed.
  let last = offsetAt(timeZone, startMs);
  for (let from = 0; from < hours; from += 6) {
    const to = Math.min(hours, from + 6);
    const end = offsetAt(timeZone, startMs + (to - 1) * 3_600_000);
    for (let i = from; i < to; i++)
      offsets[i] = end === last ? last : offsetAt(timeZone, startMs + i * 3_600_000 + 1_800_000);
    last = end;
  }
  return { timeZone, startMs, offsets };
}

/** Local seconds since the midnight that began 1970, at `second` of the run: days and minutes are read off it. */
export function localSecond({ startMs, offsets }: Clock, second: number): number {
  return startMs / 1000 + second + offsets[Math.min(offsets.length - 1, Math.floor(second / 3600))]!;
}

/** Local time as ISO 8601 with its offset, to the minute: 2026-07-13T22:05+01:00. */
export function isoOf(clock: Clock, second: number): string {
  const local = new Date(localSecond(clock, second) * 1000).toISOString().slice(0, 16);
  const offset = clock.offsets[Math.min(clock.offsets.length - 1, Math.floor(second / 3600))]!;
  const minutes = Math.round(Math.abs(offset) / 60);
  const two = (n: number) => String(n).padStart(2, "0");
  return `${local}${offset < 0 ? "-" : "+"}${two(Math.floor(minutes / 60))}:${two(minutes % 60)}`;
}

/** Hours and minutes of the local day: 22:05. */
export function timeOfDay(clock: Clock, second: number): string {
  return new Date(localSecond(clock, second) * 1000).toISOString().slice(11, 16);
}
