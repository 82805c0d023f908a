import { beginning } from "@/contract/people";
import { countAttempt } from "@/server/attempts";
import { database } from "@/server/database";
import { errorResponse, publicHandler, readAs } from "@/server/handler";
import { begin } from "@/server/people";
import { signInWith } from "@/server/session";

/** Makes the first owner by the code that the console printed, and signs them in. */
export const POST = publicHandler(async (request) => {
  const read = await readAs(request, beginning);
  if (!read.ok) return errorResponse(read.refusal);
  const db = database();
  await countAttempt(db, request, `begin ${read.value.code}`);
  await begin(db, read.value);
  return signInWith(request, read.value);
});
