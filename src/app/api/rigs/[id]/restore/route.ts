import { database } from "@/server/database";
import { door, refuse } from "@/server/door";
import { restoreRig } from "@/server/rigs";
import { say } from "@/core/messages/say";

const GONE = say("server.job.notDeleted");

export const POST = door<{ id: string }>(
  async (_, { id }) =>
    (await restoreRig(database(), id)) ? new Response(null, { status: 204 }) : refuse({ status: 404, message: GONE }),
  GONE,
);
