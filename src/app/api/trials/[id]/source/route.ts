import { readAs, errorResponse } from "@/server/door";
import { probesOf, sourceOf, startInstrument, stopInstrument } from "@/server/instruments/running";
import { rigOfTrial, trialHandler } from "@/server/trial-door";
import { setSource } from "@/server/trials";
import { sourceSchema } from "@/contract/test-runs";
import { say } from "@/core/messages/say";

/** The instrument that runs on the test run, and what a simulator's probes show now. */
export const GET = trialHandler((_, trial) =>
  Promise.resolve(Response.json({ running: sourceOf(trial.id), probes: probesOf(trial.id) })),
);

/** Starts an instrument: the simulator, a file that is followed, or a Signal K server. */
export const POST = trialHandler(async (request, trial, db) => {
  const read = await readAs(request, sourceSchema);
  if (!read.ok) return errorResponse(read.refusal);
  if (trial.finishedMs !== null) return errorResponse({ status: 409, message: say("server.testRun.finished") });
  const job = await rigOfTrial(db, trial);
  if (!job) return errorResponse({ status: 404, message: say("server.testRun.jobDeleted") });
  const started = await startInstrument(db, trial, job.rig, read.value);
  if (!started.ok) return errorResponse({ status: 400, message: started.message });
  return Response.json({ running: read.value }, { status: 201 });
});

/** Stops it, for good: nobody who looks takes it up again. */
export const DELETE = trialHandler(async (_, trial, db) => {
  stopInstrument(trial.id);
  await setSource(db, trial.id, null);
  return new Response(null, { status: 204 });
});
