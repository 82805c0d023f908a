import type { Knex } from "knex";
import { database } from "./database";
import { handler, errorResponse } from "./door";
import { idSchema } from "@/contract/common";
import { getRig, type StoredRig } from "./rigs";
import { getTrial } from "./trials";
import { type ListedTestRun } from "@/contract/test-runs";
import { say } from "@/core/messages/say";

const GONE = say("server.testRun.gone");
export const NO_READING = say("server.reading.none");
export const NO_IMPORT = say("server.import.none");

export const missingTrial = () => errorResponse({ status: 404, message: GONE });

type Handle<P> = (request: Request, trial: ListedTestRun, db: Knex, parameters: P) => Promise<Response>;

/** A route of one test run: found first, so that what follows stands on a test run that is there; other ids in the address are ids too. */
export function trialHandler<P extends Record<string, string> = { id: string }>(handle: Handle<P>) {
  return handler<P & { id: string }>(async (request, parameters) => {
    for (const [name, value] of Object.entries(parameters))
      if (!["part", "seq"].includes(name) && !idSchema.safeParse(value).success) return missingTrial();
    const db = database();
    const trial = await getTrial(db, parameters.id);
    return trial ? handle(request, trial, db, parameters) : missingTrial();
  }, GONE);
}

/** The job of a test run; null where it was deleted. */
export const rigOfTrial = (db: Knex, trial: ListedTestRun): Promise<StoredRig | null> => getRig(db, trial.rigId);
