import { passwordChange } from "@/contract/people";
import { countAttempt } from "@/server/attempts";
import { database } from "@/server/database";
import { errorResponse, handler, readAs } from "@/server/handler";
import { changePassword } from "@/server/session";

/** Changes one's password: `{ "current": …, "next": … }`. */
export const PUT = handler({ may: "look" }, async (request, _, who) => {
  const read = await readAs(request, passwordChange);
  if (!read.ok) return errorResponse(read.refusal);
  await countAttempt(database(), request, `password ${who.personId}`);
  return changePassword(request, read.value);
});
