import { z } from "zod";
import { BANK_FIELDS, BRIEF_FIELDS, INVERTER_FIELDS, LOAD_FIELDS, PATH_FIELDS, UNIT_FIELDS } from "./fields";
import { groupShape, quantitySchema } from "./quantity";

/** Version of the rig document; raised when an older reader could misread a newer file. */
export const RIG_VERSION = 1;

const line = (longest: number) => z.string().max(longest, { error: `at most ${longest} characters` });
const id = z.string().regex(/^[A-Za-z0-9_-]{1,40}$/, { error: "letters, digits, - and _ only, at most 40" });

const aboardSchema = z.strictObject({
  id,
  name: line(120),
  fate: z.enum(["stays", "goes"]),
});

const loadSchema = z.strictObject({
  id,
  name: line(80),
  side: z.enum(["mains", "dc"]),
  atStart: z.boolean(),
  power: quantitySchema(LOAD_FIELDS.power).optional(),
  share: quantitySchema(LOAD_FIELDS.share).optional(),
});

const unitSchema = z.strictObject({
  id,
  name: line(80),
  kind: z.enum(["fixed", "variable", "dc"]),
  cure: z.enum(["none", "soft-starter", "start-capacitor"]),
  learned: z.boolean(),
  fanBetween: z.boolean(),
  ...groupShape(UNIT_FIELDS),
});

/**
 * The rig document: one job's whole design, and the open file format.
 *
 * A quantity that is absent is assumed: the core fills a typical value and says so. Values are SI but
 * for the suffixes Ah, Mm2 and C (degC); durations are seconds, shares are fractions of one.
 */
export const rigSchema = z.strictObject({
  format: z.literal("chillbank-rig", { error: 'expected "chillbank-rig"' }),
  version: z.literal(RIG_VERSION, { error: `this Chillbank reads version ${RIG_VERSION}` }),
  name: line(120).refine((name) => name.trim() !== "", { error: "a job needs a name" }),
  notation: z.strictObject({
    temperature: z.enum(["C", "F"]),
    cable: z.enum(["mm2", "awg"]),
    length: z.enum(["m", "ft"]),
  }),
  brief: z.strictObject({
    wording: line(4000),
    place: line(120),
    month: z.int().min(1).max(12).nullable(),
    mains: z.enum(["230V50Hz", "120V60Hz"]),
    stance: z.enum(["expected", "never-resting"]),
    aboard: z.array(aboardSchema).max(60),
    loads: z.array(loadSchema).max(60),
    ...groupShape(BRIEF_FIELDS),
  }),
  units: z.array(unitSchema).min(1, { error: "at least one air conditioner" }).max(6),
  bank: z.strictObject({
    chemistry: z.enum(["lfp", "nmc", "agm"]),
    build: z.enum(["batteries", "cells"]),
    ...groupShape(BANK_FIELDS),
  }),
  inverter: z.strictObject({
    type: z.enum(["high-frequency", "transformer"]),
    waveform: z.enum(["sine", "modified"]),
    startOrder: z.enum(["in-turn", "together"]),
    ...groupShape(INVERTER_FIELDS),
  }),
  path: z.strictObject({
    fuseKind: z.enum(["none", "class-t", "bolted-strip", "terminal", "hrc", "breaker"]),
    insulation: z.enum(["70", "90", "105"]),
    route: z.enum(["free", "bundled", "engine"]),
    ...groupShape(PATH_FIELDS),
  }),
});

export type Rig = z.infer<typeof rigSchema>;
export type Unit = Rig["units"][number];
export type Load = Rig["brief"]["loads"][number];

export interface Fault {
  /** Path in the document, dots between steps; empty for the whole. */
  path: string;
  message: string;
}

export type ReadRig = { ok: true; rig: Rig } | { ok: false; faults: Fault[] };

/** Reads an unknown value as a rig document, or says every fault with its path. Never throws. */
export function readRig(value: unknown): ReadRig {
  const read = rigSchema.safeParse(value);
  if (read.success) return { ok: true, rig: read.data };
  const faults = read.error.issues.map((issue) => ({ path: issue.path.join("."), message: issue.message }));
  return { ok: false, faults };
}

/** Reads JSON text as a rig document; unreadable JSON is a fault like any other. */
export function readRigText(text: string): ReadRig {
  let value: unknown;
  try {
    value = JSON.parse(text);
  } catch (error) {
    return { ok: false, faults: [{ path: "", message: `not JSON: ${(error as Error).message}` }] };
  }
  return readRig(value);
}

/** The JSON Schema (draft 2020-12) of the rig document. */
export function rigJsonSchema(): unknown {
  return { title: "Chillbank rig document", ...z.toJSONSchema(rigSchema) };
}

/** A new unit with nothing known about it. */
export function emptyUnit(id: string, name = "Air conditioner"): Unit {
  return { id, name, kind: "fixed", cure: "none", learned: true, fanBetween: true };
}

/** A rig with nothing entered: every quantity is assumed. */
export function emptyRig(name: string, mains: Rig["brief"]["mains"] = "230V50Hz"): Rig {
  const american = mains === "120V60Hz";
  return {
    format: "chillbank-rig",
    version: RIG_VERSION,
    name,
    notation: american
      ? { temperature: "F", cable: "awg", length: "ft" }
      : { temperature: "C", cable: "mm2", length: "m" },
    brief: { wording: "", place: "", month: null, mains, stance: "expected", aboard: [], loads: [] },
    units: [emptyUnit("unit-1")],
    bank: { chemistry: "lfp", build: "batteries" },
    inverter: { type: "high-frequency", waveform: "sine", startOrder: "in-turn" },
    path: { fuseKind: "class-t", insulation: "90", route: "free" },
  };
}
