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
  /** Of the hour that it was read in: local minute of the day, sea, people on board, sun on the vehicle, a door or hatch open. */
  minute: z.int().min(0).max(1439).optional(),
  seaC: z.number().min(-2).max(40).optional(),
  people: z.int().min(0).max(20).optional(),
  sun: z.enum(["sun", "part", "none"]).optional(),
  open: z.boolean().optional(),
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
  /** W of the unit on its AC side, where that is what was read; null elsewhere. */
  supplyW: number | null;
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
  const say = (
    addedA: number,
    { fault = "", spread = SPREAD[reading.kind], supplyW = null as number | null } = {},
  ): DrawMeaning => ({
    reading,
    addedA,
    batteryW: addedA * (reading.kind === "battery-current" ? (reading.volts ?? c.batteryVolts) : c.batteryVolts),
    supplyW,
    spread,
    fault: fault || (addedA > 0 ? "" : "nothing is left for the air conditioner: check what else was on"),
  });
  const onAc = (watts: number) =>
    say((c.direct ? watts : watts * (1 + c.lossPerWatt)) / c.batteryVolts, { supplyW: c.direct ? null : watts });
  switch (reading.kind) {
    case "battery-current":
      return say(reading.current + solar - other);
    case "battery-power":
      return say(reading.power / (reading.volts ?? c.batteryVolts) + solar - other);
    case "ac-current":
      return onAc(reading.current * (reading.volts ?? c.acVolts) * c.powerFactor);
    case "ac-power":
      return onAc(reading.power);
    case "energy":
      return onAc(reading.energy / reading.hours);
    case "percent": {
      const fell = reading.from - reading.to;
      const drawn = (fell * c.capacityAh) / reading.hours;
      if (fell <= 0) return say(0, { fault: "the percentage must fall" });
      return say(drawn + solar - other, { spread: Math.hypot(SPREAD.percent, PERCENT_STEP / fell) });
    }
    case "time-to-go": {
      const left = reading.charge - reading.floor;
      if (left <= 0) return say(0, { fault: "the percentage must be above the floor" });
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
  /** The line through those with the compressor at full, at different outdoor temperatures; null where they are too few. */
  line: PowerLine | null;
  /** Ids of readings that disagree with the best of their state. */
  disagree: string[];
}

/** A straight line of what a unit adds at full over the outdoor temperature. */
export interface PowerLine {
  /** A at 35 degC outdoors, and the rise over that for each kelvin. */
  at35: number;
  perKelvin: number;
  /** How many readings it goes through. */
  count: number;
}

const RATED_C = 35;
/** Readings have to lie this far apart for a slope, K; of their slopes no more than a unit can have is taken, per K. */
const APART_K = 3;
const MOST_RISE = 0.06;
/** Rise by which readings of different temperatures are compared where they show none of their own (common practice, no source). */
const USUAL_RISE = 0.013;

/** The line by weighted least squares through readings at full whose outdoor temperature is known. */
export function powerLine(meanings: readonly DrawMeaning[]): PowerLine | null {
  const points = meanings.flatMap(({ reading, addedA, spread, fault }) =>
    reading.state === "full" && !fault && reading.outdoorC !== undefined
      ? [{ x: reading.outdoorC - RATED_C, y: addedA, w: 1 / (spread * addedA) ** 2 }]
      : [],
  );
  const temperatures = points.map(({ x }) => x);
  if (points.length < 2 || Math.max(...temperatures) - Math.min(...temperatures) < APART_K) return null;
  const sum = (of: (point: (typeof points)[number]) => number) => points.reduce((total, one) => total + of(one), 0);
  const w = sum((one) => one.w);
  const meanX = sum((one) => one.w * one.x) / w;
  const meanY = sum((one) => one.w * one.y) / w;
  const slope = sum((one) => one.w * (one.x - meanX) * (one.y - meanY)) / sum((one) => one.w * (one.x - meanX) ** 2);
  const at35 = meanY - slope * meanX;
  if (at35 <= 0) return null;
  return { at35, perKelvin: Math.min(MOST_RISE, Math.max(0, slope / at35)), count: points.length };
}

/** A that a reading would be at another's outdoor temperature; itself where one of the two is not known. */
function broughtTo({ reading, addedA }: DrawMeaning, outdoorC: number | undefined, rise: number): number {
  if (reading.outdoorC === undefined || outdoorC === undefined) return addedA;
  return (addedA * (1 + rise * (outdoorC - RATED_C))) / (1 + rise * (reading.outdoorC - RATED_C));
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
  const line = powerLine(meanings);
  const rise = line?.perKelvin ?? USUAL_RISE;
  const disagree = meanings
    .filter((one) => {
      const held = best[one.reading.state];
      if (!held || held === one || one.fault) return false;
      const own = one.reading.state === "full" ? broughtTo(one, held.reading.outdoorC, rise) : one.addedA;
      const sigma = Math.hypot(held.spread * held.addedA, one.spread * own);
      return Math.abs(held.addedA - own) > APART * sigma;
    })
    .map(({ reading }) => reading.id);
  return { meanings, best, line, disagree };
}

/** The most that any of some readings says the unit adds at the battery, A; 0 where none says anything. */
export const mostDrawn = (readings: readonly DrawReading[], context: DrawContext): number =>
  readings
    .map((reading) => meaningOf(reading, context))
    .reduce((most, { addedA, fault }) => (fault ? most : Math.max(most, addedA)), 0);

const FIELD: Record<DrawState, "dcRunningCurrent" | "dcLowCurrent" | "dcFanCurrent" | "dcAverageCurrent"> = {
  full: "dcRunningCurrent",
  low: "dcLowCurrent",
  fan: "dcFanCurrent",
  holding: "dcAverageCurrent",
};

/**
 * By state, the reading that a unit's quantity stands on: what it says beside the amps. None where the quantity was entered, or
 * where a line through several readings stands for the draw.
 */
export type DrawnStates = Partial<Record<DrawState, DrawMeaning>>;

export function drawnStates(
  unit: { readings?: readonly DrawReading[] } & Partial<Record<(typeof FIELD)[DrawState], Quantity>>,
  context: DrawContext,
): DrawnStates {
  const { best, line } = drawFindings(unit.readings ?? [], context);
  const drawn: DrawnStates = {};
  for (const state of DRAW_STATES)
    if (best[state] && !unit[FIELD[state]] && !(state === "full" && line)) drawn[state] = best[state];
  return drawn;
}

/** The unit's quantities that its readings stand for; what was entered beside them comes first. */
export function measuredByReadings(
  readings: readonly DrawReading[],
  context: DrawContext,
): Partial<Record<(typeof FIELD)[DrawState] | "measuredAtC" | "powerPerKelvin", Quantity>> {
  const { best, line } = drawFindings(readings, context);
  const found: ReturnType<typeof measuredByReadings> = {};
  for (const state of DRAW_STATES) {
    const one = best[state];
    if (one) found[FIELD[state]] = { value: one.addedA, origin: "measured" };
  }
  const at = (best.full ?? best.holding ?? best.low)?.reading.outdoorC;
  if (at !== undefined) found.measuredAtC = { value: at, origin: "measured" };
  if (line) {
    // All readings at full stand for the draw, and not the surest alone: it is read off their line where that one was.
    const atC = best.full!.reading.outdoorC ?? RATED_C;
    found.dcRunningCurrent = { value: line.at35 * (1 + line.perKelvin * (atC - RATED_C)), origin: "measured" };
    found.measuredAtC = { value: atC, origin: "measured" };
    found.powerPerKelvin = { value: line.perKelvin, origin: "fitted" };
  }
  return found;
}
