import { database } from "@/server/database";
import { handler, errorResponse } from "@/server/door";
import { restoreRig } from "@/server/rigs";
import { say } from "@/core/messages/say";

const GONE = say("server.job.notDeleted");

export const POST = handler<{ id: string }>(
  async (_, { id }) =>
    (await restoreRig(database(), id))
      ? new Response(null, { status: 204 })
      : errorResponse({ status: 404, message: GONE }),
  GONE,
);
