import { readAs, errorResponse } from "@/server/handler";
import { reasonOfEnd } from "@/server/instruments/leases";
import { stopInstrument } from "@/server/instruments/running";
import { missingTestRun, testRunHandler } from "@/server/test-run-handler";
import { changeTestRun, deleteTestRun, getTestRun, listImports } from "@/server/test-runs";
import { testRunChange } from "@/contract/test-runs";

export const GET = testRunHandler("look", async (_, testRun, db) =>
  Response.json({
    testRun,
    running: testRun.finishedMs === null ? testRun.source : null,
    ended: await reasonOfEnd(db, testRun.id),
    imports: await listImports(db, testRun.id),
  }),
);

/** Changes name, end, snapshots, outcome and conditions of a test run. */
export const PUT = testRunHandler("measure", async (request, testRun, db) => {
  const read = await readAs(request, testRunChange);
  if (!read.ok) return errorResponse(read.refusal);
  if (read.value.finished) await stopInstrument(db, testRun.id);
  if (!(await changeTestRun(db, testRun.id, read.value))) return missingTestRun();
  return Response.json({ testRun: await getTestRun(db, testRun.id) });
});

export const DELETE = testRunHandler("measure", async (_, testRun, db) => {
  await stopInstrument(db, testRun.id);
  return (await deleteTestRun(db, testRun.id)) ? new Response(null, { status: 204 }) : missingTestRun();
});
