import { z } from "zod";
import { requirementSchema } from "@/core/applications/options/target";
import { summarySchema } from "@/core/assessment/verdicts/summary";
import { documentSchema, idSchema } from "./common";

/** A name for a state of a job, with what was promised with it; sent twice with one id it is kept once. */
export const newRevision = z.strictObject({
  id: z.uuid(),
  name: z.string().trim().min(1, { error: "a revision needs a name" }).max(120, { error: "at most 120 characters" }),
  promise: z.string().max(2000, { error: "at most 2000 characters" }),
});
export type NewRevision = z.infer<typeof newRevision>;

export const listedRevision = z.object({
  id: idSchema,
  name: z.string(),
  promise: z.string(),
  summary: summarySchema,
  createdMs: z.number(),
});
export type ListedRevision = z.infer<typeof listedRevision>;
export const listedRevisions = z.object({ revisions: z.array(listedRevision) });
export const revisionDocument = z.object({ job: documentSchema });
export const revisionChange = z.strictObject({ deleted: z.boolean() });

/** The target of a job's options as it was last kept. */
export const keptRequirement = z.object({ requirement: requirementSchema.nullable() });
