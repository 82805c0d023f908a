import type { JobPath } from "../../document/path";
import type { Job } from "../../document/schema";
import { fieldAt, labelOfPath, partAt } from "../../document/labels";
import type { JobQuantity } from "../../document/resolved";
import { Kept } from "../../document/kept";
import { everyKnown, resolveJob, withWiringOf } from "../../document/resolve";
import type { BankKey, BranchKey, InverterKey, LinkKey, PartKey, WiringKey, UnitKey } from "../../document/fields";
import { keyOf, stepsOf, type JobGroup, type JobKey, type JobSteps, type Step } from "../../document/path";
import { buildSystem } from "../../models/system/build";
import { assessCarries, type CarriesResult } from "../carries/carries";
import type { System } from "../../models/system/system";
import { startMargin } from "../starts/starts";

/** One assumed value and how far it can move a verdict's margin over its plausible range. */
export interface Unknown {
  path: JobPath;
  label: string;
  /** Margins with the value at the low and the high end of its plausible range. */
  low: number;
  high: number;
  /** Width between them: what the ranking goes by. */
  swing: number;
  /** Whether the verdict's word would turn over that range: from holding to failing or back. */
  turns: boolean;
  /** How to measure it; empty where the plate or the data sheet says it. */
  measure: string;
}

export interface MeasureNext {
  starts: Unknown[];
  carries: Unknown[];
}

/** Margins beyond this are all alike: there is ample. */
const AMPLE = 3;
const SHOWN = 5;

/** Parts of the document that are choices of the job, its surroundings or prices: no instrument reads them in a minute. */
const NO_INSTRUMENT: ReadonlySet<JobGroup> = new Set<JobGroup>([
  "brief",
  "startAids",
  "supplies",
  "place",
  "weather",
  "cabin",
  "sources",
  "plan",
]);

const UNIT_BY_PLATE: readonly UnitKey[] = [
  ...([
    "coolingPower",
    "powerPerKelvin",
    "fanPower",
    "fanLowPower",
    "capacityPerKelvin",
    "sensibleHeatRatio",
    "thermostatBand",
  ] as const),
  ...([
    "minimumOff",
    "sinceStop",
    "rampTime",
    "condenserRise",
    "compressorCurrent",
    "pumpPower",
    "supplyVoltage",
    "cutOffVoltage",
  ] as const),
  ...(["maximumPower", "measuredAtC", "waterLeavingC"] as const),
];
const BANK_BY_PLATE: readonly BankKey[] = [
  ...(["blockVoltage", "chargeToVoltage", "startSoc", "reserve", "highestChargeC"] as const),
  ...(["seriesAllowed", "peukert", "ratedTime", "peakTime", "chargeCurrent"] as const),
];
const INVERTER_BY_PLATE: readonly InverterKey[] = [
  ...(["ventHeight", "idlePower", "lossRise", "alarmVoltage", "alarmDelay"] as const),
  ...(["inletLimit", "chargeCurrent", "transferTime", "deratePerKelvin"] as const),
];
const WIRING_BY_PLATE: readonly (WiringKey | LinkKey | BranchKey | PartKey)[] = [
  ...(["dropLimit", "branchDropLimit", "fuseRating", "voltage", "interrupting", "circuits", "loadVoltage"] as const),
  ...(["converterRating", "efficiency", "vehicleVoltage", "starterShortCircuit", "leadLength", "leadAreaMm2"] as const),
];
/** Limits set by rule and values that only a plate or a data sheet tells, by part of the document. */
const BY_PLATE: Readonly<Partial<Record<JobGroup, ReadonlySet<JobKey>>>> = {
  units: new Set(UNIT_BY_PLATE),
  bank: new Set(BANK_BY_PLATE),
  inverter: new Set(INVERTER_BY_PLATE),
  wiring: new Set(WIRING_BY_PLATE),
};

/** Whether somebody with a meter, a tape or an eye on the part could read the value at a path. */
function isMeasurable(path: JobPath): boolean {
  const [group, second] = stepsOf(path);
  // Readings of the wiring are measured already.
  if (NO_INSTRUMENT.has(group) || (group === "wiring" && second === "measured")) return false;
  return !BY_PLATE[group]?.has(keyOf(path));
}

/** Fields that differ most between what is assumed and what is found: resistances and lengths. */
const WIDE: ReadonlySet<JobKey> = new Set<JobKey>(["resistance", "jointResistance", "protectionResistance", "length"]);
/** Circuits that carry, and have no part in the inverter's start. */
const NOT_OF_A_START: ReadonlySet<JobSteps[1]> = new Set(["mains", "branches"] as const);

/** Values of a start alone. Carries may see them in a breaker that is assumed to let the start pass, and nowhere else. */
export const OF_A_START: ReadonlySet<JobKey> = new Set<JobKey>([
  ...(["startPowerFactor", "startTime", "softReduction", "softRamp"] as const),
  ...(["surge1", "surge1Time", "surge2", "surge2Time", "surge3", "surge3Time"] as const),
]);

/** Whether a value is one of a part of the wiring or of the links: all that does not hang on the wiring is as it was. */
const isOfParts = ([group, list, , side]: readonly Step[]): boolean =>
  group === "wiring" &&
  (list === "main" ||
    list === "mains" ||
    list === "links" ||
    (list === "branches" && (side === "parts" || side === "far")));

/** Whether every quantity of two wirings is alike; what was taken over is the same thing. */
function alike(one: object, other: object): boolean {
  if (one === other) return true;
  if ("origin" in one) return "origin" in other && (one as JobQuantity).value === (other as JobQuantity).value;
  const keys = Object.keys(one) as (keyof typeof one)[];
  return (
    keys.length === Object.keys(other).length &&
    keys.every((key) => typeof other[key] === "object" && alike(one[key], other[key]))
  );
}

type Found = CarriesResult["ofCircuits"];

/** What was found of circuits that a value has no part in: all but its own, where it is of the parts of a circuit beside the main one. */
export function untouchedBy(steps: readonly Step[], found: Found): Found {
  const [, list, index] = steps;
  const own = `wiring.${list}${list === "branches" ? `.${index}.` : ""}`;
  const beside = isOfParts(steps) && (list === "mains" || list === "branches");
  return new Map(beside ? [...found].filter(([path]) => !path.startsWith(own)) : []);
}

/** The least margin of Carries, at most ample; what was found of some circuits is taken over. */
export function carriesMargin(system: System, found?: Found): { margin: number; found: Found } {
  const { verdict, ofCircuits } = assessCarries(system, { which: "margins", ...(found ? { found } : {}) });
  // A part that is missing is no matter of margin.
  const { margin } = verdict.checks
    .filter(({ form }) => form !== "there")
    .reduce((least, one) => (one.rank < least.rank ? one : least));
  return { margin: Math.min(AMPLE, margin), found: ofCircuits };
}

/** A copy of the document with one value put in; what is not on the way to it is shared. */
export function withValue<T>(document: T, [step, ...rest]: readonly Step[], value: unknown): T {
  if (step === undefined) return value as T;
  const inner = withValue((document as Record<Step, unknown> | undefined)?.[step] ?? {}, rest, value);
  if (Array.isArray(document)) return document.map((one: unknown, i) => (i === step ? inner : one)) as T;
  return { ...document, [step]: inner };
}

/** A plausible range about a typical value: the field's own, but never wider than a third to three times it. */
function rangeOf(known: JobQuantity, job: Job): [number, number] | null {
  const spec = fieldAt(known.path, partAt(job, known.path));
  if (!spec) return null;
  if (spec.dimension === "temperature")
    return [Math.max(spec.low, known.value - 15), Math.min(spec.high, known.value + 15)];
  if (known.value <= 0 || spec.dimension === "count") return null;
  if (spec.dimension === "voltage") return [known.value * 0.92, known.value * 1.08];
  const narrow = WIDE.has(keyOf(known.path)) ? 3 : 1.6;
  const low = Math.min(known.value, Math.max(spec.low, known.value / narrow));
  const high = Math.max(known.value, Math.min(spec.high, known.value * narrow));
  return [low, high];
}

/**
 * The assumed values that could move the margins of Starts and Carries most: each in turn set to the ends of its
 * plausible range, everything else as it stands, and the verdicts' margins taken again.
 */
export function measureNext(job: Job): MeasureNext {
  const found: Record<keyof MeasureNext, Unknown[]> = { starts: [], carries: [] };
  const kept = new Kept();
  const values = resolveJob(job, { kept });
  const system = buildSystem(job, values, kept);
  const carrying = carriesMargin(system);
  const now = { starts: Math.min(AMPLE, startMargin(system)), carries: carrying.margin };
  for (const known of everyKnown(values)) {
    if (known.origin !== "assumed" || !isMeasurable(known.path)) continue;
    const range = rangeOf(known, job);
    if (!range || range[1] <= range[0]) continue;
    // The mains side and the other runs carry; they have no part in the inverter's start.
    const steps = stepsOf(known.path);
    const start = !(steps[0] === "wiring" && NOT_OF_A_START.has(steps[1]));
    const untouched = untouchedBy(steps, carrying.found);
    const at = range.map((value) => {
      const changed = withValue(job, steps, { value, origin: "plate" });
      const itsValues = isOfParts(steps)
        ? withWiringOf(values, changed, kept)
        : resolveJob(changed, { surroundings: values, kept });
      const its = buildSystem(changed, itsValues, kept);
      return {
        starts: start ? Math.min(AMPLE, startMargin(its)) : NaN,
        carries:
          OF_A_START.has(keyOf(known.path)) && alike(values.wiring, itsValues.wiring)
            ? now.carries
            : carriesMargin(its, untouched).margin,
      };
    });
    for (const verdict of start ? (["starts", "carries"] as const) : (["carries"] as const)) {
      const [low, high] = [at[0]![verdict], at[1]![verdict]];
      const [least, most] = [Math.min(low, high, now[verdict]), Math.max(low, high, now[verdict])];
      if (most - least < 0.01) continue;
      found[verdict].push({
        path: known.path,
        label: labelOfPath(job, known.path),
        low,
        high,
        swing: most - least,
        turns: least < 1 && most >= 1,
        measure: fieldAt(known.path, partAt(job, known.path))?.measure ?? "",
      });
    }
  }
  const ranked = (list: Unknown[]) =>
    list.sort((a, b) => Number(b.turns) - Number(a.turns) || b.swing - a.swing).slice(0, SHOWN);
  return { starts: ranked(found.starts), carries: ranked(found.carries) };
}
