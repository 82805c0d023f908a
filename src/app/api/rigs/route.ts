import { database } from "@/server/database";
import { foreign, readBody, refuse, rigOfBody } from "@/server/door";
import { createRig } from "@/server/rigs";

/** Makes a job from a whole rig document: `{ "rig": … }`. */
export async function POST(request: Request): Promise<Response> {
  const stranger = foreign(request);
  if (stranger) return refuse(stranger);
  const read = await readBody(request);
  if (!read.ok) return refuse(read.refusal);
  const document = rigOfBody(read.body);
  if (!document.ok) return refuse(document.refusal);
  return Response.json(await createRig(database(), document.rig), { status: 201 });
}
