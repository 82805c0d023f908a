import { database } from "@/server/database";
import { authorOf, handler, readBody, errorResponse, revisionOfBody, jobOfBody, ofJob } from "@/server/handler";
import { deleteJob, getJob, saveJob } from "@/server/jobs";
import { say } from "@/core/messages/say";

const GONE = say("server.job.gone");
const missing = () => errorResponse({ status: 404, message: GONE });

export const GET = handler<{ id: string }>(
  ofJob("look"),
  async (_, { id }) => {
    const found = await getJob(database(), id);
    return found ? Response.json(found) : missing();
  },
  GONE,
);

/** Saves `{ "revision": the one read, "job": … }`; 409 with what stands there where another has saved since. */
export const PUT = handler<{ id: string }>(
  ofJob("measure"),
  async (request, { id }, who) => {
    const read = await readBody(request);
    if (!read.ok) return errorResponse(read.refusal);
    const revision = revisionOfBody(read.body);
    if (!revision.ok) return errorResponse(revision.refusal);
    const document = jobOfBody(read.body);
    if (!document.ok) return errorResponse(document.refusal);
    const saved = await saveJob(database(), authorOf(who), { id, revision: revision.revision, job: document.job });
    if (saved.outcome === "missing") return missing();
    if (saved.outcome === "changed-elsewhere")
      return Response.json({ error: say("server.changedElsewhere"), current: saved.current }, { status: 409 });
    return Response.json({ revision: saved.revision, updatedAt: saved.updatedAt });
  },
  GONE,
);

export const DELETE = handler<{ id: string }>(
  ofJob("design"),
  async (_, { id }, who) =>
    (await deleteJob(database(), authorOf(who), id)) ? new Response(null, { status: 204 }) : missing(),
  GONE,
);
