import { MAINS_KEYS } from "../../reference/standards/mains";
import { z } from "zod";
import {
  BANK_FIELDS,
  BRANCH_FIELDS,
  START_AID_FIELDS,
  INVERTER_FIELDS,
  PART_FIELDS,
  UNIT_FIELDS,
} from "../../document/fields";
import type { FieldSpec } from "../../units/known";
import type { Fault } from "../../document/schema";

const spec = (
  label: string,
  dimension: FieldSpec["dimension"],
  [low, high]: [number, number],
  [min, max]: [number, number],
): FieldSpec => ({ label, dimension, low, high, min, max });

const pick = <T extends Record<string, FieldSpec>, K extends keyof T>(fields: T, keys: readonly K[]) =>
  Object.fromEntries(keys.map((key) => [key, fields[key]])) as Pick<T, K>;

interface ShelfKind {
  title: string;
  /** Plural, for lists. */
  plural: string;
  fields: Record<string, FieldSpec>;
  /** Words to choose from; the first is what an entry has that does not say. */
  choices: Record<string, readonly string[]>;
}

const INVERTER_KEYS = [
  "rating",
  "surge1",
  "surge1Time",
  "surge2",
  "surge2Time",
  "surge3",
  "surge3Time",
  "idlePower",
  "lossShare",
  "lossRise",
  "alarmVoltage",
  "cutOffVoltage",
  "cutOffDelay",
  "maxDcCurrent",
  "derateFromC",
  "deratePerKelvin",
] as const;

/** What the workshop's shelf holds: the kinds of parts, each with the quantities a data sheet gives. */
export const SHELF_KINDS = {
  unit: {
    title: "Air conditioner",
    plural: "Air conditioners",
    fields: pick(UNIT_FIELDS, [
      "coolingPower",
      "ratedPower",
      "runningCurrent",
      "runningPowerFactor",
      "lockedRotorCurrent",
      "startPowerFactor",
      "startTime",
      "rampTime",
      "fanPower",
      "fanLowPower",
    ]),
    choices: { kind: ["fixed", "variable", "dc"], mains: [...MAINS_KEYS] },
  },
  "soft-starter": {
    title: "Soft starter",
    plural: "Soft starters",
    fields: pick(UNIT_FIELDS, ["softReduction", "softRamp"]),
    choices: {},
  },
  inverter: {
    title: "Inverter",
    plural: "Inverters",
    fields: pick(INVERTER_FIELDS, INVERTER_KEYS),
    choices: { type: ["high-frequency", "transformer"], waveform: ["sine", "modified"] },
  },
  battery: {
    title: "Battery",
    plural: "Batteries",
    fields: pick(BANK_FIELDS, [
      "blockVoltage",
      "capacityAh",
      "resistance",
      "continuousCurrent",
      "peakCurrent",
      "peakTime",
      "peukert",
    ]),
    choices: { chemistry: ["lfp", "nmc", "agm"] },
  },
  cable: {
    title: "Cable",
    plural: "Cables",
    fields: pick(PART_FIELDS.cable, ["areaMm2", "ampacity"]),
    choices: { insulation: ["90", "70", "105"] },
  },
  fuse: {
    title: "Fuse or DC breaker",
    plural: "Fuses and DC breakers",
    fields: pick(PART_FIELDS.fuse, ["rating", "voltage", "interrupting", "resistance"]),
    choices: { fuseKind: ["class-t", "bolted-strip", "terminal", "blade", "hrc", "breaker"] },
  },
  panel: {
    title: "Solar panel",
    plural: "Solar panels",
    fields: {
      peakPower: spec("Peak power", "power", [50, 450], [1, 2000]),
      panelLength: spec("Length", "length", [0.5, 2.1], [0.1, 5]),
      panelWidth: spec("Width", "length", [0.4, 1.2], [0.1, 5]),
      openVoltage: spec("Open-circuit voltage", "voltage", [18, 55], [1, 200]),
    },
    choices: {},
  },
  charger: {
    title: "Charger or converter",
    plural: "Chargers and converters",
    fields: pick(BRANCH_FIELDS, ["current"]),
    choices: { role: ["charger", "engine", "solar"] },
  },
} satisfies Record<string, ShelfKind>;

export type ShelfKindKey = keyof typeof SHELF_KINDS;
export const SHELF_KIND_KEYS = Object.keys(SHELF_KINDS) as ShelfKindKey[];
const kinds: Record<ShelfKindKey, ShelfKind> = SHELF_KINDS;
export const shelfKind = (key: ShelfKindKey): ShelfKind => kinds[key];

/** One part on the shelf: typical, or the workshop's own. Quantities in the core's units; absent ones are not known. */
export interface ShelfEntry {
  kind: ShelfKindKey;
  name: string;
  note: string;
  choices: Record<string, string>;
  values: Record<string, number>;
  /** In the workshop's currency. */
  cost?: number;
  /** kg. */
  mass?: number;
}

const within = (field: FieldSpec) =>
  z
    .number({ error: `${field.label}: not a finite number` })
    .min(field.min, { error: `${field.label}: at least ${field.min} expected` })
    .max(field.max, { error: `${field.label}: at most ${field.max} expected` });

const entrySchemas = Object.fromEntries(
  SHELF_KIND_KEYS.map((key) => {
    const { fields, choices } = kinds[key];
    return [
      key,
      z.strictObject({
        kind: z.literal(key),
        name: z
          .string()
          .max(80, { error: "name: at most 80 characters" })
          .refine((name) => name.trim() !== "", { error: "a part needs a name" }),
        note: z.string().max(400, { error: "note: at most 400 characters" }),
        choices: z.strictObject(
          Object.fromEntries(
            Object.entries(choices).map(([name, words]) => [name, z.enum(words as [string, ...string[]]).optional()]),
          ),
        ),
        values: z.strictObject(
          Object.fromEntries(Object.entries(fields).map(([name, field]) => [name, within(field).optional()])),
        ),
        cost: within(START_AID_FIELDS.cost).optional(),
        mass: within(START_AID_FIELDS.mass).optional(),
      }),
    ];
  }),
) as unknown as Record<ShelfKindKey, z.ZodType<ShelfEntry>>;

export type ReadEntry = { ok: true; entry: ShelfEntry } | { ok: false; faults: Fault[] };

/** Reads an unknown value as a shelf entry, or says every fault with its path. Never throws. */
export function readEntry(value: unknown): ReadEntry {
  const kind = (value as { kind?: unknown } | null)?.kind;
  if (typeof kind !== "string" || !(kind in entrySchemas))
    return { ok: false, faults: [{ path: "kind", message: `one of ${SHELF_KIND_KEYS.join(", ")} expected` }] };
  const read = entrySchemas[kind as ShelfKindKey].safeParse(value);
  if (read.success) return { ok: true, entry: read.data };
  return { ok: false, faults: read.error.issues.map(({ path, message }) => ({ path: path.join("."), message })) };
}

/** An entry with nothing known about it. */
export function emptyEntry(kind: ShelfKindKey, name = ""): ShelfEntry {
  const choices = Object.entries(kinds[kind].choices).map(([key, words]) => [key, words[0]!]);
  return { kind, name, note: "", choices: Object.fromEntries(choices) as Record<string, string>, values: {} };
}
