import { database } from "@/server/database";
import { authorOf, deleted, handler, errorResponse, ofJob } from "@/server/handler";
import { restoreJob } from "@/server/jobs";
import { say } from "@/core/messages/say";

const GONE = say("server.job.notDeleted");

export const POST = handler<{ id: string }>(
  deleted(ofJob("design")),
  async (_, { id }, who) =>
    (await restoreJob(database(), authorOf(who), id))
      ? new Response(null, { status: 204 })
      : errorResponse({ status: 404, message: GONE }),
  GONE,
);
