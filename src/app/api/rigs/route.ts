import { database } from "@/server/database";
import { door, readBody, refuse, rigOfBody } from "@/server/door";
import { createRig } from "@/server/rigs";

/** Makes a job from a whole rig document: `{ "rig": … }`. */
export const POST = door(async (request) => {
  const read = await readBody(request);
  if (!read.ok) return refuse(read.refusal);
  const document = rigOfBody(read.body);
  if (!document.ok) return refuse(document.refusal);
  return Response.json(await createRig(database(), document.rig), { status: 201 });
});
