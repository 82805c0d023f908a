import { database } from "@/server/database";
import { handler } from "@/server/handler";
import { peopleOf } from "@/server/people";
import { useOf } from "@/server/quotas";

/** The workshop's people, open invitations, and what it keeps of what it may. */
export const GET = handler({ may: "manage" }, async (_, __, who) => {
  const db = database();
  const [listed, use] = await Promise.all([peopleOf(db, who), useOf(db, who.workshopId)]);
  return Response.json({ ...listed, use });
});
