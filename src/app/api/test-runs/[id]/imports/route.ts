import { newImport } from "@/contract/test-runs";
import { readAs, errorResponse } from "@/server/handler";
import { testRunHandler } from "@/server/test-run-handler";
import { openImport, sweepImports } from "@/server/test-runs";
import { asAllowed } from "@/server/rights";

/** Opens an import; its pieces follow, and nothing of it is seen until it is closed. */
export const POST = testRunHandler("measure", async (request, testRun, db, _, who) => {
  const read = await readAs(request, newImport);
  if (!read.ok) return errorResponse(read.refusal);
  await sweepImports(db);
  const id = await asAllowed(who, "measure", (tx) => openImport(tx, testRun.id, read.value.fileName));
  return Response.json({ id }, { status: 201 });
});
