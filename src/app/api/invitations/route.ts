import { newInvitation } from "@/contract/people";
import { database } from "@/server/database";
import { errorResponse, handler, readAs } from "@/server/handler";
import { baseAddress } from "@/server/origin";
import { invite } from "@/server/people";

/** Invites somebody into the workshop: `{ "role": "installer" }`. The address is given once. */
export const POST = handler({ may: "manage" }, async (request, _, who) => {
  const read = await readAs(request, newInvitation);
  if (!read.ok) return errorResponse(read.refusal);
  const path = `/join/${await invite(database(), who, read.value.role)}`;
  const base = baseAddress();
  return Response.json({ path, address: base && new URL(path, base).href }, { status: 201 });
});
