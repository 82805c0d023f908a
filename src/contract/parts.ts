import { z } from "zod";
import { readEntry } from "@/core/applications/parts/shelf";
import { summarySchema } from "@/core/assessment/verdicts/summary";
import { idSchema, revisionNumber } from "./common";

/** A part of the shelf, by the schema of its kind. */
const entrySchema = z.unknown().transform((value, context) => {
  const read = readEntry(value);
  if (read.ok) return read.entry;
  for (const { path, message } of read.faults)
    context.addIssue({ code: "custom", message, path: path === "" ? [] : path.split(".") });
  return z.NEVER;
});

export const shelfPart = z.object({ id: idSchema, revision: revisionNumber, entry: entrySchema });
export type ShelfPart = z.infer<typeof shelfPart>;
export const shelfParts = z.object({ parts: z.array(shelfPart), total: z.int() });
export const madePart = z.object({ id: idSchema });
export const savedPart = z.object({ revision: revisionNumber });

/** A job that uses a part: its verdicts as it stands, and with the part as it stands. */
export const usingJob = z.object({
  id: idSchema,
  revision: revisionNumber,
  name: z.string(),
  stale: z.boolean(),
  now: summarySchema,
  then: summarySchema,
});
export type UsingJob = z.infer<typeof usingJob>;
export const usingJobs = z.object({ jobs: z.array(usingJob) });

/** Jobs that are to be brought to a part as it stands, over the revisions they were read at. */
export const chosenJobs = z.object({
  jobs: z.array(z.object({ id: idSchema, revision: revisionNumber })).max(200),
});
export const updatedJobs = z.object({ updated: z.array(idSchema) });

/** What came of a table of parts. */
export const importReport = z.object({
  added: z.int(),
  changed: z.int(),
  same: z.int(),
  rows: z.int(),
  skipped: z.array(z.object({ line: z.int(), why: z.string() })),
  skippedCount: z.int(),
  unknownColumns: z.array(z.string()),
});
export type ImportReport = z.infer<typeof importReport>;
