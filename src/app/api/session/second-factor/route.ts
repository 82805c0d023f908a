import { ownPassword, secondStep } from "@/contract/people";
import { asTried } from "@/server/attempts";
import { errorResponse, handler, readAs } from "@/server/handler";
import { beginSecondFactor, confirmSecondFactor, endSecondFactor } from "@/server/second-factor";

/** Begins to ask for one-time codes: `{ "password": … }`; answers with the secret's address and the recovery codes. */
export const POST = handler({ may: "look" }, async (request, _, { personId }) => {
  const read = await readAs(request, ownPassword);
  if (!read.ok) return errorResponse(read.refusal);
  const { password } = read.value;
  const begun = await asTried(request, `password ${personId}`, () => beginSecondFactor(request, password));
  return Response.json(begun, { headers: { "cache-control": "no-store" } });
});

/** Asks for them from now on: `{ "code": … }`, the first. */
export const PUT = handler({ may: "look" }, async (request, _, { personId }) => {
  const read = await readAs(request, secondStep);
  if (!read.ok) return errorResponse(read.refusal);
  const { code } = read.value;
  return asTried(request, `code ${personId}`, () => confirmSecondFactor(request, code));
});

/** Asks for none any more: `{ "password": … }`. */
export const DELETE = handler({ may: "look" }, async (request, _, { personId }) => {
  const read = await readAs(request, ownPassword);
  if (!read.ok) return errorResponse(read.refusal);
  const { password } = read.value;
  return asTried(request, `password ${personId}`, () => endSecondFactor(request, password));
});
