import { database } from "@/server/database";
import { authorOf, handler, errorResponse, ofJob } from "@/server/handler";
import { duplicateJob } from "@/server/jobs";
import { say } from "@/core/messages/say";

const GONE = say("server.job.toCopy");

export const POST = handler<{ id: string }>(
  ofJob("design"),
  async (_, { id }, who) => {
    const copy = await duplicateJob(database(), authorOf(who), id);
    return copy ? Response.json(copy, { status: 201 }) : errorResponse({ status: 404, message: GONE });
  },
  GONE,
);
