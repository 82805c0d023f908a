import { z } from "zod";
import type { Quantity } from "../units/known";

/*
 * What an air conditioner draws, as installers have it: amps at a shunt with something else on, a plug meter's kilowatt-hours,
 * a percentage that fell, a monitor's time-to-go. Each reading is brought to the current that the unit alone adds at the
 * battery, or to its AC current; all are kept, and the surest of each state is used.
 */

export const DRAW_KINDS = [
  "battery-current",
  "battery-power",
  "ac-current",
  "ac-power",
  "energy",
  "percent",
  "time-to-go",
] as const;
export type DrawKind = (typeof DRAW_KINDS)[number];
export const DRAW_STATES = ["full", "low", "fan", "holding"] as const;
export type DrawState = (typeof DRAW_STATES)[number];

const id = z.string().regex(/^[A-Za-z0-9_-]{1,40}$/);
const part = z.number().min(0).max(1);
const amps = z.number().min(0).max(5000);
/** Beside each reading, where they are known. */
const BESIDE = {
  id,
  state: z.enum(DRAW_STATES),
  /** A that everything else drew from the battery meanwhile, and A that came in from solar. */
  otherA: amps.optional(),
  solarA: amps.optional(),
  /** Battery or AC voltage at the reading. */
  volts: z.number().min(1).max(500).optional(),
  outdoorC: z.number().min(-30).max(60).optional(),
};
const hours = z.number().min(0.02).max(240);

/** One reading as it is kept: A, W, Wh, parts of one, hours, degC. */
export const drawReadingSchema = z.discriminatedUnion("kind", [
  z.strictObject({ ...BESIDE, kind: z.literal("battery-current"), current: z.number().min(-5000).max(5000) }),
  z.strictObject({ ...BESIDE, kind: z.literal("battery-power"), power: z.number().min(-200_000).max(200_000) }),
  z.strictObject({ ...BESIDE, kind: z.literal("ac-current"), current: amps }),
  z.strictObject({ ...BESIDE, kind: z.literal("ac-power"), power: z.number().min(0).max(100_000) }),
  z.strictObject({ ...BESIDE, kind: z.literal("energy"), energy: z.number().min(0).max(1_000_000), hours }),
  z.strictObject({ ...BESIDE, kind: z.literal("percent"), from: part, to: part, hours }),
  z.strictObject({ ...BESIDE, kind: z.literal("time-to-go"), charge: part, floor: part, hours }),
]);
export type DrawReading = z.infer<typeof drawReadingSchema>;

/** What readings are brought to the unit's own draw by. */
export interface DrawContext {
  /** Nominal voltage of the battery, capacity now in A h, and the volts of the unit's AC supply. */
  batteryVolts: number;
  capacityAh: number;
  acVolts: number;
  /** Power factor of the running unit, and the inverter's loss per watt of AC, its further loss at full load and rating. */
  powerFactor: number;
  lossPerWatt: number;
  /** A unit that runs on battery DC has no AC side. */
  direct: boolean;
}

/** What a reading says of the unit alone. */
export interface DrawMeaning {
  reading: DrawReading;
  /** A that the unit adds at the battery, and W that are these at its nominal volts. */
  addedA: number;
  batteryW: number;
  /** Standard uncertainty over the value. */
  spread: number;
  /** Why it says nothing, in words; empty where it does. */
  fault: string;
}

/** Relative standard uncertainties of the ways to read (common practice, no source). */
const SPREAD: Record<DrawKind, number> = {
  "battery-current": 0.03,
  "battery-power": 0.03,
  "ac-power": 0.04,
  energy: 0.04,
  "ac-current": 0.07,
  percent: 0.05,
  "time-to-go": 0.2,
};
/** A percentage is read to one of a hundred: at either end half of it is not known. */
const PERCENT_STEP = 0.01;

/** One reading as what the unit alone draws. */
export function meaningOf(reading: DrawReading, c: DrawContext): DrawMeaning {
  const other = reading.otherA ?? 0;
  const solar = reading.solarA ?? 0;
  const fromAc = (watts: number) => (c.direct ? watts : watts * (1 + c.lossPerWatt)) / c.batteryVolts;
  const say = (addedA: number, fault = "", spread = SPREAD[reading.kind]): DrawMeaning => ({
    reading,
    addedA,
    batteryW: addedA * c.batteryVolts,
    spread,
    fault: fault || (addedA > 0 ? "" : "nothing is left for the air conditioner: check what else was on"),
  });
  switch (reading.kind) {
    case "battery-current":
      return say(reading.current + solar - other);
    case "battery-power":
      return say(reading.power / (reading.volts ?? c.batteryVolts) + solar - other);
    case "ac-current":
      return say(fromAc(reading.current * (reading.volts ?? c.acVolts) * c.powerFactor));
    case "ac-power":
      return say(fromAc(reading.power));
    case "energy":
      return say(fromAc(reading.energy / reading.hours));
    case "percent": {
      const fell = reading.from - reading.to;
      const drawn = (fell * c.capacityAh) / reading.hours;
      if (fell <= 0) return say(0, "the percentage must fall");
      return say(drawn + solar - other, "", Math.hypot(SPREAD.percent, PERCENT_STEP / fell));
    }
    case "time-to-go": {
      const left = reading.charge - reading.floor;
      if (left <= 0) return say(0, "the percentage must be above the floor");
      return say((left * c.capacityAh) / reading.hours + solar - other);
    }
  }
}

/** Readings of one state disagree where they lie further apart than this many of their uncertainties together. */
const APART = 2.5;

/** What all readings of a unit come to: the meaning of each, the surest of each state, and those that disagree with it. */
export interface DrawFindings {
  meanings: DrawMeaning[];
  best: Partial<Record<DrawState, DrawMeaning>>;
  /** Ids of readings that disagree with the best of their state. */
  disagree: string[];
}

export function drawFindings(readings: readonly DrawReading[], context: DrawContext): DrawFindings {
  const meanings = readings.map((reading) => meaningOf(reading, context));
  const best: DrawFindings["best"] = {};
  for (const one of meanings) {
    const { state } = one.reading;
    if (one.fault) continue;
    const held = best[state];
    // Of two as sure as one another the later counts.
    if (!held || one.spread <= held.spread) best[state] = one;
  }
  const disagree = meanings
    .filter((one) => {
      const held = best[one.reading.state];
      if (!held || held === one || one.fault) return false;
      const sigma = Math.hypot(held.spread * held.addedA, one.spread * one.addedA);
      return Math.abs(held.addedA - one.addedA) > APART * sigma;
    })
    .map(({ reading }) => reading.id);
  return { meanings, best, disagree };
}

const FIELD: Record<DrawState, "dcRunningCurrent" | "dcLowCurrent" | "dcFanCurrent" | "dcAverageCurrent"> = {
  full: "dcRunningCurrent",
  low: "dcLowCurrent",
  fan: "dcFanCurrent",
  holding: "dcAverageCurrent",
};

/** The unit's quantities that its readings stand for; what was entered beside them comes first. */
export function measuredByReadings(
  readings: readonly DrawReading[],
  context: DrawContext,
): Partial<Record<(typeof FIELD)[DrawState] | "measuredAtC", Quantity>> {
  const { best } = drawFindings(readings, context);
  const found: ReturnType<typeof measuredByReadings> = {};
  for (const state of DRAW_STATES) {
    const one = best[state];
    if (one) found[FIELD[state]] = { value: one.addedA, origin: "measured" };
  }
  const at = (best.full ?? best.holding ?? best.low)?.reading.outdoorC;
  if (at !== undefined) found.measuredAtC = { value: at, origin: "measured" };
  return found;
}
