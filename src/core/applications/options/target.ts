import { z } from "zod";
import { readJob, type Fault, type Job } from "../../document/schema";
import { resolveJob } from "../../document/resolve";
import { placeOf } from "../../reference/weather/places";
import { CATALOGUE } from "./catalogue";
import { fixedSpeed } from "../../document/unit-kinds";

/*
 * A target: what is to be met, within which limits, and which parts may vary. What is not varied stands in the job. Money is
 * in the job's currency, mass in kg, lengths in m, space inside in litres.
 */

const money = z.number().min(0).max(10_000_000);
const mass = z.number().min(0).max(100_000);
const litres = z.number().min(0).max(100_000);
const name = z.string().min(1).max(80);

/** Litres to a kilogram: lithium blocks and inverters with air about them; lead (from memory). */
const BULK = { lfp: 1.1, nmc: 1.1, agm: 0.45, inverter: 1.6 };

/** Litres of a part that does not say its size, from its kg. */
export const usualSpace = (what: keyof typeof BULK, massKg: number): number => BULK[what] * massKg;

const batterySchema = z
  .strictObject({
    name,
    chemistry: z.enum(["lfp", "nmc", "agm"]),
    blockVoltage: z.number().min(2).max(120),
    capacityAh: z.number().min(1).max(5000),
    /** Blocks in series. */
    series: z.int().min(1).max(30),
    cost: money,
    mass,
    space: litres.optional(),
  })
  .transform((one) => ({ ...one, space: one.space ?? usualSpace(one.chemistry, one.mass) }));
const panelSchema = z.strictObject({
  name,
  power: z.number().min(1).max(2000),
  length: z.number().min(0.1).max(5),
  width: z.number().min(0.1).max(5),
  cost: money,
  mass,
});
const inverterSchema = z
  .strictObject({ name, rating: z.number().min(100).max(100_000), cost: money, mass, space: litres.optional() })
  .transform((one) => ({ ...one, space: one.space ?? usualSpace("inverter", one.mass) }));
const extraSchema = z.strictObject({ cost: money, mass, space: litres.default(0) });

export const STARTS = ["as-is", "soft-starter", "variable-unit"] as const;
export type StartKey = (typeof STARTS)[number];
export const CABINS = ["as-is", "outside-blinds", "awning", "insulated", "both"] as const;
export type CabinChoice = (typeof CABINS)[number];
export const OWNABLE = ["bank", "panels", "inverter"] as const;
export type Ownable = (typeof OWNABLE)[number];

/** A second thing to be met beside the target's own: what it does not say is as the system has it. */
const targetSchema = z.strictObject({
  name,
  /** Local minutes of the day that the unit is on from, and for how many. */
  from: z.int().min(0).max(1439).nullable(),
  minutes: z.int().min(15).max(1440).nullable(),
  setPointC: z.number().min(5).max(40).nullable(),
  /** A listed place. */
  place: z
    .string()
    .max(40)
    .refine((key) => placeOf(key) !== undefined, { error: "not a listed place" })
    .nullable(),
  months: z.array(z.int().min(1).max(12)).max(12),
  tripDays: z.int().min(1).max(14),
  share: z.number().min(0.05).max(1),
});

/** Most designs that one search goes through. */
export const MOST_DESIGNS = 20_000;

const requirementBody = {
  /** Days without a plug: each begins full and must be got through. */
  tripDays: z.int().min(1).max(14),
  /** Months to be met, 1 to 12; the job's own where none is said. */
  months: z.array(z.int().min(1).max(12)).max(12),
  /** Share of days to be met. */
  share: z.number().min(0.05).max(1),
  /** What a design must meet beside. */
  targets: z.array(targetSchema).max(4),
  /** Simulated weeks that a design goes through, and those that a design of the frontier is confirmed by. */
  weeks: z.int().min(1).max(104),
  confirmWeeks: z.int().min(1).max(520),
  seed: z.int().min(0).max(999_999),
  limits: z.strictObject({
    cost: money.nullable(),
    mass: mass.nullable(),
    /** Litres inside for what the design brings; panels, blinds and awnings take none. */
    space: litres.nullable().default(null),
    /** Keep to panels that find room on the roof beside its obstacles. */
    roof: z.boolean(),
    generator: z.boolean(),
  }),
  /** Parts of the system that are there already: their like costs nothing up to what there is. */
  owned: z.array(z.enum(OWNABLE)).max(3),
  vary: z.strictObject({
    batteries: z.array(batterySchema).min(1).max(12),
    parallel: z.array(z.int().min(1).max(24)).min(1).max(24),
    panel: panelSchema,
    panels: z.array(z.int().min(0).max(30)).min(1).max(31),
    inverters: z.array(inverterSchema).min(1).max(12),
    starts: z.array(z.enum(STARTS)).min(1).max(3),
    cabins: z.array(z.enum(CABINS)).min(1).max(5),
    /** A of a converter from the engine: 0 for none. Of use only where the plan drives. */
    engine: z.array(z.int().min(0).max(400)).min(1).max(6),
    generator: z.array(z.boolean()).min(1).max(2),
  }),
  prices: z.strictObject({
    softStarter: extraSchema,
    variableUnit: extraSchema,
    outsideBlinds: extraSchema,
    awning: extraSchema,
    insulation: extraSchema,
    generator: extraSchema,
    /** Of a converter, to an amp. */
    engineAmp: extraSchema,
    /** Of a charge controller, to a watt of panels. */
    controllerWatt: extraSchema,
    /** Of cable, to a metre and mm2; of a fuse with its holder, or a breaker. */
    cable: extraSchema,
    fuse: extraSchema,
  }),
};

export const requirementSchema = z.strictObject(requirementBody);
export type Requirement = z.infer<typeof requirementSchema>;
export type Target = Requirement["targets"][number];
export type Battery = Requirement["vary"]["batteries"][number];
export type Panel = Requirement["vary"]["panel"];
export type Inverter = Requirement["vary"]["inverters"][number];

/** A target as a file: with the system that it is for. What it leaves out is as `usualRequirement` has it. */
export interface RequirementFile {
  job: Job;
  requirement: Requirement;
}
export type ReadRequirement = { ok: true; file: RequirementFile } | { ok: false; faults: Fault[] };

const fileSchema = z.strictObject({
  format: z.literal("chillbank-requirement", { error: 'expected "chillbank-requirement"' }),
  version: z.literal(2, { error: "this Chillbank reads version 2" }),
  job: z.unknown(),
  requirement: z.record(z.string(), z.unknown()).optional(),
});

/** Version 1 of the file named the document `rig` and the requirement `wish`. */
function upgradeFile(value: unknown): unknown {
  if (typeof value !== "object" || value === null || !("format" in value) || value.format !== "chillbank-wish")
    return value;
  const { rig, wish, ...rest } = value as Record<string, unknown>;
  const version = rest.version === 1 ? 2 : rest.version;
  return {
    ...rest,
    format: "chillbank-requirement",
    version,
    job: rig,
    ...(wish === undefined ? {} : { requirement: wish }),
  };
}

/** Fills what a target leaves out, one level down too. */
function filled(usual: Requirement, said: Record<string, unknown>): unknown {
  const inner = ["limits", "vary", "prices"] as const;
  return {
    ...usual,
    ...said,
    ...Object.fromEntries(
      inner.map((key) => {
        const part = said[key];
        return [key, typeof part === "object" && part !== null ? { ...usual[key], ...part } : (part ?? usual[key])];
      }),
    ),
  };
}

/** Reads a target, or says every fault with its path. Never throws. */
export function readRequirement(value: unknown): ReadRequirement {
  const read = fileSchema.safeParse(upgradeFile(value));
  const faultsOf = (error: z.ZodError, under = ""): Fault[] =>
    error.issues.map(({ path, message }) => ({
      path: [under, ...path].filter((step) => step !== "").join("."),
      message,
    }));
  if (!read.success) return { ok: false, faults: faultsOf(read.error) };
  const job = readJob(read.data.job);
  if (!job.ok) return { ok: false, faults: job.faults.map(({ path, message }) => ({ path: `job.${path}`, message })) };
  const requirement = requirementSchema.safeParse(filled(usualRequirement(job.job), read.data.requirement ?? {}));
  return requirement.success
    ? { ok: true, file: { job: job.job, requirement: requirement.data } }
    : { ok: false, faults: faultsOf(requirement.error, "requirement") };
}

export function readRequirementText(text: string): ReadRequirement {
  try {
    return readRequirement(JSON.parse(text) as unknown);
  } catch (error) {
    return { ok: false, faults: [{ path: "", message: `not JSON: ${(error as Error).message}` }] };
  }
}

/** The target that a system begins with: its own plan nine days in ten, three days without a plug, parts of the generic series. */
export function usualRequirement(job: Job): Requirement {
  const { bank } = resolveJob(job);
  const volts = bank.blockVoltage.value * bank.series.value;
  const drives = job.plan.patterns.some(({ spans }) => spans.some(({ kind }) => kind === "driving"));
  return {
    tripDays: 3,
    months: [],
    share: 0.9,
    targets: [],
    weeks: 8,
    confirmWeeks: 26,
    seed: 1,
    limits: { cost: null, mass: null, space: null, roof: true, generator: false },
    owned: [],
    vary: {
      batteries: CATALOGUE.batteries(volts),
      parallel: [1, 2, 3, 4, 6, 8],
      panel: CATALOGUE.panel,
      panels: [0, 1, 2, 3, 4],
      inverters: CATALOGUE.inverters,
      starts: job.units.some(fixedSpeed) ? ["as-is", "soft-starter", "variable-unit"] : ["as-is"],
      cabins: ["as-is", "outside-blinds"],
      engine: drives ? [0, 30] : [0],
      generator: [false],
    },
    prices: CATALOGUE.prices,
  };
}
