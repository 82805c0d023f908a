import { z } from "zod";
import { COLUMN_LIMITS, COLUMNS, type Column } from "@/core/applications/test-run/log/readings";
import { FAULTS } from "@/core/applications/test-run/simulator/simulator";
import { runConditionsSchema } from "@/core/applications/test-run/site/conditions";
import { mappingSchema } from "@/csv/mapping";
import { idSchema, timeMs } from "./common";

const name = z
  .string()
  .trim()
  .min(1, { error: "a test run needs a name" })
  .max(120, { error: "at most 120 characters" });

/** What was read at one moment, each value within what its column can hold. */
const readingValues = z.strictObject(
  Object.fromEntries(
    COLUMNS.map((column) => {
      const [low, high] = COLUMN_LIMITS[column];
      return [
        column,
        z
          .number({ error: "a number expected" })
          .min(low, { error: `at least ${low} expected` })
          .max(high, { error: `at most ${high} expected` })
          .optional(),
      ];
    }),
  ) as Record<Column, z.ZodOptional<z.ZodNumber>>,
);

/** One reading as it is sent: its own id makes a second sending harmless. */
export const sentReading = z
  .strictObject({
    id: idSchema,
    timeMs,
    values: readingValues,
    note: z.string().max(500, { error: "at most 500 characters" }).optional(),
    photoId: idSchema.optional(),
  })
  .refine(({ values, note, photoId }) => Object.keys(values).length > 0 || note?.trim() || photoId, {
    error: "a reading needs a value, a note or a photo",
  });
export type SentReading = z.infer<typeof sentReading>;
/** How far a phone's clock may be from the server's before its readings are asked about, ms. */
export const CLOCK_OFF_MS = 2 * 60_000;
export const sentReadings = z.strictObject({
  readings: z.array(sentReading).min(1).max(2000),
  /** The sender's own clock as it sends; left out by instruments, and once somebody said what the readings' times are. */
  sentAtMs: z.number().optional(),
});
/** Place of a refusal for the sender's clock: its words are by how many ms the server's is ahead. */
export const CLOCK_PATH = "sentAtMs";
export const addedReadings = z.object({ added: z.int(), late: z.array(z.string()) });

/** A reading as it is stored: its values are what was sent then, whatever the limits are now. */
const storedValues = z.partialRecord(z.enum(COLUMNS), z.number());
export const storedReading = z.object({
  id: idSchema,
  timeMs: z.number(),
  values: storedValues,
  note: z.string().nullable(),
  photoId: z.string().nullable(),
  version: z.int(),
  deleted: z.boolean(),
});
export type StoredReading = z.infer<typeof storedReading>;
export const storedReadings = z.object({ readings: z.array(storedReading) });

/** Corrects, deletes or brings back a reading over the version it was read at. */
export const readingChange = z.union([
  z.strictObject({ version: z.int().min(1), change: z.enum(["delete", "restore"]) }),
  z.strictObject({ version: z.int().min(1), reading: sentReading }),
]);
export const changedReading = z.object({ version: z.int() });

/** What a reading was before a correction. */
export const readingVersion = z.object({
  version: z.int(),
  timeMs: z.number(),
  values: storedValues,
  note: z.string().nullable(),
  deleted: z.boolean(),
  changedMs: z.number(),
});
export type ReadingVersion = z.infer<typeof readingVersion>;
export const readingHistory = z.object({ history: z.array(readingVersion) });

/** Whether a text is the address of an instrument: of a websocket, on a host, with nothing hidden in it. */
function isInstrumentAddress(text: string): boolean {
  // oxlint-disable-next-line no-control-regex -- what a line of a log or of a request would end at
  if (/[\s\u0000-\u001f\u007f\\]/.test(text) || !URL.canParse(text)) return false;
  const { protocol, hostname, username, password } = new URL(text);
  return /^wss?:$/.test(protocol) && hostname !== "" && username === "" && password === "";
}

/** The instrument that a test run listens to. */
export const sourceSchema = z.discriminatedUnion("kind", [
  z.strictObject({
    kind: z.literal("simulator"),
    seed: z.int().min(0).max(999_999),
    faults: z.array(z.enum(FAULTS)).max(FAULTS.length),
    every: z.int().min(5).max(300),
    startSoc: z.number().min(0.2).max(1).optional(),
    /** Times real time. */
    speed: z.number().min(1).max(600),
  }),
  z.strictObject({ kind: z.literal("file"), path: z.string().min(1).max(300) }),
  z.strictObject({
    kind: z.literal("signal-k"),
    url: z.string().max(300).refine(isInstrumentAddress, {
      error: "an address that begins with ws:// or wss://, such as ws://192.168.1.5:3000/signalk/v1/stream",
    }),
  }),
]);
export type Source = z.infer<typeof sourceSchema>;
export const startedSource = z.object({ running: sourceSchema });

/** What a meter would show at other places, where the instrument is the simulator. */
export const probesAnswer = z.object({
  probes: z
    .object({
      bankVolts: z.number(),
      inverterVolts: z.number(),
      lugC: z.number(),
      cableC: z.number(),
      breakerC: z.number(),
      waterC: z.number().nullable(),
    })
    .nullable(),
});

const hours = z.number().min(0).max(1000).nullable();
const quantiles = z.strictObject({ p10: hours, p50: hours, p90: hours });
/** A forecast as it was given at a moment of the log, to be held against what happened. */
export const forecastSnapshot = z.strictObject({
  /** Minutes into the log. */
  minutes: z.number().min(0).max(10_000),
  toReserve: quantiles,
  toCutoff: quantiles,
  hand: z.strictObject({ now: hours, average: hours, halfHour: hours }),
});
export type ForecastSnapshot = z.infer<typeof forecastSnapshot>;

/** What happened in a test run. */
export const outcomeSchema = z.strictObject({
  /** Hours from the first reading until the reserve; null where the run ended before it. */
  reserveH: hours,
  cutoffH: hours,
  /** Charge at the last reading. */
  endSoc: z.number().min(-0.5).max(1.2).nullable(),
  /** Until when something else than panels charged the battery. */
  chargedToH: hours.optional(),
});
export type Outcome = z.infer<typeof outcomeSchema>;

const figure = z.number().min(-1e6).max(1e6);
/** What the simulator hid. */
export const truthSchema = z.strictObject({
  faults: z.array(z.enum(FAULTS)).max(FAULTS.length),
  heatLoss: figure,
  bankAh: figure,
  pathResistance: figure,
  zero: figure,
  monitorAh: figure,
  startSoc: figure,
  hoursToReserve: figure.nullable(),
  hoursToCutoff: figure.nullable(),
});

export const newTestRun = z.strictObject({
  id: idSchema.optional(),
  name,
  startedAt: timeMs.optional(),
  conditions: runConditionsSchema.optional(),
});
export const testRunChange = z.strictObject({
  name: name.optional(),
  finished: z.boolean().optional(),
  snapshots: z.array(forecastSnapshot).max(12).optional(),
  outcome: outcomeSchema.nullable().optional(),
  conditions: runConditionsSchema.optional(),
});
export type TestRunChange = z.infer<typeof testRunChange>;

export const listedTestRun = z.object({
  id: idSchema,
  jobId: idSchema,
  name: z.string(),
  kind: z.string(),
  startedMs: z.number(),
  finishedMs: z.number().nullable(),
  source: sourceSchema.nullable(),
  /** Told once the test run is finished. */
  truth: truthSchema.nullable(),
  snapshots: z.array(forecastSnapshot),
  outcome: outcomeSchema.nullable(),
  /** What was said of its day; null where nothing was. */
  conditions: runConditionsSchema.nullable(),
  readings: z.int(),
});
export type ListedTestRun = z.infer<typeof listedTestRun>;
export const listedTestRuns = z.object({ testRuns: z.array(listedTestRun) });
export const oneTestRun = z.object({ testRun: listedTestRun });
export const testRunDetail = oneTestRun.extend({
  /** The instrument that runs on it, whichever server attends it. */
  running: sourceSchema.nullable(),
  /** Why the last one ended by itself. */
  ended: z.string().nullable(),
  imports: z.array(z.object({ id: idSchema, fileName: z.string(), rows: z.int(), createdMs: z.number() })),
});
export type TestRunDetail = z.infer<typeof testRunDetail>;

const header = z.string().min(1).max(20_000);
/** How the columns of a log were last read, by its header line. */
export const mappingQuery = z.strictObject({ header });
export const keptMapping = z.strictObject({ header, mapping: mappingSchema });
export const foundMapping = z.object({ mapping: mappingSchema.nullable() });

/** Pieces that an import may have at most, of readings and of the original file. */
export const MOST_PIECES = 200;
export const newImport = z.strictObject({ fileName: z.string().min(1).max(200) });
export const openedImport = z.object({ id: idSchema });
/** Closes an import: how many pieces of each kind were sent, and rows in all. */
export const importClosed = z.strictObject({
  readings: z.int().min(1).max(MOST_PIECES),
  file: z.int().min(0).max(MOST_PIECES),
  rows: z.int().min(1).max(5_000_000),
});
export const importedRows = z.object({ rows: z.int() });
