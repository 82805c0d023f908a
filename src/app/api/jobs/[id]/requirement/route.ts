import { requirementSchema } from "@/core/applications/options/target";
import { database } from "@/server/database";
import { handler, readAs, errorResponse, ofJob } from "@/server/handler";
import { getRequirement, keepRequirement } from "@/server/options";
import { say } from "@/core/messages/say";
import { asAllowed } from "@/server/rights";

const GONE = say("server.job.gone");

/** `{ "requirement": … }`, null where none was kept. */
export const GET = handler<{ id: string }>(
  ofJob("look"),
  async (_, { id }) => {
    const db = database();
    return Response.json({ requirement: await getRequirement(db, id) });
  },
  GONE,
);

export const PUT = handler<{ id: string }>(
  ofJob("design"),
  async (request, { id }, who) => {
    const read = await readAs(request, requirementSchema);
    if (!read.ok) return errorResponse(read.refusal);
    await asAllowed(who, "design", (tx) => keepRequirement(tx, id, read.value));
    return new Response(null, { status: 204 });
  },
  GONE,
);
