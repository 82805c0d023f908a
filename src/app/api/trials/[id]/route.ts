import { readAs, errorResponse } from "@/server/door";
import { sourceOf, startInstrument, stopInstrument } from "@/server/instruments/running";
import { missingTrial, rigOfTrial, trialHandler } from "@/server/trial-door";
import { changeTrial, deleteTrial, getTrial, listImports, trialChangeSchema } from "@/server/trials";

export const GET = trialHandler(async (_, trial, db) => {
  // An instrument that ran when the server went down is taken up again by whoever looks first.
  if (trial.source && trial.finishedMs === null && !sourceOf(trial.id)) {
    const job = await rigOfTrial(db, trial);
    if (job) await startInstrument(db, trial, job.rig, trial.source, trial.readings);
  }
  return Response.json({ trial, running: sourceOf(trial.id), imports: await listImports(db, trial.id) });
});

/** Changes name, end, promises and outcome of a trial. */
export const PUT = trialHandler(async (request, trial, db) => {
  const read = await readAs(request, trialChangeSchema);
  if (!read.ok) return errorResponse(read.refusal);
  if (read.value.finished) stopInstrument(trial.id);
  if (!(await changeTrial(db, trial.id, read.value))) return missingTrial();
  return Response.json({ trial: await getTrial(db, trial.id) });
});

export const DELETE = trialHandler(async (_, trial, db) => {
  stopInstrument(trial.id);
  return (await deleteTrial(db, trial.id)) ? new Response(null, { status: 204 }) : missingTrial();
});
