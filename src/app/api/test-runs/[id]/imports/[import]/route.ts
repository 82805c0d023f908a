import { importClosed } from "@/contract/test-runs";
import { attachment, readAs, errorResponse } from "@/server/handler";
import { NO_IMPORT, testRunHandler } from "@/server/test-run-handler";
import { closeImport, dropImport, originalFile } from "@/server/test-runs";
import { asAllowed } from "@/server/rights";

type Place = { id: string; import: string };
const none = () => errorResponse({ status: 404, message: NO_IMPORT });

/** The original file, as it was dropped in. */
export const GET = testRunHandler<Place>("look", async (_, testRun, db, place) => {
  const file = await originalFile(db, testRun.id, place.import);
  if (!file) return none();
  return new Response(new Uint8Array(file.bytes), {
    headers: { "content-type": "application/octet-stream", "content-disposition": attachment(file.name) },
  });
});

/** Closes an import: it becomes part of the test run where every piece of it is there. */
export const POST = testRunHandler<Place>("measure", async (request, testRun, _, place, who) => {
  const read = await readAs(request, importClosed);
  if (!read.ok) return errorResponse(read.refusal);
  const closed = await asAllowed(who, "measure", (tx) => closeImport(tx, testRun.id, place.import, read.value));
  if (closed.outcome === "missing") return none();
  if (closed.outcome === "incomplete") return errorResponse({ status: 409, message: closed.message });
  return Response.json({ rows: closed.rows });
});

/** Takes an import out of the test run again. */
export const DELETE = testRunHandler<Place>("measure", async (_, testRun, __, place, who) =>
  (await asAllowed(who, "measure", (tx) => dropImport(tx, testRun.id, place.import)))
    ? new Response(null, { status: 204 })
    : none(),
);
