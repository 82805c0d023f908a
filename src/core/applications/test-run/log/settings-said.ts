import { offsetAt } from "../../../units/clock";
import type { Readings } from "./readings";

/*
 * How somebody set the air conditioner during a run, read from the notes of its log: set point, fan and mode. A note says a
 * setting in one of its parts, or none; one that speaks of a setting and is not understood is listed, and never guessed.
 */

/** How a unit is set, as notes and buttons say it; `on` is cooling again as it was set before. */
export const SAID_MODES = ["off", "fan", "low", "medium", "auto", "on"] as const;
export type SaidMode = (typeof SAID_MODES)[number];

/** What somebody set at a moment: degC and mode, null where that was left as it was. */
export interface RunSetting {
  timeMs: number;
  setC: number | null;
  mode: SaidMode | null;
  /** The words that said it. */
  text: string;
}

export interface SettingsSaid {
  settings: RunSetting[];
  /** Notes that speak of a setting and are not understood. */
  unclear: { timeMs: number; text: string }[];
  /** Notes that somebody left out. */
  leftOut: { timeMs: number; text: string }[];
}

/** Set points that cabins have, degC; and from where on a bare number can only be degF. */
const SET_C = [14, 33] as const;
const ONLY_F = 57;

const NUMBER = String.raw`(\d{2,3}(?:[.,]\d)?)\s*°?\s*(c|f|degrees?|deg)?`;
const THING = String.raw`(?:the\s+)?(?:a\/?c|air\s?con(?:ditioner)?|unit|it|thermostat|set\s?point|setting|temp(?:erature)?|fan(?:\s+speed)?|mode)`;
/** Verbs after which a number is a set point, and names of it. */
const SETS = new RegExp(
  String.raw`^(?:(?:re)?set|turn(?:ed)?|put|chang(?:e|ed)|dial(?:l?ed)?|lower(?:ed)?|rais(?:e|ed)|drop(?:ped)?|bump(?:ed)?)(?:\s+${THING})?(?:\s+(?:up|down|back))?(?:\s+(?:to|at|by hand to))?\s*[=:]?\s*${NUMBER}$`,
);
const NAMED = new RegExp(
  String.raw`^(?:the\s+)?(?:thermostat|set\s?point|setting|target)(?:\s+(?:temp(?:erature)?|now|to|at|on|is))*\s*[=:]?\s*${NUMBER}$`,
);
const MODES: [RegExp, SaidMode][] = [
  [/^(?:only|just) (?:the )?fan$|^fan(?:s)? only$|^vent(?:ilation)? only$|^fan mode$/, "fan"],
  [
    /^(?:lowest|low|quiet|silent) fan(?: speed)?$|^fan(?: speed)?(?: (?:on|to|at|now))? (?:lowest|low|quiet|silent)$/,
    "low",
  ],
  [
    /^(?:medium|med|mid|middle) fan(?: speed)?$|^fan(?: speed)?(?: (?:on|to|at|now))? (?:medium|med|mid|middle)$/,
    "medium",
  ],
  [
    /^(?:high|full|max|maximum|highest|auto|automatic) fan(?: speed)?$|^fan(?: speed)?(?: (?:on|to|at|now))? (?:high|full|max|maximum|highest|auto|automatic)$|^auto(?:matic)?(?: mode)?$/,
    "auto",
  ],
  [/^(?:switched|turned|shut|powered) (?:it )?(?:off|down)$|^off(?: again| now)?$/, "off"],
  [
    /^(?:switched|turned|powered) (?:it )?(?:back )?on(?: again)?$|^(?:back )?on(?: again| now)?$|^cool(?:ing)?(?: mode)?$/,
    "on",
  ],
];
/** What is before a setting and says nothing of its own. */
const LEAD = /^(?:mode\s*[:=]\s*|(?:the )?(?:a\/?c|air ?con(?:ditioner)?|unit|cooling) (?:is |was |now )?)/;
/** Words that speak of a setting. */
const SPEAKS = /\b(?:set ?point|thermostat|set (?:to|at)|mode|fan)\b|^set\b/;
/** Fans that are not the air conditioner's. */
const OTHER_FAN = /\b(?:roof|vent|extractor|ceiling|table|computer|inverter|fridge) fan\b/;

/** What one note sets, and whether it speaks of a setting that is not understood. */
export function settingOf(note: string): { setC: number | null; mode: SaidMode | null; unclear: boolean } {
  let setC: number | null = null;
  let mode: SaidMode | null = null;
  let unclear = false;
  const parts = note
    .toLowerCase()
    .split(/[;,·]|\.(?!\d)|\s+[-–—]\s+|\band\b|\bthen\b/)
    .map((part) => part.trim().replace(/\s+/g, " ").replace(/[!]+$/, ""));
  for (const whole of parts) {
    if (whole === "") continue;
    const bare = whole.replace(LEAD, "");
    const number = SETS.exec(bare) ?? SETS.exec(whole) ?? NAMED.exec(bare) ?? NAMED.exec(whole);
    if (number) {
      const celsius = celsiusOf(Number(number[1]!.replace(",", ".")), number[2]);
      if (celsius === null) unclear = true;
      else setC = celsius;
      continue;
    }
    const word = bare.replace(
      /^(?:set|turned|put|switched|changed)(?: it)?(?: to| on)? (?=fan|low|med|mid|high|auto|quiet|max|full|only)/,
      "",
    );
    const found = MODES.find(([pattern]) => pattern.test(bare) || pattern.test(word));
    if (found) mode = found[1];
    else if (SPEAKS.test(whole) && !OTHER_FAN.test(whole)) unclear = true;
  }
  return { setC, mode, unclear };
}

/** A set point as it was written, in degC; null where no cabin is set so. */
function celsiusOf(value: number, unit: string | undefined): number | null {
  const fahrenheit = unit === "f" || (unit !== "c" && value >= ONLY_F);
  const celsius = fahrenheit ? ((value - 32) * 5) / 9 : value;
  return celsius >= SET_C[0] && celsius <= SET_C[1] ? Math.round(celsius * 100) / 100 : null;
}

/** The settings that the notes of a log say, in order of time. Those at moments of `leftOut` are not taken. */
export function settingsSaid(
  { timeMs, notes }: Pick<Readings, "timeMs" | "notes">,
  leftOut: readonly number[] = [],
): SettingsSaid {
  const said: SettingsSaid = { settings: [], unclear: [], leftOut: [] };
  for (const { at, text } of notes) {
    const moment = timeMs[at]!;
    if (leftOut.includes(moment)) {
      said.leftOut.push({ timeMs: moment, text });
      continue;
    }
    const { setC, mode, unclear } = settingOf(text);
    if (setC !== null || mode !== null) said.settings.push({ timeMs: moment, setC, mode, text });
    if (unclear) said.unclear.push({ timeMs: moment, text });
  }
  const byTime = (a: { timeMs: number }, b: { timeMs: number }) => a.timeMs - b.timeMs;
  said.settings.sort(byTime);
  said.unclear.sort(byTime);
  said.leftOut.sort(byTime);
  return said;
}

/** A setting as a note says it, which `settingOf` reads again. */
export function noteOfSetting(setC: number | null, mode: SaidMode | null, unit: "C" | "F"): string {
  const degrees =
    setC === null ? "" : unit === "F" ? `${Math.round((setC * 9) / 5 + 32)} F` : `${Number(setC.toFixed(1))} C`;
  const word =
    mode && { off: "off", fan: "fan only", low: "low fan", medium: "medium fan", auto: "auto", on: "on" }[mode];
  return [degrees && `set ${degrees}`, word && `mode: ${word}`].filter(Boolean).join("; ");
}

/** A file of settings: a line each, its time, a comma and what was set; times without an offset are local. */
export function settingsFile(
  text: string,
  timeZone: string,
): { settings: RunSetting[]; faults: { line: number; message: string }[] } {
  const settings: RunSetting[] = [];
  const faults: { line: number; message: string }[] = [];
  text.split(/\r?\n/).forEach((line, i) => {
    if (line.trim() === "" || (i === 0 && /^\s*time\b/i.test(line))) return;
    const [when, ...rest] = line.split(/[,;\t]/);
    const timeMs = momentOfText(when!.trim(), timeZone);
    const words = rest.join(",").trim();
    const { setC, mode, unclear } = settingOf(words);
    if (timeMs === null) faults.push({ line: i + 1, message: `“${when!.trim().slice(0, 40)}” is no date and time` });
    else if (unclear || (setC === null && mode === null))
      faults.push({
        line: i + 1,
        message: `“${words.slice(0, 40)}” is no setting: write set 24, low fan, fan only, off, on or auto`,
      });
    else settings.push({ timeMs, setC, mode, text: words });
  });
  settings.sort((a, b) => a.timeMs - b.timeMs);
  return { settings, faults };
}

function momentOfText(text: string, timeZone: string): number | null {
  const found = /^(\d{4}-\d{2}-\d{2})[T ](\d{2}:\d{2}(?::\d{2}(?:\.\d+)?)?)(Z|[+-]\d{2}:?\d{2})?$/i.exec(text);
  if (!found) return null;
  const [, date, clock, offset] = found;
  const ms = Date.parse(`${date}T${clock}${offset ?? "Z"}`);
  if (Number.isNaN(ms)) return null;
  return offset ? ms : ms - offsetAt(timeZone, ms - offsetAt(timeZone, ms) * 1000) * 1000;
}
