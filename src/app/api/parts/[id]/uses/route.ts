import { chosenJobs } from "@/contract/parts";
import { database } from "@/server/database";
import { authorOf, handler, readBody, errorResponse, ofPart } from "@/server/handler";
import { jobsUsing, partsOf, updateJobs } from "@/server/parts";
import { say } from "@/core/messages/say";

const GONE = say("server.part.none");

/** The jobs that use a part, with their verdicts now and with the part as it stands. */
export const GET = handler<{ id: string }>(
  ofPart("look"),
  async (_, { id }, { workshopId }) => {
    const [part] = await partsOf(database(), workshopId, [id]);
    return part
      ? Response.json({ jobs: await jobsUsing(database(), workshopId, part) })
      : errorResponse({ status: 404, message: GONE });
  },
  GONE,
);

/** Brings the chosen jobs to the part as it stands: `{ "jobs": [{ "id", "revision" }] }`. */
export const POST = handler<{ id: string }>(
  ofPart("stock"),
  async (request, { id }, who) => {
    const [part] = await partsOf(database(), who.workshopId, [id]);
    if (!part) return errorResponse({ status: 404, message: GONE });
    const read = await readBody(request);
    if (!read.ok) return errorResponse(read.refusal);
    const chosen = chosenJobs.safeParse(read.body);
    if (!chosen.success) {
      const faults = chosen.error.issues.map(({ path, message }) => ({ path: path.join("."), message }));
      return errorResponse({ status: 400, message: "jobs: a list of ids and revisions expected", faults });
    }
    return Response.json({ updated: await updateJobs(database(), authorOf(who), part, chosen.data.jobs) });
  },
  GONE,
);
