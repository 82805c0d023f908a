import { assess } from "@/core/assessment/verdicts/assess";
import { noticeText } from "@/core/assessment/verdicts/notice-text";
import type { Job } from "@/core/document/schema";

/** The remarks and cautions of a job, as they are shown. */
export const noticesShown = (job: Job) =>
  assess(job).notices.map((notice) => ({ ...notice, text: noticeText(job, notice) }));
