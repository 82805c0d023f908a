import { ownPassword, secondStep } from "@/contract/people";
import { countAttempt, forgetAttempts } from "@/server/attempts";
import { database } from "@/server/database";
import { errorResponse, handler, readAs } from "@/server/handler";
import { beginSecondFactor, confirmSecondFactor, endSecondFactor } from "@/server/second-factor";

/** Begins to ask for one-time codes: `{ "password": … }`; answers with the secret's address and the recovery codes. */
export const POST = handler({ may: "look" }, async (request, _, { personId }) => {
  const read = await readAs(request, ownPassword);
  if (!read.ok) return errorResponse(read.refusal);
  const [db, what] = [database(), `password ${personId}`];
  await countAttempt(db, request, what);
  const begun = await beginSecondFactor(request, read.value.password);
  await forgetAttempts(db, request, what);
  return Response.json(begun, { headers: { "cache-control": "no-store" } });
});

/** Asks for them from now on: `{ "code": … }`, the first. */
export const PUT = handler({ may: "look" }, async (request, _, { personId }) => {
  const read = await readAs(request, secondStep);
  if (!read.ok) return errorResponse(read.refusal);
  await countAttempt(database(), request, `code ${personId}`);
  return confirmSecondFactor(request, read.value.code);
});

/** Asks for none any more: `{ "password": … }`. */
export const DELETE = handler({ may: "look" }, async (request, _, { personId }) => {
  const read = await readAs(request, ownPassword);
  if (!read.ok) return errorResponse(read.refusal);
  const [db, what] = [database(), `password ${personId}`];
  await countAttempt(db, request, what);
  const answer = await endSecondFactor(request, read.value.password);
  await forgetAttempts(db, request, what);
  return answer;
});
