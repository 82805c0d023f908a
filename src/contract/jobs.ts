import { z } from "zod";
import { documentSchema, idSchema, revisionNumber } from "./common";

/** One line of a job's history: who did what, from when to when, and which parts of the document differ. */
const jobChange = z.object({
  what: z.enum(["made", "changed", "deleted", "restored", "copied", "imported"]),
  name: z.string(),
  parts: z.array(z.string()),
  revision: z.number().nullable(),
  beganAt: z.string(),
  changedAt: z.string(),
});
export type JobChange = z.infer<typeof jobChange>;
export const historyAnswer = z.object({ changes: z.array(jobChange) });

/** A job was made. */
export const madeJob = z.object({ id: idSchema });

/** A whole job was made of its file. */
export const importedJob = madeJob.extend({ name: z.string() });

/** A job was saved over the revision it was read at. */
export const savedJob = z.object({ revision: revisionNumber, updatedAt: z.string() });

/** A job as it is stored. */
export const storedJob = z.object({ revision: revisionNumber, job: documentSchema });

/** What stands on the server where another window has saved since: the body of a 409. */
export const changedElsewhere = z.object({ current: storedJob });
