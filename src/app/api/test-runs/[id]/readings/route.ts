import { errorResponse, handler, ofTestRun, readAs } from "@/server/handler";
import { GONE, testRunHandler } from "@/server/test-run-handler";
import { keepReadings, lastReadings } from "@/server/test-runs";
import { CLOCK_OFF_MS, CLOCK_PATH, sentReadings } from "@/contract/test-runs";
import { say } from "@/core/messages/say";
import { asAllowed } from "@/server/rights";

/** The last readings by hand or from an instrument, newest first: `?limit=` up to 500, `?deleted=1` with the deleted ones. */
export const GET = testRunHandler("look", async (request, testRun, db) => {
  const { searchParams } = new URL(request.url);
  const limit = Math.min(500, Math.max(1, Number(searchParams.get("limit") ?? 50) || 50));
  return Response.json({ readings: await lastReadings(db, testRun.id, limit, searchParams.get("deleted") === "1") });
});

/** Keeps readings, each once however often it is sent: all of them or none, but for those made after the run was finished. */
export const POST = handler<{ id: string }>(
  ofTestRun("measure"),
  // Once a second from every instrument: the run is asked for by what keeps them, and not before.
  async (request, { id }, who) => {
    const read = await readAs(request, sentReadings);
    if (!read.ok) return errorResponse(read.refusal);
    const { sentAtMs } = read.value;
    // Never taken silently: whoever wrote them says whether their times are to be moved.
    const ahead = sentAtMs === undefined ? 0 : Date.now() - sentAtMs;
    if (Math.abs(ahead) > CLOCK_OFF_MS)
      return errorResponse({
        status: 409,
        message: say(ahead < 0 ? "server.clockFast" : "server.clockSlow", {
          minutes: Math.round(Math.abs(ahead) / 60_000),
        }),
        faults: [{ path: CLOCK_PATH, message: String(ahead) }],
      });
    const kept = await asAllowed(who, "measure", (tx) => keepReadings(tx, id, read.value.readings));
    return Response.json(kept, { status: 201 });
  },
  GONE,
);
