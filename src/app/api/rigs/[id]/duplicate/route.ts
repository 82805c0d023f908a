import { database } from "@/server/database";
import { handler, errorResponse } from "@/server/door";
import { duplicateRig } from "@/server/rigs";
import { say } from "@/core/messages/say";

const GONE = say("server.job.toCopy");

export const POST = handler<{ id: string }>(async (_, { id }) => {
  const copy = await duplicateRig(database(), id);
  return copy ? Response.json(copy, { status: 201 }) : errorResponse({ status: 404, message: GONE });
}, GONE);
