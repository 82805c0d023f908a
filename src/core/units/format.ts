import { gaugeName, wholeGauge } from "./gauge";
import { bareUnit, CURRENCY_SIGNS, DIMENSIONS, type Dimension, type UnitPreferences } from "./dimension";

/** W of a BTU an hour, international table. */
const BTU_H = 0.29307107;

/** `digits` significant figures, without an exponent and without trailing zeros after a point. */
export function significant(value: number, digits = 3): string {
  if (!Number.isFinite(value)) return "–";
  if (value === 0) return "0";
  const rounded = Number(value.toPrecision(digits));
  return trimmed(rounded, Math.min(12, Math.max(0, digits - 1 - Math.floor(Math.log10(Math.abs(rounded))))));
}

/** A share in percent; what is under a twentieth of one is none. */
const percent = (share: number): number => (Math.abs(share) < 0.0005 ? 0 : share * 100);

function trimmed(value: number, decimals: number): string {
  const text = value.toFixed(decimals);
  const tidy = text.includes(".") ? text.replace(/\.?0+$/, "") : text;
  return tidy.replace(/^-(?=0$)/, "").replace("-", "−");
}

/**
 * A value in the core's unit as the sheet writes it, in the units of the job, `digits` significant.
 * Values that are not finite are written as a dash.
 */
export function formatQuantity(value: number, dimension: Dimension, preferences: UnitPreferences, digits = 3): string {
  if (!Number.isFinite(value)) return "–";
  const size = Math.abs(value);
  switch (dimension) {
    case "voltage":
      return size >= 1 || size === 0
        ? `${trimmed(value, size < 100 ? (digits > 3 ? 2 : size < 10 ? 2 : 1) : 0)} V`
        : `${significant(value * 1000, Math.min(digits, 3))} mV`;
    case "current":
      return size >= 10000
        ? `${significant(value / 1000, digits)} kA`
        : size < 0.1 && size > 0
          ? `${significant(value * 1000, digits)} mA`
          : size < 1 && size > 0
            ? `${significant(value, digits)} A`
            : `${trimmed(value, size < 100 ? 1 : 0)} A`;
    case "power":
      return scaled(value, "W", digits);
    case "cooling":
      return preferences.cooling === "BTU/h" ? `${trimmed(value / BTU_H, 0)} BTU/h` : scaled(value, "W", digits);
    case "apparentPower":
      return scaled(value, "VA", digits);
    case "energy":
      return scaled(value, "Wh", digits);
    case "charge":
      // Three digits as plates have them, but a spread's one stays one.
      return `${significant(value, digits === 1 ? 1 : Math.max(digits, 3))} Ah`;
    case "resistance":
      return size < 0.0001 && size > 0
        ? `${significant(value * 1e6, digits)} µΩ`
        : size < 1
          ? `${significant(value * 1e3, digits)} mΩ`
          : `${significant(value, digits)} Ω`;
    case "insulation":
      return size >= 1000 ? `${significant(value / 1000, digits)} GΩ` : `${significant(value, digits)} MΩ`;
    case "length":
      return preferences.length === "ft"
        ? `${significant(value / 0.3048, digits)} ft`
        : `${significant(value, digits)} m`;
    case "area":
      return formatArea(value, preferences, digits);
    case "temperature":
      return preferences.temperature === "F"
        ? `${trimmed((value * 9) / 5 + 32, digits > 3 ? 1 : 0)} °F`
        : `${trimmed(value, 1)} °C`;
    case "duration":
      return formatDuration(value, digits);
    case "ratio":
      return `${significant(percent(value), digits)} %`;
    case "volume":
    case "fuelRate":
    case "opening":
    case "airflow":
    case "surface":
    case "speed":
    case "kelvin":
    case "transmittance":
    case "conductance":
    case "heatCapacity":
    case "irradiance":
    case "angle":
    case "mass": {
      const unit = bareUnit(dimension, preferences);
      return `${significant(inUnit(value, dimension, unit), digits)}${unit === "°" ? "" : " "}${unit}`;
    }
    case "money":
      // A day's wear of a battery is cents; prices are whole.
      if (value !== 0 && Math.abs(value) < 10 && digits < 4)
        return `${value < 0 ? "−" : ""}${CURRENCY_SIGNS[preferences.currency]}${Math.abs(value).toFixed(2)}`;
      return `${value < 0 ? "−" : ""}${CURRENCY_SIGNS[preferences.currency]}${Math.abs(Math.round(value)).toLocaleString("en-US").replaceAll(",", "\u202f")}`;
    case "count":
      return String(Math.round(value));
    case "number":
      return significant(value, digits);
  }
}

const inUnit = (value: number, dimension: Dimension, unit: string): number =>
  value / ((DIMENSIONS[dimension].units as Record<string, number>)[unit] ?? 1);

/**
 * What two numbers that are compared are to each other: what is needed and what there is, the voltage that is lost on the way
 * and what may be, a draw and the draw at which the volts come down to a cut-off and it is switched off, or something that
 * is there or is not.
 */
export const PAIR_FORMS = ["needs", "drops", "draws", "there"] as const;
export type PairForm = (typeof PAIR_FORMS)[number];

/** The two numbers of a pair, as text, in one line. */
function pairWords(form: Exclude<PairForm, "there">, need: string, has: string): string {
  switch (form) {
    case "needs":
      return `needs ${need}, has ${has}`;
    case "drops":
      return `drops ${need}, ${has} allowed`;
    case "draws":
      return `draws ${need}, off at ${has}`;
  }
}

/** What is needed and what there is, of one dimension. */
export interface NeedsHas {
  need: number;
  has: number;
  /** True where there is more than `has`: a run that was not followed to its end. */
  hasMore?: boolean;
  form?: PairForm;
  dimension: Dimension;
  /** The word of the check: of a thing that is Tight nobody has said whether it is there. */
  word?: string;
}

/** Two numbers to be compared at sight: both in the unit of the larger, the second with "over" where there is more. */
export function formatPair(
  { need, has, hasMore, dimension }: NeedsHas,
  preferences: UnitPreferences,
): { need: string; has: string } {
  const larger = Math.max(Math.abs(need), Math.abs(has));
  // Ratios in whole percents, as states of charge are said everywhere.
  const digits = dimension === "ratio" ? 2 : 3;
  const kilo = (unit: string, from: number) => (value: number) =>
    larger >= from ? `${significant(value / 1000, digits)} k${unit}` : `${significant(value, digits)} ${unit}`;
  const shown: Partial<Record<Dimension, (value: number) => string>> = {
    power: kilo("W", 1000),
    apparentPower: kilo("VA", 1000),
    energy: kilo("Wh", 1000),
    current: kilo("A", 5000),
    ...(larger >= 1 ? { voltage: (value: number) => `${significant(value, digits)} V` } : {}),
  };
  const text = shown[dimension] ?? ((value: number) => formatQuantity(value, dimension, preferences, digits));
  return { need: text(need), has: `${hasMore ? "over " : ""}${text(has)}` };
}

/** What is needed and what there is, each with its unit: `needs 9.56 kVA, has 7.71 kVA`; things are missing, not stated or in place. */
export function formatNeedsHas(pair: NeedsHas, preferences: UnitPreferences): string {
  if (pair.form === "there")
    return pair.has >= pair.need ? "in place" : pair.word === "Tight" ? "not stated" : "missing";
  const shown = formatPair(pair, preferences);
  return pairWords(pair.form ?? "needs", shown.need, shown.has);
}

function scaled(value: number, unit: string, digits: number): string {
  return Math.abs(value) >= 1000
    ? `${significant(value / 1000, digits)} k${unit}`
    : `${significant(value, digits)} ${unit}`;
}

function formatArea(areaMm2: number, preferences: UnitPreferences, digits: number): string {
  const gauge = preferences.cable === "awg" ? wholeGauge(areaMm2) : null;
  return gauge === null ? `${significant(areaMm2, digits)} mm²` : `${gaugeName(gauge)} AWG`;
}

/** Seconds as people say them: `0.35 s`, `5 min`, `1 h 20`, `13.3 h` past ten hours, `4.2 days` past two days. */
export function formatDuration(seconds: number, digits = 3): string {
  if (!Number.isFinite(seconds)) return "–";
  if (seconds < 120) return `${significant(seconds, digits)} s`;
  if (seconds < 3600) return `${trimmed(seconds / 60, seconds % 60 === 0 || digits < 4 ? 0 : 1)} min`;
  if (seconds < 36000) {
    const minutes = Math.round(seconds / 60);
    const rest = minutes % 60;
    return rest === 0
      ? `${Math.floor(minutes / 60)} h`
      : `${Math.floor(minutes / 60)} h ${String(rest).padStart(2, "0")}`;
  }
  return seconds < 172800 ? `${significant(seconds / 3600, digits)} h` : `${significant(seconds / 86400, 2)} days`;
}

/**
 * A value as it stands in an input while it is edited: nothing rounded away that was typed,
 * and parsed back by `parseQuantity` to the same value within a part in a million.
 */
export function editableQuantity(value: number, dimension: Dimension, preferences: UnitPreferences): string {
  const short = formatQuantity(value, dimension, preferences, 4).replace("²", "2").replace("−", "-");
  if (dimension === "duration") {
    if (value < 120) return `${exact(value)} s`;
    return value % 60 === 0 ? short : `${exact(value / 60)} min`;
  }
  if (dimension === "temperature")
    return preferences.temperature === "F" ? `${exact((value * 9) / 5 + 32)} F` : `${exact(value)} C`;
  if (dimension === "area" && short.endsWith("AWG")) return short;
  if (dimension === "cooling")
    return preferences.cooling === "BTU/h" ? `${exact(value / BTU_H)} BTU/h` : `${exact(value / 1000)} kW`;
  if (dimension === "count" || dimension === "number") return exact(value);
  if (dimension === "ratio") return `${exact(value * 100)} %`;
  if (dimension === "resistance") return `${exact(value * 1000)} mOhm`;
  const unit = bareUnit(dimension, preferences);
  if (dimension === "length") return `${exact(unit === "ft" ? value / 0.3048 : value)} ${unit}`;
  if (dimension === "area") return `${exact(value)} mm2`;
  if (IN_ITS_UNIT.has(dimension)) return `${exact(inUnit(value, dimension, unit))} ${unit}`;
  if (dimension === "money") return exact(value);
  const kilo =
    Math.abs(value) >= 1000 && (dimension === "power" || dimension === "apparentPower" || dimension === "energy");
  return kilo ? `${exact(value / 1000)} k${unit}` : `${exact(value)} ${unit}`;
}

/** Dimensions written in one unit at every size. */
const IN_ITS_UNIT: ReadonlySet<Dimension> = new Set<Dimension>([
  "volume",
  "fuelRate",
  "opening",
  "airflow",
  "mass",
  "surface",
  "speed",
  "kelvin",
  "transmittance",
  "conductance",
  "heatCapacity",
  "irradiance",
  "angle",
]);

function exact(value: number): string {
  return String(Number(value.toPrecision(7)));
}
