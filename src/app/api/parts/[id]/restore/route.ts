import { database } from "@/server/database";
import { door, refuse } from "@/server/door";
import { restorePart } from "@/server/parts";
import { say } from "@/core/messages/say";

const GONE = say("server.part.toRestore");

export const POST = door<{ id: string }>(
  async (_, { id }) =>
    (await restorePart(database(), id)) ? new Response(null, { status: 204 }) : refuse({ status: 404, message: GONE }),
  GONE,
);
