import { nothing } from "@/contract/common";
import { ApiError, call, json } from "@/contract/client";
import { changedElsewhere, historyAnswer, madeJob, savedJob, storedJob, type JobChange } from "@/contract/jobs";
import type { Job } from "@/core/document/schema";

export type SaveAnswer =
  | { outcome: "saved"; revision: number; updatedAt: string }
  | { outcome: "elsewhere"; revision: number; job: Job }
  | { outcome: "gone" }
  | { outcome: "refused"; message: string }
  | { outcome: "signed-out" }
  | { outcome: "unreachable" };

/** Longest that a save or a look at the server may take, ms. */
const LONGEST_MS = 15_000;

/** What a save came to where the server did not take it. */
function notSaved(error: unknown): SaveAnswer {
  if (!(error instanceof ApiError) || error.status >= 500) return { outcome: "unreachable" };
  if (error.status === 401) return { outcome: "signed-out" };
  if (error.status === 404) return { outcome: "gone" };
  const elsewhere = error.status === 409 ? changedElsewhere.safeParse(error.body) : null;
  if (elsewhere?.success) return { outcome: "elsewhere", ...elsewhere.data.current };
  return { outcome: "refused", message: error.message };
}

/** Sends a system over the revision it was read at. Never throws. */
export async function sendJob(id: string, revision: number, job: Job, keepalive = false): Promise<SaveAnswer> {
  try {
    const saved = await call(savedJob, `/api/jobs/${id}`, {
      ...json("PUT", { revision, job }),
      keepalive,
      signal: keepalive ? undefined : AbortSignal.timeout(LONGEST_MS),
    });
    return { outcome: "saved", ...saved };
  } catch (error) {
    return notSaved(error);
  }
}

/** What the server holds now, or null where it cannot be asked or the job is gone. */
export const fetchJob = (id: string): Promise<{ revision: number; job: Job } | null> =>
  call(storedJob, `/api/jobs/${id}`, { signal: AbortSignal.timeout(LONGEST_MS) }).catch(() => null);

/** Makes a job of a system and returns its id; throws with a message to show. */
export const makeJob = async (job: unknown): Promise<string> =>
  (await call(madeJob, "/api/jobs", json("POST", { job }))).id;

/** Makes a copy of a job and returns its id; throws with a message to show, as do the others here. */
export const duplicateJob = async (id: string): Promise<string> =>
  (await call(madeJob, `/api/jobs/${id}/duplicate`, { method: "POST" })).id;
export const deleteJob = (id: string): Promise<null> => call(nothing, `/api/jobs/${id}`, { method: "DELETE" });
export const restoreJob = (id: string): Promise<null> => call(nothing, `/api/jobs/${id}/restore`, { method: "POST" });
/** Erases a deleted job for good. */
export const eraseJob = (id: string): Promise<null> => call(nothing, `/api/jobs/${id}/erasure`, { method: "DELETE" });
/** Who changed what in a job, the newest first. */
export const fetchHistory = async (id: string): Promise<JobChange[]> =>
  (await call(historyAnswer, `/api/jobs/${id}/history`)).changes;
