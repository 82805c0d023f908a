import { z } from "zod";
import { AMERICAN, METRIC } from "../units/dimension";
import {
  BANK_FIELDS,
  BRANCH_FIELDS,
  BRIEF_FIELDS,
  START_AID_FIELDS,
  INVERTER_FIELDS,
  LINK_FIELDS,
  LINK_PATH_FIELDS,
  LOAD_FIELDS,
  MEASURED_FIELDS,
  PART_FIELDS,
  WIRING_FIELDS,
  SUPPLY_FIELDS,
  UNIT_FIELDS,
  type PartKind,
} from "./fields";
import { groupShape, quantitySchema } from "../units/known";
import {
  CABIN_FIELDS,
  CONTROLLER_FIELDS,
  OBSTACLE_FIELDS,
  PANEL_FIELDS,
  PLACE_FIELDS,
  PLAN_FIELDS,
  SOURCE_FIELDS,
  SPAN_FIELDS,
  WEATHER_FIELDS,
} from "./day-fields";
import { isTimeZone } from "../units/clock";
import { drawReadingSchema } from "./draw-readings";
import { MAINS_KEYS, MAINS_SYSTEMS, type MainsKey } from "../reference/standards/mains";
import { RULE_SET_KEYS } from "../reference/standards/rule-set";
import { upgradeDocument } from "./upgrade";
import { UNIT_KIND_KEYS } from "./unit-kinds";

/** Version of the document of a job; raised when an older reader could misread a newer file. */
export const DOCUMENT_VERSION = 8;

const line = (longest: number) => z.string().max(longest, { error: `at most ${longest} characters` });
const id = z.string().regex(/^[A-Za-z0-9_-]{1,40}$/, { error: "letters, digits, - and _ only, at most 40" });

/** The parts shelf entry that something was picked from, and the revision it had then. */
const shelfSchema = z.strictObject({ id, revision: z.int().min(1).max(4_000_000_000) });

/** The live conductor of the supply that a load hangs on; "both" where it lies between two legs. */
const leg = z.enum(["L1", "L2", "both"]);

const aboardSchema = z.strictObject({
  id,
  name: line(120),
  fate: z.enum(["stays", "goes"]),
});

const loadSchema = z.strictObject({
  id,
  name: line(80),
  side: z.enum(["mains", "dc"]),
  leg,
  atStart: z.boolean(),
  power: quantitySchema(LOAD_FIELDS.power).optional(),
  dutyCycle: quantitySchema(LOAD_FIELDS.dutyCycle).optional(),
});

const unitSchema = z.strictObject({
  id,
  name: line(80),
  kind: z.enum(UNIT_KIND_KEYS),
  startAid: z.enum(["none", "soft-starter", "start-capacitor"]),
  learned: z.boolean(),
  fanBetween: z.boolean(),
  /** Where its condenser gets rid of the heat. */
  condenser: z.enum(["outside", "split", "boxed", "single-duct", "sea"]),
  leg,
  shelf: shelfSchema.optional(),
  softShelf: shelfSchema.optional(),
  /** What was read of its draw, in whatever way; the surest reading of each state is used. */
  readings: z.array(drawReadingSchema).max(40).optional(),
  /** The start as a clamp or scope caught it: seconds and amps (RMS), thinned. */
  capture: z
    .array(z.tuple([z.number().min(-1).max(3600), z.number().min(0).max(10_000)]))
    .max(400)
    .optional(),
  ...groupShape(UNIT_FIELDS),
});

const named = { id, name: line(80), shelf: shelfSchema.optional() };
const plain = <K extends "isolator" | "shunt" | "busbar" | "joints" | "inlet" | "connector">(kind: K) =>
  z.strictObject({ ...named, kind: z.literal(kind), ...groupShape(PART_FIELDS[kind]) });
/** Which conductors a switching device opens: all of them, or the live one only. */
const poles = z.enum(["all", "live"]);

const partSchema = z.discriminatedUnion("kind", [
  z.strictObject({
    ...named,
    kind: z.literal("cable"),
    insulation: z.enum(["70", "90", "105"]),
    route: z.enum(["free", "bundled", "engine"]),
    /** Counted there and back, or one way where the return is not this cable. */
    ways: z.enum(["both", "one"]),
    /** Mains: how it is run, by IEC 60364-5-52, and what its terminals are marked for. */
    method: z.enum(["A1", "B1", "B2", "C"]),
    terminals: z.enum(["standard", "75"]),
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
  plain("inlet"),
  plain("connector"),
  z.strictObject({
    ...named,
    kind: z.literal("breaker"),
    curve: z.enum(["B", "C", "D"]),
    ...groupShape(PART_FIELDS.breaker),
  }),
  z.strictObject({ ...named, kind: z.literal("changeover"), poles, ...groupShape(PART_FIELDS.changeover) }),
  z.strictObject({
    ...named,
    kind: z.literal("rcd"),
    residualType: z.enum(["AC", "A", "F", "B"]),
    poles,
    ...groupShape(PART_FIELDS.rcd),
  }),
]);

const partsSchema = z.array(partSchema).max(80);

/** A run beside the main one, its parts in order from the battery (or the change-over) outward. */
const branchSchema = z.strictObject({
  id,
  name: line(80),
  role: z.enum(["solar", "engine", "charger", "loads", "shore", "circuit", "dc-unit"]),
  /** Circuit, dc-unit: the unit that has it to itself. */
  unitId: id.optional(),
  /** Engine: through a converter that limits the current, or a plain isolator or relay. */
  coupling: z.enum(["dc-dc", "isolator"]),
  /** Engine: what switches it on. */
  control: z.enum(["engine-running", "ignition"]),
  /** Charger: which side of the change-over feeds it. */
  fedFrom: z.enum(["shore", "inverter"]),
  /** Loads: whether a converter stands between battery and loads. */
  converter: z.boolean(),
  shelf: shelfSchema.optional(),
  /** The battery's side, from the battery outward; of a shore inlet or a circuit its only side. */
  parts: partsSchema,
  /**
   * The other side of the converter, charger or controller, in order from what feeds it: starter battery, solar array,
   * shore side of the transfer switch; of a converter for loads, from the converter to the loads.
   */
  far: partsSchema,
  ...groupShape(BRANCH_FIELDS),
});

const SPAN = {
  id,
  /** Minutes of the local day it begins at, and how many it lasts; past midnight where it is long. */
  from: z.int().min(0).max(1439),
  minutes: z.int().min(1).max(1440),
};
const spanSchema = z.discriminatedUnion("kind", [
  z.strictObject({
    ...SPAN,
    kind: z.literal("unit"),
    /** The unit it is for; all of them where it is not said. */
    unitId: id.optional(),
    mode: z.enum(["auto", "medium", "low", "fan"]),
    setPointC: quantitySchema(SPAN_FIELDS.setPointC).optional(),
  }),
  z.strictObject({
    ...SPAN,
    kind: z.literal("people"),
    asleep: z.boolean(),
    people: quantitySchema(SPAN_FIELDS.people).optional(),
  }),
  z.strictObject({ ...SPAN, kind: z.literal("open"), airChanges: quantitySchema(SPAN_FIELDS.airChanges).optional() }),
  z.strictObject({
    ...SPAN,
    kind: z.literal("shade"),
    /** Trees or a roof over all of it, panels too; an awning covers a side. */
    over: z.enum(["all", "side"]),
    shade: quantitySchema(SPAN_FIELDS.shade).optional(),
  }),
  z.strictObject({ ...SPAN, kind: z.literal("driving"), idle: z.boolean() }),
  z.strictObject({ ...SPAN, kind: z.literal("shore") }),
  z.strictObject({ ...SPAN, kind: z.literal("generator") }),
  z.strictObject({
    ...SPAN,
    kind: z.literal("load"),
    name: line(80),
    side: z.enum(["mains", "dc"]),
    power: quantitySchema(SPAN_FIELDS.power).optional(),
  }),
]);

const patternSchema = z.strictObject({ id, name: line(80), spans: z.array(spanSchema).max(60) });

const panelSchema = z.strictObject({
  id,
  name: line(80),
  mount: z.enum(["flat", "tilted", "portable"]),
  /** The controller it feeds; the first where it is not said. */
  controllerId: id.optional(),
  /** Light lost to trees or buildings by hour of the day, 0 to 1; empty for none. */
  shadeByHour: z.array(z.number().min(0).max(1)).max(24),
  shelf: shelfSchema.optional(),
  ...groupShape(PANEL_FIELDS),
});
const controllerSchema = z.strictObject({
  id,
  name: line(80),
  /** Whether each string in parallel has a fuse of its own. */
  stringFuses: z.enum(["unsaid", "each", "none"]),
  ...groupShape(CONTROLLER_FIELDS),
});
const obstacleSchema = z.strictObject({ id, name: line(80), ...groupShape(OBSTACLE_FIELDS) });

const date = z
  .string()
  .regex(/^\d{4}-\d{2}-\d{2}$/, { error: "a date as YYYY-MM-DD" })
  .refine((text) => z.iso.date().safeParse(text).success, { error: "no such date" })
  .refine((text) => text >= "1990-01-01" && text <= "2099-12-31", { error: "between 1990 and 2099" });

export const WEATHER_KINDS = ["mild", "usual", "hot", "own", "generated", "file"] as const;

/** Hourly weather kept with the job: whole days from midnight. */
const weatherFileSchema = z.strictObject({
  name: line(120),
  offsetHours: z.number().min(-14).max(14),
  hours: z
    .array(
      z.tuple([
        z.number().min(-90).max(70),
        z.number().min(-95).max(45),
        z.number().min(0).max(1600),
        z.number().min(0).max(1600).nullable(),
        z.number().min(0).max(90),
      ]),
    )
    .min(24)
    .max(16 * 24),
});

export const START_AID_KEYS = [
  "soft-starter",
  "start-capacitor",
  "bigger-inverter",
  "transformer-inverter",
  "thicker-cable",
  "second-battery",
  "variable-unit",
  "generator",
] as const;
export type StartAidKey = (typeof START_AID_KEYS)[number];
const startAidSchema = z.strictObject(groupShape(START_AID_FIELDS)).optional();

const moment = z.iso.datetime({ error: "a moment such as 2026-05-04T10:20:00Z" });
const fieldValue = z.number().min(-1e9).max(1e9);
/** A reading of the fault desk, by its fields: SI, amp-hours, °C; 1 and 0 for yes and no. */
const takenSchema = z.strictObject({ reading: line(40), fields: z.array(fieldValue).min(1).max(4) });
/** What was found to be wrong, with the readings before and after it was mended. */
const findingSchema = z.strictObject({
  id,
  at: moment,
  symptoms: z.array(line(40)).max(4),
  cause: line(80),
  note: line(2000),
  before: z.array(takenSchema).max(60),
  after: z.array(takenSchema).max(60),
  by: line(40),
});
/** Photos of one commissioning step or inspection point. */
export const MOST_STEP_PHOTOS = 8;
/** One step of the commissioning run sheet, or one point of the inspection sheet, as it was done. */
const stepSchema = z.strictObject({
  step: line(160),
  fields: z.array(fieldValue.nullable()).max(4),
  passed: z.boolean().nullable(),
  /** Why it was not passed, or why it does not apply. */
  reason: line(400),
  by: line(40),
  at: moment.nullable(),
  /** What it was measured with. */
  instrument: line(80).optional(),
  /** Of a point of the inspection sheet: there is nothing of it here, for the reason given. */
  notApplicable: z.boolean().optional(),
  /** Ids of its photos, which are kept beside the document. */
  photos: z.array(z.uuid()).max(MOST_STEP_PHOTOS).optional(),
});
const documentSchema = z.strictObject({
  paper: z.enum(["a4", "letter"]),
  /** Sections left off; cautions and stops cannot be. */
  leaveOut: z.array(line(40)).max(20),
  /** Where the switches are, and what the customer is told beside, in the installer's words. */
  switches: line(600),
  advice: line(1200),
  signedBy: line(80),
  signedOn: date.nullable(),
});

/**
 * The document of a job: one job's whole design, and the open file format.
 *
 * A quantity that is absent is assumed: the core fills a typical value and says so. Values are SI but
 * for the suffixes Ah, Mm2 and C (degC); durations are seconds, shares are fractions of one.
 */
export const jobSchema = z.strictObject({
  format: z.literal("chillbank-document", { error: 'expected "chillbank-document"' }),
  version: z.literal(DOCUMENT_VERSION, { error: `this Chillbank reads version ${DOCUMENT_VERSION}` }),
  name: line(120).refine((name) => name.trim() !== "", { error: "a job needs a name" }),
  notation: z.strictObject({
    temperature: z.enum(["C", "F"]),
    cable: z.enum(["mm2", "awg"]),
    length: z.enum(["m", "ft"]),
    currency: z.enum(["EUR", "USD", "GBP", "AUD"]),
    /** What cooling capacity is written in. */
    cooling: z.enum(["kW", "BTU/h"]),
  }),
  brief: z.strictObject({
    wording: line(4000),
    place: line(120),
    month: z.int().min(1).max(12).nullable(),
    mains: z.enum(MAINS_KEYS),
    /** The rules that the wiring follows; "auto" is the set proposed by mains system, vehicle and place. */
    ruleSet: z.enum(["auto", ...RULE_SET_KEYS]),
    stance: z.enum(["expected", "never-resting", "storage"]),
    aboard: z.array(aboardSchema).max(60),
    loads: z.array(loadSchema).max(60),
    ...groupShape(BRIEF_FIELDS),
  }),
  units: z.array(unitSchema).min(1, { error: "at least one air conditioner" }).max(6),
  bank: z.strictObject({
    chemistry: z.enum(["lfp", "nmc", "agm"]),
    build: z.enum(["batteries", "cells"]),
    /** Whether something keeps a lithium battery from being charged below freezing. */
    frostBlock: z.boolean(),
    shelf: shelfSchema.optional(),
    ...groupShape(BANK_FIELDS),
  }),
  inverter: z.strictObject({
    type: z.enum(["high-frequency", "transformer"]),
    waveform: z.enum(["sine", "modified"]),
    startOrder: z.enum(["in-turn", "together"]),
    /** On a supply of two legs: a half of the rating on each leg, or one output fed to both legs. */
    output: z.enum(["split-phase", "both-legs"]),
    /** Where one output feeds both legs: whether each circuit has a neutral of its own. */
    neutrals: z.enum(["unsaid", "own", "shared"]),
    /** Several inverters: each with its own fuse and leads of one length, or on one pair of leads. */
    leads: z.enum(["unsaid", "own", "shared"]),
    /** Where neutral is bonded to earth while the inverter feeds. */
    neutralBond: z.enum(["unsaid", "relay", "fixed", "none"]),
    /** An inverter-charger: the supply passes through it, and it charges. */
    combined: z.boolean(),
    /** An inverter-charger that adds from the battery what the supply's limit leaves short. */
    assist: z.boolean(),
    shelf: shelfSchema.optional(),
    ...groupShape(INVERTER_FIELDS),
  }),
  wiring: z.strictObject({
    /** The ampacity table; "auto" is the one usual where the mains system is. */
    table: z.enum(["auto", "iso-10133", "abyc-e11"]),
    /** How the batteries in parallel meet. */
    links: z.strictObject({
      layout: z.enum(["busbars", "own-leads", "chain-diagonal", "chain-one-end"]),
      paths: z.array(z.strictObject(groupShape(LINK_PATH_FIELDS))).max(24),
      /** Whether each battery in parallel has a fuse of its own. */
      fuses: z.enum(["unsaid", "each", "none"]),
      ...groupShape(LINK_FIELDS),
    }),
    /** Of a battery charged above 60 V: whether live parts are covered, both poles switched and insulation monitored. */
    above60: z.enum(["unsaid", "covered", "none"]).optional(),
    /** From the battery's terminals to the inverter, or to a unit straight from the bank. */
    main: partsSchema,
    /** From the inverter to the units. */
    mains: partsSchema,
    branches: z.array(branchSchema).max(12),
    measured: z.strictObject(groupShape(MEASURED_FIELDS)),
    ...groupShape(WIRING_FIELDS),
  }),
  supplies: z.strictObject({
    generatorKind: z.enum(["electronic", "conventional"]),
    /** The generator starts and stops by itself at set states of charge. */
    generatorAuto: z.boolean(),
    /** Whether neutral and earth are bonded in the generator. */
    generatorBond: z.enum(["unsaid", "bonded", "floating"]),
    ...groupShape(SUPPLY_FIELDS),
  }),
  place: z.strictObject({
    /** A typical station whose climate fills what is not entered; coordinates take the climate of the stations around. */
    listed: id.nullable(),
    timeZone: z.string().max(60).refine(isTimeZone, { error: "not a time zone, such as Europe/Lisbon" }).nullable(),
    ...groupShape(PLACE_FIELDS),
  }),
  weather: z.strictObject({
    /** The design day: of the month's climate, or of the customer's own figures; or simulated days, or a file's. */
    kind: z.enum(WEATHER_KINDS),
    seed: z.int().min(0).max(999_999),
    file: weatherFileSchema.nullable(),
    ...groupShape(WEATHER_FIELDS),
  }),
  cabin: z.strictObject({
    kind: z.enum(["van", "caravan", "motorhome", "bus", "truck", "boat", "room"]),
    insulation: z.enum(["canvas", "bare", "lined", "grade2", "grade3", "insulated", "grp", "masonry", "house"]),
    colour: z.enum(["white", "grey", "dark"]),
    glazing: z.enum(["single", "double"]),
    blinds: z.enum(["none", "inside", "outside"]),
    /** Of a van or motorhome: whether its driver's cab is part of the room; parted by a curtain or wall where it is left out. */
    cab: z.enum(["open", "parted"]).optional(),
    /** Covers on the cab's windscreen and side windows; none where it is left out. */
    cabCovers: z.enum(["none", "inside", "outside"]).optional(),
    /** Whether the inverter's own heat stays in the cabin. */
    inverterInside: z.boolean(),
    ...groupShape(CABIN_FIELDS),
  }),
  sources: z.strictObject({
    panels: z.array(panelSchema).max(30),
    controllers: z.array(controllerSchema).max(8),
    obstacles: z.array(obstacleSchema).max(30),
    ...groupShape(SOURCE_FIELDS),
  }),
  plan: z.strictObject({
    /** Date that runs begin on; the middle of the job's month where it is not said. */
    start: date.nullable(),
    days: z.int().min(1).max(14),
    /** Days of the plan; the usual evening where there is none. */
    patterns: z.array(patternSchema).max(14),
    /** Pattern of each weekday from Monday; empty for the first pattern every day. */
    week: z.array(id).max(7),
    ...groupShape(PLAN_FIELDS),
  }),
  /** What was found, measured and agreed at the system itself. */
  handover: z.strictObject({
    findings: z.array(findingSchema).max(100),
    steps: z.array(stepSchema).max(600),
    document: documentSchema,
  }),
  startAids: z.strictObject(
    Object.fromEntries(START_AID_KEYS.map((key) => [key, startAidSchema])) as {
      [K in StartAidKey]: typeof startAidSchema;
    },
  ),
});

export type Job = z.infer<typeof jobSchema>;
export type Finding = Job["handover"]["findings"][number];
export type StepDone = Job["handover"]["steps"][number];
export type Unit = Job["units"][number];
export type Load = Job["brief"]["loads"][number];
export type Part = Job["wiring"]["main"][number];
export type PartOf<K extends PartKind> = Extract<Part, { kind: K }>;
export type Branch = Job["wiring"]["branches"][number];
export type Panel = Job["sources"]["panels"][number];
export type Controller = Job["sources"]["controllers"][number];
export type Obstacle = Job["sources"]["obstacles"][number];
export type Pattern = Job["plan"]["patterns"][number];
export type PlanSpan = Pattern["spans"][number];
export type SpanKind = PlanSpan["kind"];
export type SpanOf<K extends SpanKind> = Extract<PlanSpan, { kind: K }>;

export interface Fault {
  /** Path in the document, dots between steps; empty for the whole. */
  path: string;
  message: string;
}

export type ReadJob = { ok: true; job: Job } | { ok: false; faults: Fault[] };

/** Reads an unknown value as a document of a job, older versions brought up to date, or says every fault with its path. Never throws. */
export function readJob(value: unknown): ReadJob {
  const read = jobSchema.safeParse(upgradeDocument(value));
  if (read.success) return { ok: true, job: read.data };
  const faults = read.error.issues.map((issue) => ({ path: issue.path.join("."), message: issue.message }));
  return { ok: false, faults };
}

/** Reads JSON text as a document of a job; unreadable JSON is a fault like any other. */
export function readJobText(text: string): ReadJob {
  let value: unknown;
  try {
    value = JSON.parse(text);
  } catch (error) {
    return { ok: false, faults: [{ path: "", message: `not JSON: ${(error as Error).message}` }] };
  }
  return readJob(value);
}

/** The JSON Schema (draft 2020-12) of the document of a job. */
export function jobJsonSchema(): unknown {
  return { title: "Chillbank job document", ...z.toJSONSchema(jobSchema) };
}

/** A new unit with nothing known about it. */
export function emptyUnit(id: string, name = "Air conditioner"): Unit {
  return {
    id,
    name,
    kind: "fixed",
    startAid: "none",
    learned: true,
    fanBetween: true,
    condenser: "outside",
    leg: "L1",
  };
}

/** A new part with nothing known about it. */
export function emptyPart(kind: PartKind, id: string): Part {
  switch (kind) {
    case "cable":
      return { id, name: "", kind, insulation: "90", route: "free", ways: "both", method: "B2", terminals: "standard" };
    case "fuse":
      return { id, name: "", kind, fuseKind: "class-t" };
    case "breaker":
      return { id, name: "", kind, curve: "C" };
    case "changeover":
      return { id, name: "", kind, poles: "all" };
    case "rcd":
      return { id, name: "", kind, residualType: "A", poles: "all" };
    default:
      return { id, name: "", kind };
  }
}

/** The parts a sound run from battery to inverter has. */
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
  "dc-unit": "A DC unit's own circuit",
};

/** A new solar controller with nothing known about it. */
export const emptyController = (controllerId: string, name = "Controller"): Controller => ({
  id: controllerId,
  name,
  stringFuses: "unsaid",
});

/** Whether a branch brings charge to the bank. */
export const isCharging = ({ role }: Branch): boolean => role === "solar" || role === "engine" || role === "charger";
/** Whether a branch is on the mains side. */
export const isMains = ({ role }: Branch): boolean => role === "shore" || role === "circuit";

/** A new branch with the parts a sound one has. */
export function emptyBranch(role: Branch["role"], id: string): Branch {
  const kinds: Record<Branch["role"], [parts: PartKind[], far: PartKind[]]> = {
    solar: [
      ["fuse", "cable"],
      ["isolator", "cable"],
    ],
    engine: [
      ["fuse", "cable"],
      ["fuse", "cable"],
    ],
    charger: [
      ["fuse", "cable"],
      ["breaker", "cable"],
    ],
    loads: [["fuse", "cable"], []],
    shore: [["inlet", "rcd", "breaker", "cable"], []],
    circuit: [["breaker", "cable"], []],
    "dc-unit": [["fuse", "cable"], []],
  };
  const [parts, far] = kinds[role].map((list, side) =>
    list.map((kind, i) => emptyPart(kind, `${id}-${side === 0 ? "" : "far-"}${i + 1}`)),
  ) as [Part[], Part[]];
  return {
    id,
    name: BRANCH_NAMES[role],
    role,
    coupling: "dc-dc",
    control: "engine-running",
    fedFrom: "shore",
    converter: false,
    parts,
    far,
  };
}

/** A system with nothing entered: every quantity is assumed. */
export function emptyJob(name: string, mains: MainsKey = "230V50Hz"): Job {
  const american = usesAwg(mains);
  return {
    format: "chillbank-document",
    version: DOCUMENT_VERSION,
    name,
    notation: american ? AMERICAN : METRIC,
    brief: {
      wording: "",
      place: "",
      month: null,
      mains,
      ruleSet: "auto",
      stance: "expected",
      aboard: [],
      loads: [],
    },
    units: [emptyUnit("unit-1")],
    bank: { chemistry: "lfp", build: "batteries", frostBlock: true },
    inverter: emptyInverter(),
    wiring: {
      table: "auto",
      links: { layout: "busbars", paths: [], fuses: "unsaid" },
      main: usualMain(),
      mains: usualMains(),
      branches: [],
      measured: {},
    },
    supplies: { generatorKind: "electronic", generatorAuto: false, generatorBond: "unsaid" },
    ...emptyDay(),
    handover: emptyHandover(),
    startAids: {},
  };
}

/** Whether a job of this mains system is written in gauges, feet and degrees Fahrenheit until somebody says otherwise. */
export const usesAwg = (mains: MainsKey): boolean =>
  MAINS_SYSTEMS[mains].american && (mains === "120V60Hz" || mains === "120V240V60Hz");

/** An inverter of which nothing is known. */
export function emptyInverter(): Job["inverter"] {
  return {
    type: "high-frequency",
    waveform: "sine",
    startOrder: "in-turn",
    output: "split-phase",
    neutrals: "unsaid",
    leads: "unsaid",
    neutralBond: "unsaid",
    combined: false,
    assist: false,
  };
}

/** A job as somebody begins it: a van whose driver's cab is part of the room until it is said to be parted. */
export function newJob(name: string, mains?: Job["brief"]["mains"]): Job {
  const job = emptyJob(name, mains);
  return { ...job, cabin: { ...job.cabin, cab: "open" } };
}

/** Nothing found, measured or signed yet. */
export function emptyHandover(): Job["handover"] {
  return {
    findings: [],
    steps: [],
    document: { paper: "a4", leaveOut: [], switches: "", advice: "", signedBy: "", signedOn: null },
  };
}

/** Place, weather, cabin, sources and plan with nothing entered. */
export function emptyDay(): Pick<Job, "place" | "weather" | "cabin" | "sources" | "plan"> {
  return {
    place: { listed: null, timeZone: null },
    weather: { kind: "hot", seed: 1, file: null },
    cabin: {
      kind: "van",
      insulation: "lined",
      colour: "white",
      glazing: "double",
      blinds: "inside",
      inverterInside: false,
    },
    sources: { panels: [], controllers: [], obstacles: [] },
    plan: { start: null, days: 7, patterns: [], week: [] },
  };
}

/** A new panel with nothing known about it. */
export function emptyPanel(panelId: string, name = "Panel"): Panel {
  return { id: panelId, name, mount: "flat", shadeByHour: [] };
}

/** A new span of a plan, at a time of day. */
export function emptySpan(kind: SpanKind, spanId: string, from: number, minutes: number): PlanSpan {
  const at = { id: spanId, from, minutes };
  switch (kind) {
    case "unit":
      return { ...at, kind, mode: "auto" };
    case "people":
      return { ...at, kind, asleep: false };
    case "shade":
      return { ...at, kind, over: "all" };
    case "driving":
      return { ...at, kind, idle: false };
    case "load":
      return { ...at, kind, name: "Load", side: "mains" };
    default:
      return { ...at, kind };
  }
}
