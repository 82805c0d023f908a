import { database } from "@/server/database";
import { deleted, handler, errorResponse, ofPart } from "@/server/handler";
import { restorePart } from "@/server/parts";
import { say } from "@/core/messages/say";

const GONE = say("server.part.toRestore");

export const POST = handler<{ id: string }>(
  deleted(ofPart("stock")),
  async (_, { id }) =>
    (await restorePart(database(), id))
      ? new Response(null, { status: 204 })
      : errorResponse({ status: 404, message: GONE }),
  GONE,
);
