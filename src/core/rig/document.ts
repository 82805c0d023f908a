import { z } from "zod";
import { AMERICAN, METRIC } from "../quantity/dimension";
import {
  BANK_FIELDS,
  BRANCH_FIELDS,
  BRIEF_FIELDS,
  CURE_FIELDS,
  INVERTER_FIELDS,
  LINK_FIELDS,
  LINK_PATH_FIELDS,
  LOAD_FIELDS,
  MEASURED_FIELDS,
  PART_FIELDS,
  PATH_FIELDS,
  SUPPLY_FIELDS,
  UNIT_FIELDS,
  type PartKind,
} from "./fields";
import { groupShape, quantitySchema } from "./quantity";
import { upgradeDocument } from "./upgrade";

/** Version of the rig document; raised when an older reader could misread a newer file. */
export const RIG_VERSION = 2;

const line = (longest: number) => z.string().max(longest, { error: `at most ${longest} characters` });
const id = z.string().regex(/^[A-Za-z0-9_-]{1,40}$/, { error: "letters, digits, - and _ only, at most 40" });

/** The parts shelf entry that something was picked from, and the revision it had then. */
const shelfSchema = z.strictObject({ id, revision: z.int().min(1).max(4_000_000_000) });

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
  shelf: shelfSchema.optional(),
  softShelf: shelfSchema.optional(),
  /** The start as a clamp or scope caught it: seconds and amps (RMS), thinned. */
  capture: z
    .array(z.tuple([z.number().min(-1).max(3600), z.number().min(0).max(10_000)]))
    .max(400)
    .optional(),
  ...groupShape(UNIT_FIELDS),
});

const named = { id, name: line(80), shelf: shelfSchema.optional() };
const plain = <K extends "isolator" | "shunt" | "busbar" | "joints" | "breaker" | "changeover" | "rcd">(kind: K) =>
  z.strictObject({ ...named, kind: z.literal(kind), ...groupShape(PART_FIELDS[kind]) });

const partSchema = z.discriminatedUnion("kind", [
  z.strictObject({
    ...named,
    kind: z.literal("cable"),
    insulation: z.enum(["70", "90", "105"]),
    route: z.enum(["free", "bundled", "engine"]),
    /** Counted there and back, or one way where the return is not this cable. */
    ways: z.enum(["both", "one"]),
    ...groupShape(PART_FIELDS.cable),
  }),
  z.strictObject({
    ...named,
    kind: z.literal("fuse"),
    fuseKind: z.enum(["class-t", "bolted-strip", "terminal", "blade", "hrc", "breaker"]),
    ...groupShape(PART_FIELDS.fuse),
  }),
  plain("isolator"),
  plain("shunt"),
  plain("busbar"),
  plain("joints"),
  plain("breaker"),
  plain("changeover"),
  plain("rcd"),
]);

const partsSchema = z.array(partSchema).max(80);

/** A run beside the main one, its parts in order from the bank (or the change-over) outward. */
const branchSchema = z.strictObject({
  id,
  name: line(80),
  role: z.enum(["solar", "engine", "charger", "loads", "shore", "circuit"]),
  /** Circuit: the unit that has it to itself. */
  unitId: id.optional(),
  /** Engine: through a converter that limits the current, or a plain isolator or relay. */
  coupling: z.enum(["dc-dc", "isolator"]),
  /** Engine: what switches it on. */
  control: z.enum(["engine-running", "ignition"]),
  /** Charger: which side of the change-over feeds it. */
  fedFrom: z.enum(["shore", "inverter"]),
  /** Loads: whether a converter stands between bank and loads. */
  converter: z.boolean(),
  shelf: shelfSchema.optional(),
  parts: partsSchema,
  ...groupShape(BRANCH_FIELDS),
});

export const CURE_KEYS = [
  "soft-starter",
  "start-capacitor",
  "bigger-inverter",
  "transformer-inverter",
  "thicker-cable",
  "second-battery",
  "variable-unit",
  "generator",
] as const;
export type CureKey = (typeof CURE_KEYS)[number];
const cureSchema = z.strictObject(groupShape(CURE_FIELDS)).optional();

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
    currency: z.enum(["EUR", "USD", "GBP", "AUD"]),
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
    /** Whether something keeps a lithium bank from being charged below freezing. */
    frostBlock: z.boolean(),
    shelf: shelfSchema.optional(),
    ...groupShape(BANK_FIELDS),
  }),
  inverter: z.strictObject({
    type: z.enum(["high-frequency", "transformer"]),
    waveform: z.enum(["sine", "modified"]),
    startOrder: z.enum(["in-turn", "together"]),
    shelf: shelfSchema.optional(),
    ...groupShape(INVERTER_FIELDS),
  }),
  path: z.strictObject({
    /** The ampacity table; "auto" is the one usual where the mains system is. */
    table: z.enum(["auto", "iso-10133", "abyc-e11"]),
    /** How the batteries in parallel meet. */
    links: z.strictObject({
      layout: z.enum(["busbars", "own-leads", "chain-diagonal", "chain-one-end"]),
      paths: z.array(z.strictObject(groupShape(LINK_PATH_FIELDS))).max(24),
      ...groupShape(LINK_FIELDS),
    }),
    /** From the bank's terminals to the inverter, or to a unit straight from the bank. */
    main: partsSchema,
    /** From the inverter to the units. */
    mains: partsSchema,
    branches: z.array(branchSchema).max(12),
    measured: z.strictObject(groupShape(MEASURED_FIELDS)),
    ...groupShape(PATH_FIELDS),
  }),
  supplies: z.strictObject({
    generatorKind: z.enum(["electronic", "conventional"]),
    ...groupShape(SUPPLY_FIELDS),
  }),
  cures: z.strictObject(
    Object.fromEntries(CURE_KEYS.map((key) => [key, cureSchema])) as { [K in CureKey]: typeof cureSchema },
  ),
});

export type Rig = z.infer<typeof rigSchema>;
export type Unit = Rig["units"][number];
export type Load = Rig["brief"]["loads"][number];
export type Part = Rig["path"]["main"][number];
export type PartOf<K extends PartKind> = Extract<Part, { kind: K }>;
export type Branch = Rig["path"]["branches"][number];

export interface Fault {
  /** Path in the document, dots between steps; empty for the whole. */
  path: string;
  message: string;
}

export type ReadRig = { ok: true; rig: Rig } | { ok: false; faults: Fault[] };

/** Reads an unknown value as a rig document, older versions brought up to date, or says every fault with its path. Never throws. */
export function readRig(value: unknown): ReadRig {
  const read = rigSchema.safeParse(upgradeDocument(value));
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

/** A new part with nothing known about it. */
export function emptyPart(kind: PartKind, id: string): Part {
  if (kind === "cable") return { id, name: "", kind, insulation: "90", route: "free", ways: "both" };
  if (kind === "fuse") return { id, name: "", kind, fuseKind: "class-t" };
  return { id, name: "", kind };
}

/** The parts a sound run from bank to inverter has. */
function usualMain(): Part[] {
  return (["fuse", "isolator", "shunt", "cable", "joints"] as const).map((kind) => emptyPart(kind, `main-${kind}`));
}

/** The parts of a sound mains side. */
function usualMains(): Part[] {
  return (["rcd", "breaker", "cable"] as const).map((kind) => emptyPart(kind, `mains-${kind}`));
}

export const BRANCH_NAMES: Record<Branch["role"], string> = {
  solar: "Solar controller",
  engine: "Engine charging",
  charger: "Shore charger",
  loads: "DC loads",
  shore: "Shore inlet",
  circuit: "A unit's own circuit",
};

/** Whether a branch brings charge to the bank. */
export const isCharging = ({ role }: Branch): boolean => role === "solar" || role === "engine" || role === "charger";
/** Whether a branch is on the mains side. */
export const isMains = ({ role }: Branch): boolean => role === "shore" || role === "circuit";

/** A new branch with the parts a sound one has. */
export function emptyBranch(role: Branch["role"], id: string): Branch {
  const kinds: Record<Branch["role"], PartKind[]> = {
    solar: ["fuse", "cable"],
    engine: ["fuse", "cable", "fuse"],
    charger: ["fuse", "cable"],
    loads: ["fuse", "cable"],
    shore: ["rcd", "breaker", "cable"],
    circuit: ["breaker", "cable"],
  };
  const parts = kinds[role].map((kind, i) => emptyPart(kind, `${id}-${i + 1}`));
  return {
    id,
    name: BRANCH_NAMES[role],
    role,
    coupling: "dc-dc",
    control: "engine-running",
    fedFrom: "shore",
    converter: false,
    parts,
  };
}

/** A rig with nothing entered: every quantity is assumed. */
export function emptyRig(name: string, mains: Rig["brief"]["mains"] = "230V50Hz"): Rig {
  const american = mains === "120V60Hz";
  return {
    format: "chillbank-rig",
    version: RIG_VERSION,
    name,
    notation: american ? AMERICAN : METRIC,
    brief: { wording: "", place: "", month: null, mains, stance: "expected", aboard: [], loads: [] },
    units: [emptyUnit("unit-1")],
    bank: { chemistry: "lfp", build: "batteries", frostBlock: true },
    inverter: { type: "high-frequency", waveform: "sine", startOrder: "in-turn" },
    path: {
      table: "auto",
      links: { layout: "busbars", paths: [] },
      main: usualMain(),
      mains: usualMains(),
      branches: [],
      measured: {},
    },
    supplies: { generatorKind: "electronic" },
    cures: {},
  };
}
