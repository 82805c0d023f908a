import { kindOfRig } from "@/core/applications/test-run/report/record";
import { database } from "@/server/database";
import { handler, readAs, errorResponse } from "@/server/door";
import { getRig } from "@/server/rigs";
import { createTrial, getTrial, listTrials } from "@/server/trials";
import { newTestRun } from "@/contract/test-runs";
import { say } from "@/core/messages/say";

const GONE = say("server.job.gone");

/** Trials of a job, the newest first. */
export const GET = handler<{ id: string }>(async (_, { id }) => {
  const db = database();
  if (!(await getRig(db, id))) return errorResponse({ status: 404, message: GONE });
  return Response.json({ trials: await listTrials(db, id) });
}, GONE);

/** Starts a test run on a job: `{ "name": …, "startedAt": Unix ms, "id": … }`; sent twice with one id it is started once. */
export const POST = handler<{ id: string }>(async (request, { id }) => {
  const read = await readAs(request, newTestRun);
  if (!read.ok) return errorResponse(read.refusal);
  const db = database();
  const job = await getRig(db, id);
  if (!job) return errorResponse({ status: 404, message: GONE });
  const { name, startedAt, id: own } = read.value;
  const made = await createTrial(db, {
    id: own,
    rigId: id,
    name,
    kind: kindOfRig(job.rig),
    startedMs: startedAt ?? Date.now(),
  });
  return Response.json({ trial: await getTrial(db, made) }, { status: 201 });
}, GONE);
