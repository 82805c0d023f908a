import { database } from "@/server/database";
import { handler, readBody, errorResponse, rigOfBody } from "@/server/door";
import { createRig } from "@/server/rigs";

/** Makes a job from a whole document of a job: `{ "rig": … }`. */
export const POST = handler(async (request) => {
  const read = await readBody(request);
  if (!read.ok) return errorResponse(read.refusal);
  const document = rigOfBody(read.body);
  if (!document.ok) return errorResponse(document.refusal);
  return Response.json(await createRig(database(), document.rig), { status: 201 });
});
