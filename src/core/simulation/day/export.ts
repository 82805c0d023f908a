import { isoOf } from "../../units/clock";
import type { DayRecord } from "./record";

type Column = [name: string, digits: number, of: (record: DayRecord) => Float32Array];

/** The columns after `time`, in SI (degC for temperatures); docs/formats.md describes them. */
const COLUMNS: Column[] = [
  ["state_of_charge", 5, ({ stateOfCharge: share }) => share],
  ["bank_V", 3, ({ bankVolts }) => bankVolts],
  ["inverter_V", 3, ({ inverterVolts }) => inverterVolts],
  ["bank_A", 2, ({ bankCurrent }) => bankCurrent],
  ["cabin_degC", 2, ({ cabinC }) => cabinC],
  ["outdoor_degC", 2, ({ outdoorC }) => outdoorC],
  ["set_point_degC", 2, ({ setPointC }) => setPointC],
  ["relative_humidity", 3, ({ humidity }) => humidity],
  ["compressor", 3, ({ compressor }) => compressor],
  ["sun_W_per_m2", 1, ({ sun }) => sun],
  ["solar_W", 1, ({ sunPower }) => sunPower],
  ["solar_lost_W", 1, ({ lost }) => lost],
  ["engine_W", 1, ({ engine }) => engine],
  ["shore_W", 1, ({ shore }) => shore],
  ["generator_W", 1, ({ generator }) => generator],
  ["units_W", 1, ({ units }) => units],
  ["loads_W", 1, ({ loads }) => loads],
  ["losses_W", 1, ({ losses }) => losses],
];

export const CSV_COLUMNS = ["time", ...COLUMNS.map(([name]) => name)];

/** The first `days` of a record as CSV (RFC 4180), a line a step; empty where a column has no value. */
export function recordAsCsv(record: DayRecord, days: number): string {
  const steps = Math.min(record.steps, Math.round((days * 86_400) / record.stepS));
  const lines = [CSV_COLUMNS.join(",")];
  const columns = COLUMNS.map(([, digits, of]) => ({ digits, line: of(record) }));
  for (let k = 0; k < steps; k++) {
    const values = columns.map(({ digits, line }) => {
      const value = line[k]!;
      return Number.isNaN(value) ? "" : String(Number(value.toFixed(digits)));
    });
    lines.push([isoOf(record.clock, k * record.stepS), ...values].join(","));
  }
  return `${lines.join("\r\n")}\r\n`;
}

/** Totals of a run in J, s and K s, by speaking names. */
export function totalsOf({ totals: t, secondsCut }: DayRecord): Record<string, number> {
  const whole = (value: number) => Math.round(value);
  return {
    solar_J: whole(t.solarUsed),
    solar_lost_J: whole(t.solarLost),
    engine_J: whole(t.engine),
    shore_J: whole(t.shore),
    generator_J: whole(t.generator),
    units_J: whole(t.units),
    loads_J: whole(t.loads),
    losses_J: whole(t.inverterLoss + t.pathLoss + t.bankLoss + t.chargerLoss),
    from_store_J: whole(t.fromStore),
    asked_s: whole(t.secondsAsked),
    at_set_point_s: whole(t.secondsMet),
    missed_K_s: whole(t.degreeHoursMissed * 3600),
    compressor_s: whole(t.secondsCompressor),
    cut_off_s: whole(secondsCut),
  };
}
