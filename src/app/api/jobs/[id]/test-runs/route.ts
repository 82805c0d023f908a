import { kindOfJob } from "@/core/applications/test-run/report/record";
import { database } from "@/server/database";
import { handler, readAs, errorResponse, ofJob } from "@/server/handler";
import { getJob } from "@/server/jobs";
import { createTestRun, getTestRun, listTestRuns } from "@/server/test-runs";
import { newTestRun } from "@/contract/test-runs";
import { say } from "@/core/messages/say";
import { asAllowed } from "@/server/rights";

const GONE = say("server.job.gone");

/** Test runs of a job, the newest first. */
export const GET = handler<{ id: string }>(
  ofJob("look"),
  async (_, { id }) => {
    const db = database();
    return Response.json({ testRuns: await listTestRuns(db, id) });
  },
  GONE,
);

/** Starts a test run on a job: `{ "name": …, "startedAt": Unix ms, "id": …, "conditions": … }`; sent twice with one id it is started once. */
export const POST = handler<{ id: string }>(
  ofJob("measure"),
  async (request, { id }, who) => {
    const read = await readAs(request, newTestRun);
    if (!read.ok) return errorResponse(read.refusal);
    const db = database();
    const job = await getJob(db, id);
    if (!job) return errorResponse({ status: 404, message: GONE });
    const { name, startedAt, id: own, conditions } = read.value;
    const run = {
      id: own,
      jobId: id,
      name,
      kind: kindOfJob(job.job),
      startedMs: startedAt ?? Date.now(),
      conditions,
    };
    const made = await asAllowed(who, "measure", (tx) => createTestRun(tx, run));
    return Response.json({ testRun: await getTestRun(db, made) }, { status: 201 });
  },
  GONE,
);
