import { database } from "@/server/database";
import { handler, readBody, errorResponse, jobOfBody, ofJob } from "@/server/handler";
import { keepRevision, listRevisions } from "@/server/options";
import { newRevision } from "@/contract/revisions";
import { say } from "@/core/messages/say";
import { asAllowed } from "@/server/rights";

const GONE = say("server.job.gone");

export const GET = handler<{ id: string }>(
  ofJob("look"),
  async (_, { id }) => {
    const db = database();
    return Response.json({ revisions: await listRevisions(db, id) });
  },
  GONE,
);

/** Names a state: `{ "id", "name", "promise", "job" }`; sent twice with one id it is kept once. */
export const POST = handler<{ id: string }>(
  ofJob("design"),
  async (request, { id }, who) => {
    const read = await readBody(request);
    if (!read.ok) return errorResponse(read.refusal);
    const document = jobOfBody(read.body);
    if (!document.ok) return errorResponse(document.refusal);
    const { id: own, name, promise } = read.body as Record<string, unknown>;
    const named = newRevision.safeParse({ id: own, name, promise });
    if (!named.success) {
      const faults = named.error.issues.map(({ path, message }) => ({ path: path.join("."), message }));
      return errorResponse({ status: 400, message: `${faults[0]!.path}: ${faults[0]!.message}`, faults });
    }
    await asAllowed(who, "design", (tx) => keepRevision(tx, id, named.data, document.job));
    return Response.json({ revisions: await listRevisions(database(), id) }, { status: 201 });
  },
  GONE,
);
