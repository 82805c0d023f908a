import { newImport } from "@/contract/test-runs";
import { readAs, errorResponse } from "@/server/door";
import { trialHandler } from "@/server/trial-door";
import { openImport, sweepImports } from "@/server/trials";

/** Opens an import; its pieces follow, and nothing of it is seen until it is closed. */
export const POST = trialHandler(async (request, trial, db) => {
  const read = await readAs(request, newImport);
  if (!read.ok) return errorResponse(read.refusal);
  await sweepImports(db);
  return Response.json({ id: await openImport(db, trial.id, read.value.fileName) }, { status: 201 });
});
