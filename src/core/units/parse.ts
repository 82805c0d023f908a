import { gaugeAreaMm2 } from "./gauge";
import { bareUnit, DIMENSIONS, dimensionsOfUnit, SPELLINGS, type Dimension, type UnitPreferences } from "./dimension";
import { say } from "../messages/say";

/** A value in the core's unit of its dimension, with the unit that was written beside it; or what is wrong with the text. */
export type Parsed = { ok: true; value: number; unit?: string } | { ok: false; message: string };

const LONGEST = 40;
const fault = (message: string): Parsed => ({ ok: false, message });
const understood = (value: number, unit?: string): Parsed =>
  Number.isFinite(value)
    ? { ok: true, value, ...(unit === undefined ? {} : { unit }) }
    : fault(say("input.number.outOfRange"));

/**
 * Reads a quantity as people write it: `14 A`, `1.6kW`, `35mm2`, `2/0`, `74F`, `1h20`, `12 ft 6 in`.
 *
 * A bare number takes the unit of the job, or `bare`. Returns the value in the core's unit of the dimension,
 * or a plain message; it never throws and never returns NaN or infinity. A number that could be
 * read two ways (`1,600`) is refused rather than guessed.
 */
export function parseQuantity(
  text: string,
  dimension: Dimension,
  preferences: UnitPreferences,
  bare: string = bareUnit(dimension, preferences),
): Parsed {
  const shown = text.length > LONGEST ? `${text.slice(0, 20)}…` : text.trim();
  if (text.length > LONGEST) return fault(say("input.quantity.long", { shown }));
  if (dimension === "resistance" && /MΩ/.test(text))
    return fault(say("input.unit.unknown", { spelt: "MΩ", example: example(dimension, preferences) }));
  const clean = spaced(text, dimension);
  if (clean === "")
    return fault(
      say("input.quantity.type", { what: DIMENSIONS[dimension].says, example: example(dimension, preferences) }),
    );

  if (dimension === "area") {
    const gauge = parseGauge(clean, preferences);
    if (gauge) return gauge;
  }
  if (dimension === "duration") {
    const clock = parseClock(clean);
    if (clock) return clock;
  }

  const parts = [
    ...clean.matchAll(
      /([+-]?(?:\d[\d.,]*|[.,]\d+)(?:e[+-]?\d{1,3})?)\s*([^\d\s+\-.,][^\d+\-.,]*?)?\s*(?=[\d+\-.,]|$)/g,
    ),
  ];
  if (parts.length === 0 || parts.map((p) => p[0]).join("") !== clean) {
    return fault(
      say("input.wrongQuantity", { shown, what: DIMENSIONS[dimension].says, example: example(dimension, preferences) }),
    );
  }

  let total = 0;
  let previousFactor = Infinity;
  let written: string | undefined;
  for (const [index, part] of parts.entries()) {
    const number = parseNumber(part[1]!);
    if (typeof number === "string") return fault(number);
    const spelt = part[2]?.trim();
    let unit = bare;
    if (spelt !== undefined && spelt !== "") {
      const symbol = unitSymbol(spelt, dimension);
      if (symbol === undefined)
        return fault(say("input.unit.unknown", { spelt, example: example(dimension, preferences) }));
      unit = symbol;
      written ??= symbol;
    } else if (dimension === "duration" && index > 0) {
      unit = previousFactor === 3600 ? "min" : previousFactor === 60 ? "s" : unit; // 1h20
    } else if (index > 0) {
      return fault(say("input.number.withoutUnit", { shown }));
    }
    const units = DIMENSIONS[dimension].units as Record<string, number>;
    const unitless = dimension === "count" || dimension === "number";
    if (!(unit in units) && !(unitless && unit === ""))
      return fault(wrongDimension(unit, shown, dimension, preferences));
    if (dimension === "money" && unit !== bareUnit(dimension, preferences))
      return fault(say("input.currency.other", { currency: bareUnit(dimension, preferences) }));
    const factor = unit === "" ? 1 : units[unit]!;
    if (index > 0 && (dimension === "temperature" || factor >= previousFactor)) {
      return fault(say("input.number.two", { shown }));
    }
    previousFactor = factor;
    total +=
      dimension === "temperature"
        ? celsius(number, unit)
        : dimension === "area" && unit === "AWG"
          ? gaugeAreaMm2(number)
          : number * factor;
  }
  if (dimension === "count" && !Number.isInteger(total)) return fault(say("input.number.whole"));
  return understood(total, written);
}

/** The text in lower case with plain spaces, powers of units as one character, and a currency sign behind its number. */
function spaced(text: string, dimension: Dimension): string {
  const clean = text
    .trim()
    .toLowerCase()
    .replace(/[−–]/g, "-")
    .replace(/mm ?\^?2/g, "mm²")
    .replace(/[\u00a0\u202f\s]+/g, " ");
  if (dimension === "opening") return clean.replace(/(?<![a-z])(sq )?(cm|m|in) ?\^?2(?![\d.])/g, "$2²");
  if (dimension === "surface") return clean.replace(/(?<![a-z])(sq )?(ft|m) ?\^?2(?![\d.])/g, "$2²");
  if (dimension === "airflow") return clean.replace(/(?<![a-z])m ?\^?3(?![\d.])/g, "m³");
  if (dimension === "money") return clean.replace(/^([€$£]) ?(.+)$/, "$2 $1");
  return clean;
}

function celsius(number: number, unit: string): number {
  if (unit === "°F") return ((number - 32) * 5) / 9;
  return unit === "K" ? number - 273.15 : number;
}

/** A number with a decimal point or comma; a message where it could mean two things. */
function parseNumber(text: string): number | string {
  if (/^[+-]?[1-9]\d{0,2}(,\d{3})$/.test(text)) {
    return say("input.number.twoWays", { text, thousands: text.replace(",", ""), decimal: text.replace(",", ".") });
  }
  const grouped = /^[+-]?[1-9]\d{0,2}(,\d{3}){2,}(\.\d+)?$|^[+-]?[1-9]\d{0,2},\d{3}\.\d+$/.test(text);
  const plain = grouped ? text.replaceAll(",", "") : text.replace(",", ".");
  if (!/^[+-]?(\d+\.?\d*|\.\d+)(e[+-]?\d{1,3})?$/.test(plain)) return say("input.number.none", { text });
  return Number(plain);
}

function unitSymbol(spelt: string, dimension: Dimension): string | undefined {
  // Only insulation has megohms, and nothing megawatts, so lower-casing "mΩ" and "mW" loses nothing.
  const symbol = SPELLINGS[spelt] ?? SPELLINGS[spelt.replace(/\.$/, "")];
  if (dimension === "insulation" && symbol === "mΩ") return "MΩ";
  if (dimension === "duration" && symbol === "m") return "min";
  return symbol;
}

/** `2/0`, `2 awg`, `awg 4`, `#2`, `00`; null where the text is not a gauge. */
function parseGauge(clean: string, preferences: UnitPreferences): Parsed | null {
  const aught = /^(?:awg |#)?([1-4])\/0(?: ?(?:awg|ga|gauge))?$/.exec(clean);
  if (aught) return understood(gaugeAreaMm2(1 - Number(aught[1])));
  const zeros = /^(?:awg |#)?(0{1,4})(?: ?(?:awg|ga|gauge))?$/.exec(clean);
  if (zeros && (zeros[1]!.length > 1 || /awg|ga|#/.test(clean) || preferences.cable === "awg")) {
    return understood(gaugeAreaMm2(1 - zeros[1]!.length));
  }
  const numbered = /^(?:(awg|#) ?)?(\d{1,4})(?: ?(awg|ga|gauge))?$/.exec(clean);
  if (!numbered) return null;
  if (!numbered[1] && !numbered[3] && preferences.cable !== "awg") return null;
  const gauge = Number(numbered[2]);
  if (gauge > 40) return fault(say("input.awg.range"));
  return understood(gaugeAreaMm2(gauge));
}

/** `1:20` as hours and minutes, `0:20:30` with seconds; null where the text is not of that form. */
function parseClock(clean: string): Parsed | null {
  const clock = /^(\d{1,3}):([0-5]\d)(?::([0-5]\d))?$/.exec(clean);
  if (!clock) return null;
  return understood(Number(clock[1]) * 3600 + Number(clock[2]) * 60 + Number(clock[3] ?? 0));
}

function wrongDimension(unit: string, shown: string, dimension: Dimension, preferences: UnitPreferences): string {
  const is = dimensionsOfUnit(unit)[0];
  const what = is ? `“${shown}” is ${DIMENSIONS[is].says}` : `“${shown}” has a unit that does not fit`;
  return say("input.takes", { what, says: DIMENSIONS[dimension].says, example: example(dimension, preferences) });
}

const EXAMPLES: Record<Dimension, string> = {
  voltage: "12.8 V",
  current: "14 A",
  power: "1.6 kW",
  cooling: "3.5 kW",
  volume: "4 L",
  fuelRate: "1.1 L/h",
  apparentPower: "3 kVA",
  energy: "2.4 kWh",
  charge: "280 Ah",
  resistance: "8 mOhm",
  insulation: "200 MOhm",
  length: "2.5 m",
  area: "35 mm2",
  temperature: "35 C",
  duration: "1h20",
  ratio: "20 %",
  opening: "200 cm2",
  airflow: "120 m3/h",
  surface: "1.2 m2",
  angle: "15 deg",
  speed: "4 m/s",
  kelvin: "2 K",
  transmittance: "1.2 W/m2K",
  conductance: "45 W/K",
  heatCapacity: "300 kJ/K",
  irradiance: "800 W/m2",
  mass: "12 kg",
  money: "250",
  count: "2",
  number: "1.2",
};

function example(dimension: Dimension, preferences: UnitPreferences): string {
  const american =
    dimension === "cooling" && preferences.cooling === "BTU/h"
      ? "13500 BTU/h"
      : dimension === "length" && preferences.length === "ft"
        ? "8 ft"
        : dimension === "area" && preferences.cable === "awg"
          ? "2/0"
          : dimension === "temperature" && preferences.temperature === "F"
            ? "95 F"
            : dimension === "opening" && preferences.length === "ft"
              ? "30 in2"
              : EXAMPLES[dimension];
  return `, such as ${american}`;
}
