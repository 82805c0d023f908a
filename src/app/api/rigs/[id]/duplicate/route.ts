import { database } from "@/server/database";
import { door, refuse } from "@/server/door";
import { duplicateRig } from "@/server/rigs";
import { say } from "@/core/messages/say";

const GONE = say("server.job.toCopy");

export const POST = door<{ id: string }>(async (_, { id }) => {
  const copy = await duplicateRig(database(), id);
  return copy ? Response.json(copy, { status: 201 }) : refuse({ status: 404, message: GONE });
}, GONE);
