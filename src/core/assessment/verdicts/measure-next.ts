import type { Rig } from "../../document/schema";
import { fieldAt, labelOfPath, partAt } from "../../document/labels";
import type { ResolvedQuantity } from "../../units/known";
import { everyKnown, resolveRig } from "../../document/resolve";
import { buildSystem } from "../../models/system/build";
import { assessCarries } from "../carries/carries";
import { startMargin } from "../starts/starts";

/** One assumed value and how far it can move a verdict's margin over its plausible range. */
export interface Unknown {
  path: string;
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

/** Values that no instrument reads: choices of the job, limits set by rule, prices. */
const NOT_MEASURED =
  /^(brief\.(?!outdoorC)|cures|supplies|place|cabin|sources|plan)|dropLimit|DropLimit|reserve|hoursWanted|setPoint|loadVoltage|measured\.|alarm|peukert|ratedTime|chargeTo|startShare|interrupting|ventHeight|measuredAtC|blockVoltage|fan(Low)?Power|coolingPower|idlePower|lossRise|capacityPerKelvin|sensibleShare|thermostatBand|minimumOff|condenserRise|waterLeaving|\.voltage$|supplyVoltage|units\.\d+\.cutOffVoltage|fuseRating|vehicleVoltage|starterShort|lead(Length|Area)|inletLimit|inverter\.chargeCurrent|transferTime|highestCharge|seriesAllowed|circuits|compressorCurrent|converterRating|pumpPower/;

function margins(rig: Rig, starts: boolean): { starts: number; carries: number } {
  const system = buildSystem(rig);
  // A part that is missing is no matter of margin.
  const carries = assessCarries(system)
    .verdict.checks.filter(({ dimension }) => dimension !== "count")
    .reduce((least, one) => (one.rank < least.rank ? one : least));
  return { starts: starts ? Math.min(AMPLE, startMargin(system)) : NaN, carries: Math.min(AMPLE, carries.margin) };
}

/** A copy of the document with one value put in; what is not on the way to it is shared. */
function withValue<T>(document: T, steps: string[], value: unknown): T {
  if (steps.length === 0) return value as T;
  const [step, ...rest] = steps as [string, ...string[]];
  const inner = withValue((document as Record<string, unknown> | undefined)?.[step] ?? {}, rest, value);
  if (Array.isArray(document)) return document.map((one: unknown, i) => (String(i) === step ? inner : one)) as T;
  return { ...document, [step]: inner };
}

/** A plausible range about a typical value: the field's own, but never wider than a third to three times it. */
function rangeOf(known: ResolvedQuantity, rig: Rig): [number, number] | null {
  const spec = fieldAt(known.path, partAt(rig, known.path));
  if (!spec) return null;
  if (spec.dimension === "temperature")
    return [Math.max(spec.low, known.value - 15), Math.min(spec.high, known.value + 15)];
  if (known.value <= 0 || spec.dimension === "count") return null;
  if (spec.dimension === "voltage") return [known.value * 0.92, known.value * 1.08];
  const narrow = /resistance|Resistance|length/.test(known.path) ? 3 : 1.6;
  const low = Math.min(known.value, Math.max(spec.low, known.value / narrow));
  const high = Math.max(known.value, Math.min(spec.high, known.value * narrow));
  return [low, high];
}

/**
 * The assumed values that could move the margins of Starts and Carries most: each in turn set to the ends of its
 * plausible range, everything else as it stands, and the verdicts' margins taken again.
 */
export function measureNext(rig: Rig): MeasureNext {
  const found: Record<keyof MeasureNext, Unknown[]> = { starts: [], carries: [] };
  const now = margins(rig, true);
  for (const known of everyKnown(resolveRig(rig))) {
    if (known.origin !== "assumed" || NOT_MEASURED.test(known.path)) continue;
    const range = rangeOf(known, rig);
    if (!range || range[1] <= range[0]) continue;
    // The mains side and the other runs carry; they have no part in the inverter's start.
    const start = !/^path\.(mains|branches)/.test(known.path);
    const at = range.map((value) => margins(withValue(rig, known.path.split("."), { value, origin: "plate" }), start));
    for (const verdict of start ? (["starts", "carries"] as const) : (["carries"] as const)) {
      const [low, high] = [at[0]![verdict], at[1]![verdict]];
      const [least, most] = [Math.min(low, high, now[verdict]), Math.max(low, high, now[verdict])];
      if (most - least < 0.01) continue;
      found[verdict].push({
        path: known.path,
        label: labelOfPath(rig, known.path),
        low,
        high,
        swing: most - least,
        turns: least < 1 && most >= 1,
        measure: fieldAt(known.path, partAt(rig, known.path))?.measure ?? "",
      });
    }
  }
  const ranked = (list: Unknown[]) =>
    list.sort((a, b) => Number(b.turns) - Number(a.turns) || b.swing - a.swing).slice(0, SHOWN);
  return { starts: ranked(found.starts), carries: ranked(found.carries) };
}
