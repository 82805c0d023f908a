import { newImport } from "@/contract/test-runs";
import { readAs, errorResponse } from "@/server/handler";
import { testRunHandler } from "@/server/test-run-handler";
import { openImport, sweepImports } from "@/server/test-runs";

/** Opens an import; its pieces follow, and nothing of it is seen until it is closed. */
export const POST = testRunHandler("measure", async (request, testRun, db) => {
  const read = await readAs(request, newImport);
  if (!read.ok) return errorResponse(read.refusal);
  await sweepImports(db);
  return Response.json({ id: await openImport(db, testRun.id, read.value.fileName) }, { status: 201 });
});
