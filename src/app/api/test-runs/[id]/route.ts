import { readAs, errorResponse } from "@/server/handler";
import { reasonOfEnd } from "@/server/instruments/leases";
import { stopInstrument } from "@/server/instruments/running";
import { missingTestRun, testRunHandler } from "@/server/test-run-handler";
import { changeTestRun, deleteTestRun, getTestRun, listImports } from "@/server/test-runs";
import { testRunChange } from "@/contract/test-runs";
import { asAllowed } from "@/server/rights";

export const GET = testRunHandler("look", async (_, testRun, db) =>
  Response.json({
    testRun,
    running: testRun.finishedMs === null ? testRun.source : null,
    ended: await reasonOfEnd(db, testRun.id),
    imports: await listImports(db, testRun.id),
  }),
);

/** Changes name, end, snapshots, outcome and conditions of a test run. */
export const PUT = testRunHandler("measure", async (request, testRun, db, _, who) => {
  const read = await readAs(request, testRunChange);
  if (!read.ok) return errorResponse(read.refusal);
  if (read.value.finished) await stopInstrument(db, testRun.id);
  const changed = await asAllowed(who, "measure", (tx) => changeTestRun(tx, testRun.id, read.value));
  if (!changed) return missingTestRun();
  return Response.json({ testRun: await getTestRun(db, testRun.id) });
});

export const DELETE = testRunHandler("measure", async (_, testRun, db, __, who) => {
  await stopInstrument(db, testRun.id);
  return (await asAllowed(who, "measure", (tx) => deleteTestRun(tx, testRun.id)))
    ? new Response(null, { status: 204 })
    : missingTestRun();
});
