import { z } from "zod";
import { readJob } from "@/core/document/schema";

/** Ids of stored things, in addresses and bodies. */
export const idSchema = z.uuid({ error: "not an id" });

/** The number of a revision, as it was read. */
export const revisionNumber = z.int().min(1).max(4_000_000_000);

/** Moments that are taken, from 2000 to before 2090: the clock of a phone that lost its time begins before it or ends after it. */
export const EARLIEST_MS = Date.UTC(2000, 0, 1);
export const LATEST_MS = Date.UTC(2090, 0, 1);
/** A moment as Unix time in ms. */
export const timeMs = z
  .number()
  .min(EARLIEST_MS, { error: "before 2000: is the clock right?" })
  .max(LATEST_MS, { error: "after 2089: is the clock right?" });

/** A place in a body that is wrong, by its path. */
export const issueSchema = z.object({ path: z.string(), message: z.string() });

/** Any answer that is not the one asked for: what went wrong in words, and each place of it. */
export const errorSchema = z.object({ error: z.string(), faults: z.array(issueSchema).default([]) });

/** An answer without a body. */
export const nothing = z.null();

/** A job's document, of any version that this application reads. */
export const documentSchema = z.unknown().transform((value, context) => {
  const read = readJob(value);
  if (read.ok) return read.job;
  for (const { path, message } of read.faults)
    context.addIssue({ code: "custom", message, path: path === "" ? [] : path.split(".") });
  return z.NEVER;
});
