import { signIn } from "@/contract/people";
import { countAttempt, forgetAttempts } from "@/server/attempts";
import { database } from "@/server/database";
import { errorResponse, handler, publicHandler, readAs } from "@/server/handler";
import { meOf } from "@/server/people";
import { signInWith, signOutOf } from "@/server/session";

/** Who is signed in. */
export const GET = handler({ may: "look" }, async (_, __, who) => Response.json(await meOf(database(), who)));

/** Signs in: `{ "email": …, "password": … }`; `{ "secondFactor": true }` where a one-time code is asked for besides. */
export const POST = publicHandler(async (request) => {
  const read = await readAs(request, signIn);
  if (!read.ok) return errorResponse(read.refusal);
  const db = database();
  await countAttempt(db, request, read.value.email);
  const answer = await signInWith(request, read.value);
  // Half of the way is no success: the password is known, and the code is not yet.
  if (answer.status === 204) await forgetAttempts(db, request, read.value.email);
  return answer;
});

/** Signs out. */
export const DELETE = publicHandler((request) => signOutOf(request));
