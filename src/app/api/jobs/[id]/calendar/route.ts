import { dayOfFollowUps, followUps } from "@/core/applications/handover/follow-ups";
import { assess } from "@/core/assessment/verdicts/assess";
import { calendarOf } from "@/server/papers/calendar";
import { database } from "@/server/database";
import { handler, errorResponse, ofJob } from "@/server/handler";
import { getJob } from "@/server/jobs";
import { fileStem } from "@/server/words";
import { say } from "@/core/messages/say";

const GONE = say("server.job.none");

/** The follow-up checks of a job as a calendar file (.ics). */
export const GET = handler<{ id: string }>(
  ofJob("look"),
  async (_, { id }) => {
    const found = await getJob(database(), id);
    if (!found) return errorResponse({ status: 404, message: GONE });
    const { job, updatedAt } = found;
    const from = dayOfFollowUps(job, updatedAt.toISOString().slice(0, 10));
    const checks = followUps({ job, assessment: assess(job) }, from);
    return new Response(calendarOf({ id, name: job.name, stamp: updatedAt }, checks), {
      headers: {
        "content-type": "text/calendar; charset=utf-8",
        "content-disposition": `attachment; filename="${fileStem(job.name)}-follow-up.ics"`,
      },
    });
  },
  GONE,
);
