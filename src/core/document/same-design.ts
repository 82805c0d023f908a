import type { Job } from "./schema";

/** Whether two documents differ at most in what was found and ticked off at the system: faults found and commissioning steps. */
export function sameDesign(a: Job, b: Job): boolean {
  const design = (job: Job) => JSON.stringify({ ...job, handover: job.handover.document });
  return design(a) === design(b);
}
