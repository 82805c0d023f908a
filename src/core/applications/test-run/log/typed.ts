import type { Dimension, UnitPreferences } from "../../../units/dimension";
import { parseQuantity } from "../../../units/parse";
import { say } from "../../../messages/say";
import { COLUMN_LIMITS, type Column, type Reading } from "./readings";

export type Typed = { ok: true; values: Reading["values"]; note: string | null } | { ok: false; message: string };

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
 * `fahrenheit`: temperatures without a letter are degF.
 */
export function parseTyped(text: string, fahrenheit = false): Typed {
  const [head, ...tail] = text.split(/\s+[-–—#]\s+/);
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
  return { ok: true, values, note };
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
