import { database } from "@/server/database";
import { handler } from "@/server/door";
import { peopleOf } from "@/server/people";

/** The workshop's people and open invitations. */
export const GET = handler({ may: "manage" }, async (_, __, who) => Response.json(await peopleOf(database(), who)));
