import { resumeInstrument, sourceOf } from "@/server/instruments/running";
import { jobOfTestRun, testRunHandler } from "@/server/test-run-door";

/** Takes up an instrument again that ran when the server went down; does nothing where it runs, or where there is none. */
export const POST = testRunHandler("measure", async (_, testRun, db) => {
  if (testRun.source && testRun.finishedMs === null && !sourceOf(testRun.id)) {
    const job = await jobOfTestRun(db, testRun);
    if (job) await resumeInstrument(db, testRun, job.job, testRun.source, testRun.readings);
  }
  return Response.json({ running: sourceOf(testRun.id) });
});
