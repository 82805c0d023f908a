import { dayOfFollowUps, followUps } from "@/core/applications/handover/follow-ups";
import { assess } from "@/core/assessment/verdicts/assess";
import { calendarOf } from "@/server/calendar";
import { database } from "@/server/database";
import { handler, errorResponse } from "@/server/door";
import { getRig } from "@/server/rigs";
import { fileStem } from "@/server/words";
import { say } from "@/core/messages/say";

const GONE = say("server.job.none");

/** The follow-up checks of a job as a calendar file (.ics). */
export const GET = handler<{ id: string }>(async (_, { id }) => {
  const found = await getRig(database(), id);
  if (!found) return errorResponse({ status: 404, message: GONE });
  const { rig, updatedAt } = found;
  const from = dayOfFollowUps(rig, updatedAt.toISOString().slice(0, 10));
  const checks = followUps({ rig, assessment: assess(rig) }, from);
  return new Response(calendarOf({ id, name: rig.name, stamp: updatedAt }, checks), {
    headers: {
      "content-type": "text/calendar; charset=utf-8",
      "content-disposition": `attachment; filename="${fileStem(rig.name)}-follow-up.ics"`,
    },
  });
}, GONE);
