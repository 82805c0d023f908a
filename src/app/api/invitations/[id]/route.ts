import { say } from "@/core/messages/say";
import { database } from "@/server/database";
import { errorResponse, handler } from "@/server/handler";
import { withdrawInvitation } from "@/server/people";

const GONE = say("server.people.invitationGone");

/** Withdraws an invitation that nobody has used. */
export const DELETE = handler<{ id: string }>(
  { may: "manage", of: "invitation" },
  async (_, { id }, who) =>
    (await withdrawInvitation(database(), who, id))
      ? new Response(null, { status: 204 })
      : errorResponse({ status: 404, message: GONE }),
  GONE,
);
