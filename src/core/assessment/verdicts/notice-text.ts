import { labelOfPath } from "../../document/labels";
import type { Job } from "../../document/schema";
import { sayAny } from "../../messages/say";
import { formatQuantity } from "../../units/format";
import type { Notice, NoticeValue } from "./notices";

function written(job: Job, value: NoticeValue): string | number {
  if (typeof value !== "object") return value;
  if ("path" in value) return labelOfPath(job, value.path);
  const said = (one: number, digits?: number) => formatQuantity(one, value.dimension, job.notation, digits);
  return "low" in value ? `${said(value.low)} to ${said(value.high)}` : said(value.value, value.digits);
}

/** A notice in words, its figures in the job's units. */
export const noticeText = (job: Job, { key, values }: Notice): string =>
  sayAny(key, Object.fromEntries(Object.entries(values).map(([name, value]) => [name, written(job, value)])));
