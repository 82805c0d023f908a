import { deleted, handler, errorResponse, ofPart } from "@/server/handler";
import { restorePart } from "@/server/parts";
import { say } from "@/core/messages/say";
import { asAllowed } from "@/server/rights";

const GONE = say("server.part.toRestore");

export const POST = handler<{ id: string }>(
  deleted(ofPart("stock")),
  async (_, { id }, who) =>
    (await asAllowed(who, "stock", (tx) => restorePart(tx, id)))
      ? new Response(null, { status: 204 })
      : errorResponse({ status: 404, message: GONE }),
  GONE,
);
