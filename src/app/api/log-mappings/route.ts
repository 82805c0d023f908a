import { keptMapping as keptSchema, mappingQuery } from "@/contract/test-runs";
import { database } from "@/server/database";
import { handler, readAs, errorResponse } from "@/server/handler";
import { keepMapping, keptMapping } from "@/server/test-runs";
import { asAllowed } from "@/server/rights";

/** The mapping last used for a header line: `{ "header": … }`. */
export const POST = handler({ may: "measure" }, async (request, _, { workshopId }) => {
  const read = await readAs(request, mappingQuery);
  if (!read.ok) return errorResponse(read.refusal);
  return Response.json({ mapping: await keptMapping(database(), workshopId, read.value.header) });
});

/** Keeps a mapping for next time. */
export const PUT = handler({ may: "measure" }, async (request, _, who) => {
  const read = await readAs(request, keptSchema);
  if (!read.ok) return errorResponse(read.refusal);
  await asAllowed(who, "measure", (tx) => keepMapping(tx, who.workshopId, read.value));
  return new Response(null, { status: 204 });
});
