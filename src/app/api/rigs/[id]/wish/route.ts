import { wishSchema } from "@/core/applications/options/target";
import { database } from "@/server/database";
import { handler, readAs, errorResponse } from "@/server/door";
import { getWish, keepWish } from "@/server/options";
import { getRig } from "@/server/rigs";
import { say } from "@/core/messages/say";

const GONE = say("server.job.gone");

/** `{ "wish": … }`, null where none was kept. */
export const GET = handler<{ id: string }>(async (_, { id }) => {
  const db = database();
  if (!(await getRig(db, id))) return errorResponse({ status: 404, message: GONE });
  return Response.json({ wish: await getWish(db, id) });
}, GONE);

export const PUT = handler<{ id: string }>(async (request, { id }) => {
  const read = await readAs(request, wishSchema);
  if (!read.ok) return errorResponse(read.refusal);
  const db = database();
  if (!(await getRig(db, id))) return errorResponse({ status: 404, message: GONE });
  await keepWish(db, id, read.value);
  return new Response(null, { status: 204 });
}, GONE);
