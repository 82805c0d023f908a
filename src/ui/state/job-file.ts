import { call } from "@/contract/client";
import { importedJob } from "@/contract/jobs";
import { readJobText, type Job } from "@/core/document/schema";
import { say } from "@/core/messages/say";

/** Many times the largest document of a job. */
const LARGEST_BYTES = 500_000;

/** Reads a chosen file as a document of a job, or says in a line what is wrong with it. */
export async function readJobFile(file: File): Promise<{ ok: true; job: Job } | { ok: false; message: string }> {
  if (isJobFile(file)) return { ok: false, message: say("interface.wholeJobImportList", { name: file.name }) };
  if (file.size > LARGEST_BYTES) return { ok: false, message: say("interface.tooLarge.job", { name: file.name }) };
  const read = readJobText(await file.text());
  if (read.ok) return read;
  const [first] = read.faults;
  const more = read.faults.length > 1 ? ` (and ${read.faults.length - 1} more)` : "";
  return { ok: false, message: `${file.name}: ${first!.path ? `${first!.path}: ` : ""}${first!.message}${more}` };
}

/** Whether a chosen file is a whole job, by its name or type: what is in it is the server's to say. */
export const isJobFile = ({ name, type }: File): boolean => /\.zip$/i.test(name) || type === "application/zip";

/** Largest whole job that the server takes. */
const LARGEST_JOB_BYTES = 512 * 1024 * 1024;

/** Makes a job of a whole job's ZIP; throws with a message to show. */
export async function importJobFile(file: File): Promise<{ id: string; name: string }> {
  if (file.size > LARGEST_JOB_BYTES) throw new Error(say("interface.tooLarge.wholeJob", { name: file.name }));
  try {
    return await call(importedJob, "/api/jobs/whole", {
      method: "POST",
      headers: { "content-type": "application/zip" },
      body: file,
    });
  } catch (error) {
    throw new Error(`${file.name}: ${(error as Error).message}`, { cause: error });
  }
}
