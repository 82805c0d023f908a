import { passwordChange } from "@/contract/people";
import { asTried } from "@/server/attempts";
import { errorResponse, handler, readAs } from "@/server/handler";
import { changePassword } from "@/server/session";

/** Changes one's password: `{ "current": …, "next": … }`. */
export const PUT = handler({ may: "look" }, async (request, _, who) => {
  const read = await readAs(request, passwordChange);
  if (!read.ok) return errorResponse(read.refusal);
  return asTried(request, `password ${who.personId}`, () => changePassword(request, read.value));
});
