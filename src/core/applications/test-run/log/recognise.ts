import { offsetAt } from "../../../units/clock";
import { COLUMN_LIMITS, COLUMN_QUANTITY, COLUMNS, type Column, type ColumnQuantity, type Reading } from "./readings";
import { say } from "../../../messages/say";

/*
 * What a table of readings means: which column is what, in which unit, which way the current counts and how its time is
 * written. Nothing is taken over silently: what was understood is shown before it is kept, and every part can be changed.
 */

/** What a column of a table can be. Power and solar current are turned into the log's own columns by the volts beside them. */
export type Meaning = Column | "time" | "date" | "battery_power_w" | "solar_current_a" | "note" | "none";

export type TimeKind =
  | "iso"
  | "local"
  | "day-first"
  | "month-first"
  | "unix-s"
  | "unix-ms"
  | "elapsed-s"
  | "elapsed-min"
  | "elapsed-clock";

/** Whether times are counted from the log's start, which someone has to say. */
export const isElapsed = (kind: TimeKind): boolean =>
  kind === "elapsed-s" || kind === "elapsed-min" || kind === "elapsed-clock";

export interface Mapping {
  /** By column of the table: its meaning, and the factor and offset that bring it to the log's unit. */
  columns: { meaning: Meaning; factor: number; offset: number }[];
  decimalComma: boolean;
  time: TimeKind;
  /** Zone of times that carry none. */
  timeZone: string;
  /** First moment of elapsed times, Unix ms. */
  startMs: number | null;
  /** +1 where charging counts as positive, as in the log; -1 where discharging does. */
  sign: 1 | -1;
}

export interface Understood {
  mapping: Mapping;
  /** How sure the way the current counts is: told by the charge or the volts, guessed by its mean, or not at all. */
  signFrom: "format" | "charge" | "volts" | "mean" | "unsure";
  /** Things to ask or say before it is kept. */
  doubts: string[];
}

const plain = (text: string): string =>
  text
    .toLowerCase()
    .normalize("NFKD")
    .replace(/[\u0300-\u036f]/g, "")
    .replace(/[_\-./|:]+/g, " ")
    .replace(/\s+/g, " ")
    .trim();

const HAS = {
  battery: /\b(batt?\w*|bank|shunt|house|akku|bateria|batterie)\b/,
  solar: /\b(solar|pv|panel\w*|mppt|sun|sol|solaire)\b/,
  mains: /\b(ac|mains|inverter|ac out\w*|230 ?v|120 ?v|onduleur|wechselrichter)\b/,
  current: /\b(current|amps?|ampere\w*|strom\w*|corrente|corriente|intensite|courant|i|a|ma)\b/,
  voltage: /\b(volt\w*|spannung|tension|tensao|voltaje|v|mv|u)\b/,
  power: /\b(power|watts?|leistung|puissance|potencia|w|kw)\b/,
  charge: /\b(soc|state of charge|charge level|charge state|battery level|ladezustand|percent\w*|level)\b|%/,
  temperature: /\b(temp\w*|thermo\w*|degrees?|deg|c|f|k|celsius|fahrenheit|kelvin)\b|°/,
  inside: /\b(cabin|inside|inner|interior|indoors?|room|saloon|salon|van|caravan|innen\w*|cabine)\b/,
  outside: /\b(out|outside|outdoors?|ambient|exterior|external|outer|aussen\w*|shade)\b/,
  time: /\b(time|timestamp|datetime|date time|clock|zeit\w*|utc|heure|hora|when|elapsed)\b/,
  date: /\b(date|day|datum|fecha|data|jour)\b/,
  note: /\b(notes?|remarks?|comments?|events?|bemerkung\w*|nota)\b/,
};

/** What each meaning is of; null where there is nothing to convert. */
const QUANTITY: Record<Meaning, ColumnQuantity | null> = {
  ...COLUMN_QUANTITY,
  battery_power_w: "power",
  solar_current_a: "current",
  time: null,
  date: null,
  note: null,
  none: null,
};

interface Conversion {
  factor: number;
  offset: number;
}
const AS_IT_IS: Conversion = { factor: 1, offset: 0 };

/** Units other than the log's own, by quantity: how a header says them, and what leads from them to A, V, %, W or degC. */
const OTHER_UNITS: Record<ColumnQuantity, readonly [said: RegExp, conversion: Conversion][]> = {
  temperature: [
    [/(°\s*f|\bdegf\b|\bfahrenheit\b|\bf\b)/i, { factor: 5 / 9, offset: (-32 * 5) / 9 }],
    [/(\bkelvin\b|\bk\b)/i, { factor: 1, offset: -273.15 }],
  ],
  power: [[/\bkw\b/i, { factor: 1000, offset: 0 }]],
  current: [[/\bma\b/i, { factor: 0.001, offset: 0 }]],
  voltage: [[/\b(millivolts?|mv)\b/i, { factor: 0.001, offset: 0 }]],
  percent: [],
};

/** What leads from the unit that a header names to the log's own. */
function conversionOf(header: string, meaning: Meaning): Conversion {
  const quantity = QUANTITY[meaning];
  if (quantity === null) return AS_IT_IS;
  const words = ` ${header.replace(/[()[\]{},;]/g, " ")} `;
  return OTHER_UNITS[quantity].find(([said]) => said.test(words))?.[1] ?? AS_IT_IS;
}

/** What one header says, before the others are looked at. */
function meaningOf(raw: string): Meaning {
  const exact = raw.trim().toLowerCase();
  if (exact === "time") return "time";
  if ((COLUMNS as readonly string[]).includes(exact)) return exact as Column;
  if (exact === "note") return "note";
  const header = plain(raw.replace(/[()[\]{}]/g, " "));
  const is = (key: keyof typeof HAS) => HAS[key].test(header);
  if (is("note") && !is("temperature")) return "note";
  if (is("charge") && !is("solar") && !is("current")) return "soc_pct";
  if (is("temperature") && (is("inside") || is("outside"))) return is("outside") ? "outdoor_temp_c" : "cabin_temp_c";
  if (is("solar")) return is("power") ? "solar_power_w" : is("current") ? "solar_current_a" : "none";
  if (is("mains")) return is("power") ? "ac_power_w" : "none";
  if (is("time")) return "time";
  if (is("date")) return "date";
  if (is("current") && !/\b(charger|alternator|load|cell|limit|max|min)\b/.test(header)) return "battery_current_a";
  if (is("voltage") && !/\b(cell|starter|start|mid|min|max)\b/.test(header)) return "battery_voltage_v";
  if (is("power")) return is("battery") ? "battery_power_w" : "none";
  if (is("outside") || is("inside")) return is("outside") ? "outdoor_temp_c" : "cabin_temp_c";
  return "none";
}

/** A number as people write it: thousands marks, decimal comma where the table has them, units behind it. NaN where it is none. */
export function numberOf(text: string, decimalComma: boolean): number {
  let t = text
    .trim()
    .replace(/[\u00a0\u202f' ]/g, "")
    .replace(/^\u2212/, "-");
  if (t === "") return NaN;
  t = decimalComma ? t.replace(/\.(?=\d{3}(\D|$))/g, "").replace(",", ".") : t.replace(/,(?=\d{3}(\D|$))/g, "");
  const found = /^([+-]?(?:\d+\.?\d*|\.\d+)(?:e[+-]?\d+)?)[a-zA-Z%°]{0,4}$/i.exec(t);
  return found ? Number(found[1]) : NaN;
}

const ISO = /^\d{4}-\d{1,2}-\d{1,2}[T ]\d{1,2}:\d{2}/;
const ZONED = /(Z|[+-]\d{2}:?\d{2})$/i;
const SLASHED =
  /^(\d{1,2})[/.-](\d{1,2})[/.-](\d{2,4})(?:[T ,]+(\d{1,2}):(\d{2})(?::(\d{2})(?:[.,]\d+)?)?\s*(am|pm)?)?$/i;

function timeKindOf(samples: string[], header: string, hasDate: boolean): { kind: TimeKind; doubt?: string } {
  const filled = samples.map((s) => s.trim()).filter(Boolean);
  const all = (test: (s: string) => boolean) => filled.length > 0 && filled.every(test);
  if (all((s) => ISO.test(s))) return { kind: filled.some((s) => ZONED.test(s)) ? "iso" : "local" };
  if (all((s) => SLASHED.test(s)) || (hasDate && all((s) => /[/.-]/.test(s)))) {
    let day = false;
    let month = false;
    for (const s of filled) {
      const found = /^(\d{1,2})[/.-](\d{1,2})[/.-]/.exec(s);
      if (found && Number(found[1]) > 12) day = true;
      if (found && Number(found[2]) > 12) month = true;
    }
    if (day || month) return { kind: month ? "month-first" : "day-first" };
    return { kind: "day-first", doubt: say("testRun.datesCanReadDay") };
  }
  if (all((s) => /^-?\d+(\.\d+)?$/.test(s))) {
    const first = Number(filled[0]);
    if (first > 1e11) return { kind: "unix-ms" };
    if (first > 5e8) return { kind: "unix-s" };
    return { kind: /min/i.test(header) ? "elapsed-min" : "elapsed-s" };
  }
  if (all((s) => /^\d{1,3}:\d{2}(:\d{2})?$/.test(s))) return { kind: hasDate ? "local" : "elapsed-clock" };
  return { kind: "iso", doubt: say("testRun.timesWrittenWayNot") };
}

export interface Table {
  header: string[];
  /** The first rows, a few hundred at most: what is recognised is recognised by them. */
  rows: string[][];
  separator: string;
}

/** Recognises a table from its header and first rows; `timeZone` is the job's. */
export function recognise({ header, rows, separator }: Table, timeZone: string): Understood {
  const doubts: string[] = [];
  const taken = new Set<Meaning>();
  const meanings = header.map((raw) => {
    const meaning = meaningOf(raw);
    if (meaning === "none" || meaning === "note") return meaning;
    // The first of two columns of one meaning is kept.
    if (taken.has(meaning)) return "none" as const;
    taken.add(meaning);
    return meaning;
  });
  // A table without a header of time has its time in the first column.
  if (!taken.has("time")) {
    const date = meanings.indexOf("date");
    if (date >= 0) meanings[date] = "time";
    else if (meanings[0] === "none") meanings[0] = "time";
    else doubts.push(say("testRun.noColumnTimesWas"));
  }
  const at = (meaning: Meaning) => meanings.indexOf(meaning);
  const cells = (index: number) => (index < 0 ? [] : rows.map((row) => row[index] ?? ""));
  const decimalComma =
    separator !== "," &&
    rows.some((row) =>
      row.some((cell, i) => meanings[i] !== "time" && /^[+-]?\d+,\d{1,2}$|^[+-]?\d+,\d{4,}$/.test(cell.trim())),
    );
  const timeAt = at("time");
  const hasDate = at("date") >= 0;
  const joined =
    hasDate && timeAt >= 0 ? rows.map((row) => `${row[at("date")] ?? ""} ${row[timeAt] ?? ""}`.trim()) : cells(timeAt);
  const { kind, doubt } = timeKindOf(joined, header[timeAt] ?? "", hasDate);
  if (doubt) doubts.push(doubt);
  const mapping: Mapping = {
    columns: meanings.map((meaning, i) => ({ meaning, ...conversionOf(header[i]!, meaning) })),
    decimalComma,
    time: kind,
    timeZone,
    startMs: null,
    sign: 1,
  };
  // A charge that never passes one is a share, not percent.
  const soc = at("soc_pct");
  if (soc >= 0) {
    const read = cells(soc)
      .map((cell) => numberOf(cell, decimalComma))
      .filter((n) => !Number.isNaN(n));
    if (read.length > 0 && Math.max(...read) <= 1 && header[soc]!.trim().toLowerCase() !== "soc_pct")
      mapping.columns[soc]!.factor = 100;
  }
  if (!taken.has("battery_current_a") && !taken.has("battery_power_w"))
    doubts.push(say("testRun.noColumnBatteryCurrent"));
  const own = header[0]?.trim() === "time" && header[1]?.trim() === "battery_current_a";
  const signed = own ? { sign: 1 as const, from: "format" as const } : signOf(rows, mapping, meanings);
  mapping.sign = signed.sign;
  if (signed.from === "unsure" || signed.from === "mean") doubts.push(say("testRun.whetherChargingDischargingCounts"));
  if (isElapsed(kind)) doubts.push(say("testRun.timesCountStartSay"));
  return { mapping, signFrom: signed.from, doubts };
}

/** Which way the current counts: by the charge that falls with it, by the volts that sink under it, by its mean. */
function signOf(
  rows: string[][],
  mapping: Mapping,
  meanings: Meaning[],
): { sign: 1 | -1; from: Exclude<Understood["signFrom"], "format"> } {
  const line = (meaning: Meaning) => {
    const i = meanings.indexOf(meaning);
    return i < 0 ? [] : rows.map((row) => numberOf(row[i] ?? "", mapping.decimalComma));
  };
  const current = meanings.includes("battery_current_a") ? line("battery_current_a") : line("battery_power_w");
  const read = current.filter((n) => !Number.isNaN(n));
  if (read.length < 3) return { sign: 1, from: "unsure" };
  const mean = read.reduce((sum, n) => sum + n, 0) / read.length;
  const soc = line("soc_pct").filter((n) => !Number.isNaN(n));
  if (soc.length > 2) {
    const change = soc[soc.length - 1]! - soc[0]!;
    const all = Math.max(...soc) <= 1 ? 0.01 : 1;
    if (Math.abs(change) >= all && Math.abs(mean) > 0.5) return { sign: change * mean > 0 ? 1 : -1, from: "charge" };
  }
  const volts = line("battery_voltage_v");
  const pairs = current
    .map((i, k) => [i, volts[k] ?? NaN] as const)
    .filter(([i, v]) => !Number.isNaN(i) && !Number.isNaN(v));
  if (pairs.length > 5) {
    // Steps alone: the slow fall of a discharge says nothing of the sign.
    let over = 0;
    let ii = 0;
    let vv = 0;
    for (let k = 1; k < pairs.length; k++) {
      const di = pairs[k]![0] - pairs[k - 1]![0];
      const dv = pairs[k]![1] - pairs[k - 1]![1];
      over += di * dv;
      ii += di * di;
      vv += dv * dv;
    }
    const correlation = over / Math.sqrt(ii * vv || 1);
    if (Math.abs(correlation) > 0.3) return { sign: correlation > 0 ? 1 : -1, from: "volts" };
  }
  if (Math.abs(mean) > 2) return { sign: mean > 0 ? -1 : 1, from: "mean" };
  return { sign: 1, from: "unsure" };
}

/** Unix ms of a text by a mapping; NaN where it is no time. */
export function timeOf(text: string, mapping: Pick<Mapping, "time" | "timeZone" | "startMs" | "decimalComma">): number {
  const t = text.trim();
  const { time, timeZone, startMs } = mapping;
  // oxlint-disable-next-line max-params -- the parts of a date, in their order
  const local = (y: number, mo: number, d: number, h: number, mi: number, s: number): number => {
    if (mo < 1 || mo > 12 || d < 1 || d > 31 || h > 24 || mi > 59 || s >= 61) return NaN;
    const wall = Date.UTC(y, mo - 1, d, h, mi, 0) + Math.round(s * 1000);
    return wall - zoneOffset(timeZone, wall) * 1000;
  };
  switch (time) {
    case "iso":
    case "local": {
      const found =
        /^(\d{4})-(\d{1,2})-(\d{1,2})(?:[T ]+(\d{1,2}):(\d{2})(?::(\d{2}(?:[.,]\d+)?))?)?\s*(Z|[+-]\d{2}:?\d{2})?$/i.exec(
          t,
        );
      if (!found) return SLASHED.test(t) ? timeOf(t, { ...mapping, time: "day-first" }) : NaN;
      const [, y, mo, d, h = "0", mi = "0", s = "0", zone] = found;
      const seconds = Number(s.replace(",", "."));
      if (!zone) return local(Number(y), Number(mo), Number(d), Number(h), Number(mi), seconds);
      const offset = /^z$/i.test(zone)
        ? 0
        : (zone[0] === "-" ? -1 : 1) * (Number(zone.slice(1, 3)) * 60 + Number(zone.slice(-2)));
      if (Number(mo) < 1 || Number(mo) > 12 || Number(d) < 1 || Number(d) > 31 || Number(h) > 24 || Number(mi) > 59)
        return NaN;
      return (
        Date.UTC(Number(y), Number(mo) - 1, Number(d), Number(h), Number(mi)) +
        Math.round(seconds * 1000) -
        offset * 60_000
      );
    }
    case "day-first":
    case "month-first": {
      const found = SLASHED.exec(t);
      if (!found) return NaN;
      const [, a, b, year, h = "0", mi = "0", s = "0", half] = found;
      const [d, mo] = time === "day-first" ? [Number(a), Number(b)] : [Number(b), Number(a)];
      let hour = Number(h);
      if (/pm/i.test(half ?? "") && hour < 12) hour += 12;
      if (/am/i.test(half ?? "") && hour === 12) hour = 0;
      return local(Number(year) < 100 ? 2000 + Number(year) : Number(year), mo, d, hour, Number(mi), Number(s));
    }
    case "unix-s":
      return numberOf(t, mapping.decimalComma) * 1000;
    case "unix-ms":
      return numberOf(t, mapping.decimalComma);
    case "elapsed-s":
      return (startMs ?? 0) + numberOf(t, mapping.decimalComma) * 1000;
    case "elapsed-min":
      return (startMs ?? 0) + numberOf(t, mapping.decimalComma) * 60_000;
    case "elapsed-clock": {
      const found = /^(\d{1,3}):(\d{2})(?::(\d{2}))?$/.exec(t);
      return found
        ? (startMs ?? 0) + ((Number(found[1]) * 60 + Number(found[2])) * 60 + Number(found[3] ?? 0)) * 1000
        : NaN;
    }
  }
}

let zoneKept = { zone: "", hour: NaN, offset: 0 };
/** Seconds ahead of UTC, asked once an hour of wall time: formats are slow and tables are long. */
function zoneOffset(zone: string, wallMs: number): number {
  const hour = Math.floor(wallMs / 3_600_000);
  if (zoneKept.zone !== zone || zoneKept.hour !== hour) {
    const first = offsetAt(zone, wallMs);
    zoneKept = { zone, hour, offset: offsetAt(zone, wallMs - first * 1000) };
  }
  return zoneKept.offset;
}

export interface RowReader {
  /** The reading of a row, or why there is none. */
  read(cells: readonly string[]): { ok: true; reading: Reading } | { ok: false; message: string };
}

/** Reads rows by a mapping. A cell that is no number, or far from any system's, makes its value missing; a row without time or current is refused. */
export function rowReader(mapping: Mapping): RowReader {
  const index = (meaning: Meaning) => mapping.columns.findIndex((column) => column.meaning === meaning);
  const timeAt = index("time");
  const dateAt = index("date");
  const noteAt = index("note");
  const sources = COLUMNS.map((column) => ({ column, at: index(column) })).filter(({ at }) => at >= 0);
  const powerAt = index("battery_power_w");
  const solarAt = index("solar_current_a");
  const value = (cells: readonly string[], at: number): number => {
    const { factor, offset } = mapping.columns[at]!;
    return numberOf(cells[at] ?? "", mapping.decimalComma) * factor + offset;
  };
  return {
    read(cells) {
      const text = dateAt >= 0 ? `${cells[dateAt] ?? ""} ${cells[timeAt] ?? ""}` : (cells[timeAt] ?? "");
      const timeMs = timeAt < 0 ? NaN : timeOf(text, mapping);
      if (!Number.isFinite(timeMs) || timeMs < EARLIEST || timeMs > LATEST)
        return { ok: false, message: `no time in “${text.slice(0, 40)}”` };
      const values: Reading["values"] = {};
      for (const { column, at } of sources) {
        let read = value(cells, at);
        if (column === "battery_current_a") read *= mapping.sign;
        const [low, high] = COLUMN_LIMITS[column];
        if (read >= low && read <= high) values[column] = read;
      }
      const volts = values.battery_voltage_v;
      if (values.battery_current_a === undefined && powerAt >= 0 && volts) {
        const amps = (value(cells, powerAt) * mapping.sign) / volts;
        if (Number.isFinite(amps) && Math.abs(amps) <= 5000) values.battery_current_a = amps;
      }
      if (values.solar_power_w === undefined && solarAt >= 0 && volts) {
        const watts = value(cells, solarAt) * volts;
        if (watts >= -50 && watts <= 200_000) values.solar_power_w = watts;
      }
      const note = noteAt >= 0 ? (cells[noteAt] ?? "").trim().slice(0, 500) : "";
      if (Object.keys(values).length === 0 && !note) return { ok: false, message: "no reading in the row" };
      return { ok: true, reading: { timeMs: Math.round(timeMs), values, ...(note ? { note } : {}) } };
    },
  };
}

/** Years before and after which a logger's clock has lost its time. */
const EARLIEST = Date.UTC(2000, 0, 1);
const LATEST = Date.UTC(2090, 0, 1);
