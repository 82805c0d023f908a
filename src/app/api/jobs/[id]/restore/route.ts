import { database } from "@/server/database";
import { handler, errorResponse } from "@/server/door";
import { restoreJob } from "@/server/jobs";
import { say } from "@/core/messages/say";

const GONE = say("server.job.notDeleted");

export const POST = handler<{ id: string }>(
  async (_, { id }) =>
    (await restoreJob(database(), id))
      ? new Response(null, { status: 204 })
      : errorResponse({ status: 404, message: GONE }),
  GONE,
);
