import { readAs, errorResponse } from "@/server/handler";
import { NO_READING, testRunHandler } from "@/server/test-run-handler";
import { changeReading, readingHistory } from "@/server/test-runs";
import { readingChange } from "@/contract/test-runs";
import { say } from "@/core/messages/say";
import { asAllowed } from "@/server/rights";

type Place = { id: string; reading: string };

/** What the reading was before its corrections. */
export const GET = testRunHandler<Place>("look", async (_, testRun, db, { reading }) => {
  const history = await readingHistory(db, testRun.id, reading);
  return history ? Response.json({ history }) : errorResponse({ status: 404, message: NO_READING });
});

/** Corrects, deletes or brings back a reading over the version it was read at; 409 where it changed since. */
export const PUT = testRunHandler<Place>("measure", async (request, testRun, _, { reading }, who) => {
  const read = await readAs(request, readingChange);
  if (!read.ok) return errorResponse(read.refusal);
  const { value } = read;
  const change = "change" in value ? value.change : value.reading;
  const changed = await asAllowed(who, "measure", (tx) =>
    changeReading(tx, testRun.id, reading, value.version, change),
  );
  if (changed.outcome === "missing") return errorResponse({ status: 404, message: NO_READING });
  if (changed.outcome === "changed-elsewhere")
    return errorResponse({ status: 409, message: say("server.reading.changed") });
  return Response.json({ version: changed.version });
});
