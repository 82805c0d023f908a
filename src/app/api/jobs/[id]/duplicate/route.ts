import { database } from "@/server/database";
import { handler, errorResponse } from "@/server/door";
import { duplicateJob } from "@/server/jobs";
import { say } from "@/core/messages/say";

const GONE = say("server.job.toCopy");

export const POST = handler<{ id: string }>(async (_, { id }) => {
  const copy = await duplicateJob(database(), id);
  return copy ? Response.json(copy, { status: 201 }) : errorResponse({ status: 404, message: GONE });
}, GONE);
