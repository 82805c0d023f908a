import { secondStep } from "@/contract/people";
import { countAttempt } from "@/server/attempts";
import { database } from "@/server/database";
import { errorResponse, publicHandler, readAs } from "@/server/handler";
import { signInByCode } from "@/server/second-factor";

/** The second step of signing in: `{ "code": … }`, one-time or recovery. */
export const POST = publicHandler(async (request) => {
  const read = await readAs(request, secondStep);
  if (!read.ok) return errorResponse(read.refusal);
  await countAttempt(database(), request, `code ${request.headers.get("cookie") ?? ""}`);
  return signInByCode(request, read.value.code);
});
