import { demoEmail, roleChange } from "@/contract/people";
import { say } from "@/core/messages/say";
import { errorResponse, publicHandler, readAs } from "@/server/handler";
import { isLoopback } from "@/server/origin";
import { demoPassword, signInWith } from "@/server/session";

/** Signs in to the demo without a password, on the machine that it runs on: `{ "role": "owner" }`. */
export const POST = publicHandler(async (request) => {
  const password = demoPassword();
  if (password === null || !isLoopback(request.headers.get("host") ?? ""))
    return errorResponse({ status: 403, message: say("server.people.noDemo") });
  const read = await readAs(request, roleChange);
  if (!read.ok) return errorResponse(read.refusal);
  return signInWith(request, { email: demoEmail(read.value.role), password });
});
