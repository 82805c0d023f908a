import { database } from "@/server/database";
import { handler, readBody, errorResponse, revisionOfBody, jobOfBody } from "@/server/door";
import { deleteJob, getJob, saveJob } from "@/server/jobs";
import { say } from "@/core/messages/say";

const GONE = say("server.job.gone");
const missing = () => errorResponse({ status: 404, message: GONE });

export const GET = handler<{ id: string }>(async (_, { id }) => {
  const found = await getJob(database(), id);
  return found ? Response.json(found) : missing();
}, GONE);

/** Saves `{ "revision": the one read, "job": … }`; 409 with what stands there where another has saved since. */
export const PUT = handler<{ id: string }>(async (request, { id }) => {
  const read = await readBody(request);
  if (!read.ok) return errorResponse(read.refusal);
  const revision = revisionOfBody(read.body);
  if (!revision.ok) return errorResponse(revision.refusal);
  const document = jobOfBody(read.body);
  if (!document.ok) return errorResponse(document.refusal);
  const saved = await saveJob(database(), id, revision.revision, document.job);
  if (saved.outcome === "missing") return missing();
  if (saved.outcome === "changed-elsewhere")
    return Response.json({ error: say("server.changedElsewhere"), current: saved.current }, { status: 409 });
  return Response.json({ revision: saved.revision, updatedAt: saved.updatedAt });
}, GONE);

export const DELETE = handler<{ id: string }>(
  async (_, { id }) => ((await deleteJob(database(), id)) ? new Response(null, { status: 204 }) : missing()),
  GONE,
);
