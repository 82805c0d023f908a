import { sourceOf, startInstrument } from "@/server/instruments/running";
import { rigOfTrial, trialHandler } from "@/server/trial-door";

/** Takes up an instrument again that ran when the server went down; does nothing where it runs, or where there is none. */
export const POST = trialHandler(async (_, trial, db) => {
  if (trial.source && trial.finishedMs === null && !sourceOf(trial.id)) {
    const job = await rigOfTrial(db, trial);
    if (job) await startInstrument(db, trial, job.rig, trial.source, trial.readings);
  }
  return Response.json({ running: sourceOf(trial.id) });
});
