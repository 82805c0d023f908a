import { readAs, errorResponse } from "@/server/door";
import { trialHandler } from "@/server/trial-door";
import { addReadings, lastReadings } from "@/server/trials";
import { sentReadings } from "@/contract/test-runs";

/** The last readings by hand or from an instrument, newest first: `?limit=` up to 500, `?deleted=1` with the deleted ones. */
export const GET = trialHandler(async (request, trial, db) => {
  const { searchParams } = new URL(request.url);
  const limit = Math.min(500, Math.max(1, Number(searchParams.get("limit") ?? 50) || 50));
  return Response.json({ readings: await lastReadings(db, trial.id, limit, searchParams.get("deleted") === "1") });
});

/** Keeps readings: all of them or none, each once however often it is sent. */
export const POST = trialHandler(async (request, trial, db) => {
  const read = await readAs(request, sentReadings);
  if (!read.ok) return errorResponse(read.refusal);
  return Response.json({ added: await addReadings(db, trial.id, read.value.readings) }, { status: 201 });
});
