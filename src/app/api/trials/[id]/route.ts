import { readAs, errorResponse } from "@/server/door";
import { sourceOf, stopInstrument } from "@/server/instruments/running";
import { missingTrial, trialHandler } from "@/server/trial-door";
import { changeTrial, deleteTrial, getTrial, listImports } from "@/server/trials";
import { testRunChange } from "@/contract/test-runs";

export const GET = trialHandler(async (_, trial, db) =>
  Response.json({ trial, running: sourceOf(trial.id), imports: await listImports(db, trial.id) }),
);

/** Changes name, end, promises and outcome of a trial. */
export const PUT = trialHandler(async (request, trial, db) => {
  const read = await readAs(request, testRunChange);
  if (!read.ok) return errorResponse(read.refusal);
  if (read.value.finished) stopInstrument(trial.id);
  if (!(await changeTrial(db, trial.id, read.value))) return missingTrial();
  return Response.json({ trial: await getTrial(db, trial.id) });
});

export const DELETE = trialHandler(async (_, trial, db) => {
  stopInstrument(trial.id);
  return (await deleteTrial(db, trial.id)) ? new Response(null, { status: 204 }) : missingTrial();
});
