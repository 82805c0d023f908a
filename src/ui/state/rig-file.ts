import { readRigText, type Rig } from "@/core/rig/document";

/** Many times the largest rig document. */
const LARGEST_BYTES = 500_000;

/** Reads a chosen file as a rig document, or says in a line what is wrong with it. */
export async function readRigFile(file: File): Promise<{ ok: true; rig: Rig } | { ok: false; message: string }> {
  if (file.size > LARGEST_BYTES) return { ok: false, message: `${file.name}: too large for a rig document.` };
  const read = readRigText(await file.text());
  if (read.ok) return read;
  const [first] = read.faults;
  const more = read.faults.length > 1 ? ` (and ${read.faults.length - 1} more)` : "";
  return { ok: false, message: `${file.name}: ${first!.path ? `${first!.path}: ` : ""}${first!.message}${more}` };
}
