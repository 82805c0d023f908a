import { database } from "@/server/database";
import { foreign, readBody, refuse, revisionOfBody, rigOfBody } from "@/server/door";
import { deleteRig, getRig, idSchema, saveRig } from "@/server/rigs";

interface Context {
  params: Promise<{ id: string }>;
}
const missing = () => refuse({ status: 404, message: "There is no such job; it may have been deleted." });

export async function GET(request: Request, { params }: Context): Promise<Response> {
  const { id } = await params;
  const stranger = foreign(request);
  if (stranger) return refuse(stranger);
  if (!idSchema.safeParse(id).success) return missing();
  const found = await getRig(database(), id);
  return found ? Response.json(found) : missing();
}

/** Saves `{ "revision": the one read, "rig": … }`; 409 with what stands there where another has saved since. */
export async function PUT(request: Request, { params }: Context): Promise<Response> {
  const { id } = await params;
  const stranger = foreign(request);
  if (stranger) return refuse(stranger);
  if (!idSchema.safeParse(id).success) return missing();
  const read = await readBody(request);
  if (!read.ok) return refuse(read.refusal);
  const revision = revisionOfBody(read.body);
  if (!revision.ok) return refuse(revision.refusal);
  const document = rigOfBody(read.body);
  if (!document.ok) return refuse(document.refusal);
  const saved = await saveRig(database(), id, revision.revision, document.rig);
  if (saved.outcome === "missing") return missing();
  if (saved.outcome === "changed-elsewhere")
    return Response.json({ error: "Changed elsewhere since it was read.", current: saved.current }, { status: 409 });
  return Response.json({ revision: saved.revision, updatedAt: saved.updatedAt });
}

export async function DELETE(request: Request, { params }: Context): Promise<Response> {
  const { id } = await params;
  const stranger = foreign(request);
  if (stranger) return refuse(stranger);
  if (!idSchema.safeParse(id).success || !(await deleteRig(database(), id))) return missing();
  return new Response(null, { status: 204 });
}
