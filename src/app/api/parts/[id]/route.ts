import { handler, entryOfBody, readBody, errorResponse, revisionOfBody, ofPart } from "@/server/handler";
import { deletePart, savePart } from "@/server/parts";
import { say } from "@/core/messages/say";
import { asAllowed } from "@/server/rights";

const GONE = say("server.part.gone");
const missing = () => errorResponse({ status: 404, message: GONE });

/** Saves `{ "revision": the one read, "entry": … }`; 409 with what stands there where another has saved since. */
export const PUT = handler<{ id: string }>(
  ofPart("stock"),
  async (request, { id }, who) => {
    const read = await readBody(request);
    if (!read.ok) return errorResponse(read.refusal);
    const revision = revisionOfBody(read.body);
    if (!revision.ok) return errorResponse(revision.refusal);
    const entry = entryOfBody(read.body);
    if (!entry.ok) return errorResponse(entry.refusal);
    const next = { id, revision: revision.revision, entry: entry.entry };
    const saved = await asAllowed(who, "stock", (tx) => savePart(tx, who.workshopId, next));
    if (saved.outcome === "missing") return missing();
    if (saved.outcome === "changed-elsewhere")
      return Response.json({ error: say("server.changedElsewhere"), current: saved.current }, { status: 409 });
    return Response.json({ revision: saved.revision });
  },
  GONE,
);

export const DELETE = handler<{ id: string }>(
  ofPart("stock"),
  async (_, { id }, who) =>
    (await asAllowed(who, "stock", (tx) => deletePart(tx, id))) ? new Response(null, { status: 204 }) : missing(),
  GONE,
);
