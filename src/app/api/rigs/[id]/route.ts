import { database } from "@/server/database";
import { handler, readBody, errorResponse, revisionOfBody, rigOfBody } from "@/server/door";
import { deleteRig, getRig, saveRig } from "@/server/rigs";
import { say } from "@/core/messages/say";

const GONE = say("server.job.gone");
const missing = () => errorResponse({ status: 404, message: GONE });

export const GET = handler<{ id: string }>(async (_, { id }) => {
  const found = await getRig(database(), id);
  return found ? Response.json(found) : missing();
}, GONE);

/** Saves `{ "revision": the one read, "rig": … }`; 409 with what stands there where another has saved since. */
export const PUT = handler<{ id: string }>(async (request, { id }) => {
  const read = await readBody(request);
  if (!read.ok) return errorResponse(read.refusal);
  const revision = revisionOfBody(read.body);
  if (!revision.ok) return errorResponse(revision.refusal);
  const document = rigOfBody(read.body);
  if (!document.ok) return errorResponse(document.refusal);
  const saved = await saveRig(database(), id, revision.revision, document.rig);
  if (saved.outcome === "missing") return missing();
  if (saved.outcome === "changed-elsewhere")
    return Response.json({ error: say("server.changedElsewhere"), current: saved.current }, { status: 409 });
  return Response.json({ revision: saved.revision, updatedAt: saved.updatedAt });
}, GONE);

export const DELETE = handler<{ id: string }>(
  async (_, { id }) => ((await deleteRig(database(), id)) ? new Response(null, { status: 204 }) : missing()),
  GONE,
);
