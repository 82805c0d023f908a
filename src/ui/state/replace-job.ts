import type { Job } from "@/core/document/schema";
import type { SheetStore } from "./sheet-store";

/**
 * Puts a whole document in place of the one on the sheet; undo brings the old one back. With `keepRecord` what was found,
 * measured and signed at the system stays: another design does not undo what happened.
 */
export function replaceJob(store: SheetStore, next: Job, keepRecord = false): void {
  const { handover } = store.getState().job;
  store.getState().change((job) => {
    for (const key of Object.keys(job)) delete (job as unknown as Record<string, unknown>)[key];
    Object.assign(job, next, keepRecord ? { handover } : {});
  });
}
