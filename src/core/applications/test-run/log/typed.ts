import type { Dimension, UnitPreferences } from "../../../units/dimension";
import { offsetAt } from "../../../units/clock";
import { parseQuantity } from "../../../units/parse";
import { say } from "../../../messages/say";
import { COLUMN_LIMITS, type Column, type Reading } from "./readings";

/** What was typed: values, note, and the moment that was typed with them, Unix ms; null where it is now. */
export type Typed =
  | { ok: true; values: Reading["values"]; note: string | null; timeMs: number | null }
  | { ok: false; message: string };

/** Where a typed time of day lies: the moment that it is typed at, and the job's time zone. */
export interface TypedAt {
  nowMs: number;
  timeZone: string;
}

/** Ahead of now a time of day may lie by so much, for a clock that is a little fast; further ahead it is yesterday's, ms. */
const AHEAD_MS = 5 * 60_000;
/** Days of the week as they are typed, from Sunday. */
const WEEKDAYS = ["sun", "mon", "tue", "wed", "thu", "fri", "sat"];
const TIME =
  /^\s*(?:(yesterday|today|sun|mon|tue|wed|thu|fri|sat)[a-z]*\s+|(\d{4}-\d{2}-\d{2})[T\s]+)?(\d{1,2}):(\d{2})(?::(\d{2}))?(?=\s|$)/i;

/** A moment before the values of a line: `12:10`, `yesterday 23:40`, `Tue 07:15`, `2026-07-01 21:05`; null where none is there. */
function typedMoment(
  text: string,
  { nowMs, timeZone }: TypedAt,
): { timeMs: number; rest: string } | { fault: string } | null {
  const found = TIME.exec(text);
  if (!found) return null;
  const [whole, day, date, hours, minutes, seconds] = found;
  const [hour, minute, second] = [Number(hours), Number(minutes), Number(seconds ?? 0)];
  if (hour > 23 || minute > 59 || second > 59) return { fault: `“${whole.trim()}” is no time of day` };
  const local = new Date(nowMs + offsetAt(timeZone, nowMs) * 1000);
  const midnight = date
    ? Date.parse(`${date}T00:00:00Z`)
    : Date.UTC(local.getUTCFullYear(), local.getUTCMonth(), local.getUTCDate());
  if (Number.isNaN(midnight)) return { fault: `“${date}” is no date` };
  const weekday = WEEKDAYS.indexOf((day ?? "").slice(0, 3).toLowerCase());
  const back = day?.toLowerCase() === "yesterday" ? 1 : weekday >= 0 ? (local.getUTCDay() - weekday + 7) % 7 : 0;
  const at = (before: number) => {
    const wall = midnight - before * 86_400_000 + ((hour * 60 + minute) * 60 + second) * 1000;
    return wall - offsetAt(timeZone, wall - offsetAt(timeZone, nowMs) * 1000) * 1000;
  };
  let timeMs = at(back);
  if (!day && !date && timeMs > nowMs + AHEAD_MS) timeMs = at(1);
  // A weekday whose hour is still to come is that of the week before.
  if (weekday >= 0 && timeMs > nowMs + AHEAD_MS) timeMs = at(back + 7);
  if (timeMs > nowMs + AHEAD_MS) return { fault: `${whole.trim()} is still to come` };
  return { timeMs, rest: text.slice(whole.length) };
}

/** Order in which plain numbers are taken: amps out, volts, percent. */
const ORDER: Column[] = ["battery_current_a", "battery_voltage_v", "soc_pct"];

const NAMES: Record<Column, string> = {
  battery_current_a: "amps",
  battery_voltage_v: "volts",
  soc_pct: "state of charge",
  solar_power_w: "sun",
  ac_power_w: "AC watts",
  cabin_temp_c: "cabin",
  outdoor_temp_c: "outdoor",
};

/**
 * A reading as it is typed in one line: `41.6 26.1` is amps out and volts; units and words say the rest: `72 %`, `350 W sun`,
 * `900 W mains`, `23.4 in`, `33 out`. Amps are out of the battery; `+5 A` is charging. What stands behind a dash is a note.
 * `fahrenheit`: temperatures without a letter are degF. With `at` a time may stand before them: `12:10 47 13.05`.
 */
export function parseTyped(text: string, fahrenheit = false, at: TypedAt | null = null): Typed {
  const moment = at === null ? null : typedMoment(text, at);
  if (moment && "fault" in moment) return { ok: false, message: moment.fault };
  const [head, ...tail] = (moment?.rest ?? text).split(/(?:^|\s+)[-–—#]\s+/);
  const note = tail.join(" ").trim().slice(0, 500) || null;
  const values: Reading["values"] = {};
  const plain = [...ORDER];
  const tokens =
    /([+-]?\d+(?:[.,]\d+)?)\s*(%|kw|w|a|v|°?c|°?f)?(?![a-z%°])\s*(sun|solar|pv|mains|ac|cabin|in(?:side|doors?)?|out(?:side|doors?)?)?(?![a-z])/gi;
  const rest = (head ?? "").replace(tokens, (_, number: string, unit: string | undefined, word: string | undefined) => {
    const value = Number(number.replace(",", "."));
    const u = (unit ?? "").toLowerCase().replace("°", "");
    const w = (word ?? "").toLowerCase();
    const put = (column: Column, amount: number) => {
      values[column] = amount;
      const at = plain.indexOf(column);
      if (at >= 0) plain.splice(at, 1);
      return " ";
    };
    if (u === "w" || u === "kw") {
      const watts = u === "kw" ? value * 1000 : value;
      return put(/mains|ac/.test(w) ? "ac_power_w" : "solar_power_w", watts);
    }
    if (/^(sun|solar|pv)$/.test(w)) return put("solar_power_w", value);
    if (/^(mains|ac)$/.test(w)) return put("ac_power_w", value);
    if (u === "c" || u === "f" || /^(cabin|in|out)/.test(w)) {
      const degrees = u === "f" || (u === "" && fahrenheit) ? ((value - 32) * 5) / 9 : value;
      return put(
        w.startsWith("out") || (w === "" && values.cabin_temp_c !== undefined) ? "outdoor_temp_c" : "cabin_temp_c",
        degrees,
      );
    }
    if (u === "%") return put("soc_pct", value);
    if (u === "v") return put("battery_voltage_v", value);
    // Out of the battery is what one reads off on a test run: only a plus sign says charging.
    const column = u === "a" ? "battery_current_a" : (plain[0] ?? null);
    if (!column) return ` ${number} `;
    if (column === "battery_current_a")
      return put(column, number.startsWith("+") ? value : value === 0 ? 0 : -Math.abs(value));
    return put(column, value);
  });
  const odd = rest.replace(/[,;]/g, " ").trim();
  if (odd !== "")
    return {
      ok: false,
      message: `“${odd.slice(0, 30)}” is not understood; amps, volts and percent in that order, a note after a dash`,
    };
  for (const [column, value] of Object.entries(values) as [Column, number][]) {
    const [low, high] = COLUMN_LIMITS[column];
    if (!(value >= low && value <= high))
      return { ok: false, message: `${NAMES[column]}: ${value} is not a reading of a system` };
  }
  if (Object.keys(values).length === 0 && !note) return { ok: false, message: "nothing was read" };
  return { ok: true, values, note, timeMs: moment?.timeMs ?? null };
}

/** What each column measures; percent is a bare number. */
const DIMENSION_OF: Record<Column, Dimension> = {
  battery_current_a: "current",
  battery_voltage_v: "voltage",
  soc_pct: "number",
  solar_power_w: "power",
  ac_power_w: "power",
  cabin_temp_c: "temperature",
  outdoor_temp_c: "temperature",
};

/**
 * One value typed into the field of a column, with or without its unit, in the job's notation. Amps are typed as they leave
 * the battery, with a minus where they charge it; the log keeps charging positive.
 */
export function parseField(
  column: Column,
  text: string,
  notation: UnitPreferences,
): { ok: true; value: number } | { ok: false; message: string } {
  const plain = column === "soc_pct" ? text.replace(/%\s*$/, "") : text;
  const parsed = parseQuantity(plain, DIMENSION_OF[column], notation);
  if (!parsed.ok) return parsed;
  const value = column === "battery_current_a" && parsed.value !== 0 ? -parsed.value : parsed.value;
  const [low, high] = COLUMN_LIMITS[column];
  if (value >= low && value <= high) return { ok: true, value };
  return { ok: false, message: say("testRun.readingOutside", { text: text.trim() }) };
}
