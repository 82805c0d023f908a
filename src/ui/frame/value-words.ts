import { keyOf, type JobPath } from "@/core/document/path";
import { formatQuantity } from "@/core/units/format";
import { PART_NAMES } from "@/core/models/wiring/part";
import type { Job } from "@/core/document/schema";
import { fieldAt, partAt } from "@/core/document/labels";
import type { Quantity } from "@/core/units/known";
import { ORIGIN_WORDS } from "../fields/origin-mark";

interface Named {
  name?: string;
  kind?: string;
}
/** A row of a list: its name, or for a part without one its kind. */
const rowWords = ({ name, kind }: Named): string =>
  name?.trim() || (PART_NAMES as Record<string, string>)[kind ?? ""] || "one without a name";

/** What stands at a place of a document, in words. */
export function valueWords(value: unknown, path: JobPath, job: Job): string {
  if (value === undefined) return "typical value";
  const spec = fieldAt(path, partAt(job, path));
  if (spec && value !== null && typeof value === "object") {
    const quantity = value as Quantity;
    return `${formatQuantity(quantity.value, spec.dimension, job.notation, 4)}, ${ORIGIN_WORDS[quantity.origin]}`;
  }
  const key = keyOf(path);
  if (key === "chemistry") return String(value).toUpperCase();
  if (key === "capture") return "a captured start";
  if (path === "wiring.links.paths") return `${(value as unknown[]).length} lengths`;
  if (Array.isArray(value)) return (value as Named[]).map(rowWords).join(", ") || "none";
  if (typeof value === "boolean") return value ? "yes" : "no";
  return String(value ?? "none") || "nothing";
}
