import { roleChange } from "@/contract/people";
import { say } from "@/core/messages/say";
import { database } from "@/server/database";
import { errorResponse, handler, readAs } from "@/server/handler";
import { changeRole, removePerson } from "@/server/people";

const GONE = say("server.people.gone");
const done = (found: boolean) =>
  found ? new Response(null, { status: 204 }) : errorResponse({ status: 404, message: GONE });

/** Gives somebody another role: `{ "role": "installer" }`. */
export const PUT = handler<{ id: string }>(
  { may: "manage", of: "person" },
  async (request, { id }, who) => {
    const read = await readAs(request, roleChange);
    if (!read.ok) return errorResponse(read.refusal);
    return done(await changeRole(database(), who, id, read.value.role));
  },
  GONE,
);

/** Takes somebody out of the workshop. */
export const DELETE = handler<{ id: string }>(
  { may: "manage", of: "person" },
  async (_, { id }, who) => done(await removePerson(database(), who, id)),
  GONE,
);
