import { database } from "@/server/database";
import { entryOfBody, foreign, readBody, refuse, revisionOfBody } from "@/server/door";
import { deletePart, savePart } from "@/server/parts";
import { idSchema } from "@/server/rigs";

interface Context {
  params: Promise<{ id: string }>;
}
const missing = () => refuse({ status: 404, message: "There is no such part; it may have been taken off the shelf." });

/** Saves `{ "revision": the one read, "entry": … }`; 409 with what stands there where another has saved since. */
export async function PUT(request: Request, { params }: Context): Promise<Response> {
  const { id } = await params;
  const stranger = foreign(request);
  if (stranger) return refuse(stranger);
  if (!idSchema.safeParse(id).success) return missing();
  const read = await readBody(request);
  if (!read.ok) return refuse(read.refusal);
  const revision = revisionOfBody(read.body);
  if (!revision.ok) return refuse(revision.refusal);
  const entry = entryOfBody(read.body);
  if (!entry.ok) return refuse(entry.refusal);
  const saved = await savePart(database(), id, revision.revision, entry.entry);
  if (saved.outcome === "missing") return missing();
  if (saved.outcome === "changed-elsewhere")
    return Response.json({ error: "Changed elsewhere since it was read.", current: saved.current }, { status: 409 });
  return Response.json({ revision: saved.revision });
}

export async function DELETE(request: Request, { params }: Context): Promise<Response> {
  const { id } = await params;
  const stranger = foreign(request);
  if (stranger) return refuse(stranger);
  if (!idSchema.safeParse(id).success || !(await deletePart(database(), id))) return missing();
  return new Response(null, { status: 204 });
}
