import { revisionChange } from "@/contract/revisions";
import { database } from "@/server/database";
import { handler, readAs, errorResponse, ofJob } from "@/server/handler";
import { idSchema } from "@/contract/common";
import { changeRevision, revisionJob } from "@/server/options";
import { say } from "@/core/messages/say";
import { asAllowed } from "@/server/rights";

const GONE = say("server.revision.gone");
type Place = { id: string; revision: string };
const missing = () => errorResponse({ status: 404, message: GONE });
const known = (id: string) => idSchema.safeParse(id).success;

/** The document of a revision: `{ "job": … }`. */
export const GET = handler<Place>(
  ofJob("look"),
  async (_, { id, revision }) => {
    const job = known(revision) ? await revisionJob(database(), id, revision) : null;
    return job ? Response.json({ job }) : missing();
  },
  GONE,
);

/** Takes a revision off the list, or puts it back: `{ "deleted": true }`. */
export const PUT = handler<Place>(
  ofJob("design"),
  async (request, { id, revision }, who) => {
    const read = await readAs(request, revisionChange);
    if (!read.ok) return errorResponse(read.refusal);
    const { deleted } = read.value;
    const done = known(revision) && (await asAllowed(who, "design", (tx) => changeRevision(tx, id, revision, deleted)));
    return done ? new Response(null, { status: 204 }) : missing();
  },
  GONE,
);
