import type { Knex } from "knex";
import { database } from "./database";
import { handler, errorResponse, ofTestRun } from "./handler";
import { idSchema } from "@/contract/common";
import { getJob, type StoredJob } from "./jobs";
import { getTestRun } from "./test-runs";
import { type ListedTestRun } from "@/contract/test-runs";
import type { Who } from "./who";
import { say } from "@/core/messages/say";

export const GONE = say("server.testRun.gone");
export const NO_READING = say("server.reading.none");
export const NO_IMPORT = say("server.import.none");

export const missingTestRun = () => errorResponse({ status: 404, message: GONE });

type Handle<P> = (request: Request, testRun: ListedTestRun, db: Knex, parameters: P, who: Who) => Promise<Response>;

/** A route of one test run: found first, so that what follows stands on a test run that is there; other ids in the address are ids too. */
export function testRunHandler<P extends Record<string, string> = { id: string }>(
  may: "look" | "measure",
  handle: Handle<P>,
) {
  return handler<P & { id: string }>(
    ofTestRun(may),
    async (request, parameters, who) => {
      for (const [name, value] of Object.entries(parameters))
        if (!["part", "seq"].includes(name) && !idSchema.safeParse(value).success) return missingTestRun();
      const db = database();
      const testRun = await getTestRun(db, parameters.id);
      return testRun ? handle(request, testRun, db, parameters, who) : missingTestRun();
    },
    GONE,
  );
}

/** The job of a test run; null where it was deleted. */
export const jobOfTestRun = (db: Knex, testRun: ListedTestRun): Promise<StoredJob | null> => getJob(db, testRun.jobId);
