import { passwordChange } from "@/contract/people";
import { countAttempt, forgetAttempts } from "@/server/attempts";
import { database } from "@/server/database";
import { errorResponse, handler, readAs } from "@/server/handler";
import { changePassword } from "@/server/session";

/** Changes one's password: `{ "current": …, "next": … }`. */
export const PUT = handler({ may: "look" }, async (request, _, who) => {
  const read = await readAs(request, passwordChange);
  if (!read.ok) return errorResponse(read.refusal);
  const [db, what] = [database(), `password ${who.personId}`];
  await countAttempt(db, request, what);
  const answer = await changePassword(request, read.value);
  await forgetAttempts(db, request, what);
  return answer;
});
