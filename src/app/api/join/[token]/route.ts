import { newPerson } from "@/contract/people";
import { countAttempt, forgetAttempts } from "@/server/attempts";
import { database } from "@/server/database";
import { errorResponse, publicHandler, readAs } from "@/server/handler";
import { join } from "@/server/people";
import { signInWith } from "@/server/session";

/** Takes somebody into a workshop by an invitation, and signs them in. */
export const POST = publicHandler<{ token: string }>(async (request, { token }) => {
  const read = await readAs(request, newPerson);
  if (!read.ok) return errorResponse(read.refusal);
  const db = database();
  await countAttempt(db, request, `join ${token}`);
  await join(db, token, read.value);
  await forgetAttempts(db, request, `join ${token}`);
  return signInWith(request, read.value);
});
