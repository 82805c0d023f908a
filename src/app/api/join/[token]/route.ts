import { newPerson } from "@/contract/people";
import { countAttempt } from "@/server/attempts";
import { database } from "@/server/database";
import { errorResponse, publicHandler, readAs } from "@/server/handler";
import { join } from "@/server/people";
import { signInWith } from "@/server/session";

/** Takes somebody into a workshop by an invitation, and signs them in. */
export const POST = publicHandler<{ token: string }>(async (request, { token }) => {
  const read = await readAs(request, newPerson);
  if (!read.ok) return errorResponse(read.refusal);
  const db = database();
  await countAttempt(db, request, "join");
  await join(db, token, read.value);
  return signInWith(request, read.value);
});
