import { offsetAt } from "../../../units/clock";
import { parseTimeOfDay } from "../../../document/schedule";
import type { WhatIf } from "./propagation";

export type ParsedWhatIf = { ok: true; whatIf: WhatIf } | { ok: false; message: string };

/**
 * What changes for the rest of a test run, as people write it: `set 24`, `+2`, `low fan`, `off at 00:00`, `fan only at 23:30`;
 * several joined by commas. Temperatures are degC unless they end in F. Times are the job's local time, the next of their
 * kind after `nowMs`.
 */
export function parseWhatIf(
  text: string,
  { startMs, nowMs, timeZone }: { startMs: number; nowMs: number; timeZone: string },
): ParsedWhatIf {
  const whatIf: WhatIf = {};
  for (const raw of text.split(/[,;]/)) {
    const part = raw.trim().toLowerCase();
    if (part === "" || part === "as it is") continue;
    const shift = /^([+-]\d+(?:\.\d+)?)\s*(k|c|°c|f|°f)?(?: on the set point)?$/.exec(part);
    const set = /^(?:set(?: point)?(?: to)?\s*)?=?\s*(-?\d+(?:\.\d+)?)\s*(c|°c|f|°f)?$/.exec(part);
    const fan = /^(?:fan )?(low|medium|auto|automatic)(?: fan)?$/.exec(part);
    const stop = /^(off|stop|fan only|fan)(?:\s+(?:at|from)\s+(.+))?$/.exec(part);
    if (shift) whatIf.setShift = Number(shift[1]) * (/f/.test(shift[2] ?? "") ? 5 / 9 : 1);
    else if (set) {
      const value = Number(set[1]);
      whatIf.setC = /f/.test(set[2] ?? "") ? ((value - 32) * 5) / 9 : value;
      if (whatIf.setC < 5 || whatIf.setC > 40)
        return { ok: false, message: `a set point of ${set[1]} is not one that a cabin has` };
    } else if (fan) whatIf.fan = fan[1] === "low" ? "low" : fan[1] === "medium" ? "medium" : "auto";
    else if (stop) {
      let at = (nowMs - startMs) / 1000;
      if (stop[2]) {
        const minute = parseTimeOfDay(stop[2] === "midnight" ? "00:00" : stop[2] === "noon" ? "12:00" : stop[2]);
        if (minute === null) return { ok: false, message: `“${stop[2]}” is no time of day` };
        at = secondOf(minute, startMs, nowMs, timeZone);
      }
      if (stop[1] === "off" || stop[1] === "stop") whatIf.offFromS = at;
      else whatIf.fanFromS = at;
    } else
      return {
        ok: false,
        message: `“${raw.trim().slice(0, 40)}” is not understood; write set 24, +2, low fan, off at 00:00 or fan only at 23:30`,
      };
  }
  return { ok: true, whatIf };
}

/** Seconds from the log's start to a time of day as it is typed, the next of its kind after now; null where it is none. */
export function untilSecond(
  text: string,
  { startMs, nowMs, timeZone }: { startMs: number; nowMs: number; timeZone: string },
): number | null {
  const minute = parseTimeOfDay(text);
  return minute === null ? null : secondOf(minute, startMs, nowMs, timeZone);
}

/** Seconds from the log's start to the next such minute of the local day after now. */
function secondOf(minute: number, startMs: number, nowMs: number, timeZone: string): number {
  const offset = offsetAt(timeZone, nowMs);
  const local = Math.floor((nowMs / 1000 + offset) % 86_400);
  const ahead = (minute * 60 - local + 86_400) % 86_400;
  return (nowMs - startMs) / 1000 + ahead;
}
