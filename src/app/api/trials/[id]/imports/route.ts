import { z } from "zod";
import { readAs, errorResponse } from "@/server/door";
import { trialHandler } from "@/server/trial-door";
import { openImport, sweepImports } from "@/server/trials";

const openSchema = z.strictObject({ fileName: z.string().min(1).max(200) });

/** Opens an import; its pieces follow, and nothing of it is seen until it is closed. */
export const POST = trialHandler(async (request, trial, db) => {
  const read = await readAs(request, openSchema);
  if (!read.ok) return errorResponse(read.refusal);
  await sweepImports(db);
  return Response.json({ id: await openImport(db, trial.id, read.value.fileName) }, { status: 201 });
});
