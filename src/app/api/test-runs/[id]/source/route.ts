import { readAs, errorResponse } from "@/server/handler";
import { probesOf, startInstrument, stopInstrument } from "@/server/instruments/running";
import { jobOfTestRun, testRunHandler } from "@/server/test-run-handler";
import { sourceSchema } from "@/contract/test-runs";
import { say } from "@/core/messages/say";

/** What the probes of a simulator show now. */
export const GET = testRunHandler("look", async (_, testRun, db) => {
  const job = testRun.finishedMs === null ? await jobOfTestRun(db, testRun) : null;
  return Response.json({ probes: job && (await probesOf(db, testRun, job.job)) });
});

/** Starts an instrument: the simulator, a file that is followed, or a Signal K server. */
export const POST = testRunHandler("measure", async (request, testRun, db) => {
  const read = await readAs(request, sourceSchema);
  if (!read.ok) return errorResponse(read.refusal);
  if (testRun.finishedMs !== null) return errorResponse({ status: 409, message: say("server.testRun.finished") });
  const job = await jobOfTestRun(db, testRun);
  if (!job) return errorResponse({ status: 404, message: say("server.testRun.jobDeleted") });
  const started = await startInstrument(db, testRun, job.job, read.value);
  if (!started.ok) return errorResponse({ status: 400, message: started.message });
  return Response.json({ running: read.value }, { status: 201 });
});

/** Stops it, for good. */
export const DELETE = testRunHandler("measure", async (_, testRun, db) => {
  await stopInstrument(db, testRun.id);
  return new Response(null, { status: 204 });
});
