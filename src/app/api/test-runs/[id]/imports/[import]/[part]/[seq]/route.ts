import { MOST_PIECES } from "@/contract/test-runs";
import { readBytes, errorResponse } from "@/server/handler";
import { NO_IMPORT, testRunHandler } from "@/server/test-run-handler";
import { LARGEST_CHUNK, putChunk } from "@/server/test-runs";
import { say } from "@/core/messages/say";

type Place = { id: string; import: string; part: string; seq: string };

/** Keeps one piece of an import: packed readings, or bytes of the original file. */
export const PUT = testRunHandler<Place>("measure", async (request, testRun, db, place) => {
  const { part } = place;
  const seq = Number(place.seq);
  if ((part !== "readings" && part !== "file") || !/^\d{1,4}$/.test(place.seq) || seq >= MOST_PIECES)
    return errorResponse({ status: 400, message: say("server.piece.number", { most: MOST_PIECES - 1 }) });
  const read = await readBytes(request, LARGEST_CHUNK);
  if (!read.ok) return errorResponse(read.refusal);
  const kept = await putChunk(db, testRun.id, place.import, part, seq, read.bytes);
  if (kept === "missing") return errorResponse({ status: 404, message: NO_IMPORT });
  if (kept === "broken") return errorResponse({ status: 400, message: say("server.piece.damaged") });
  return new Response(null, { status: 204 });
});
