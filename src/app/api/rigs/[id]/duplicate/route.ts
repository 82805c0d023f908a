import { database } from "@/server/database";
import { foreign, refuse } from "@/server/door";
import { duplicateRig, idSchema } from "@/server/rigs";

export async function POST(request: Request, { params }: { params: Promise<{ id: string }> }): Promise<Response> {
  const { id } = await params;
  const stranger = foreign(request);
  if (stranger) return refuse(stranger);
  const copy = idSchema.safeParse(id).success ? await duplicateRig(database(), id) : null;
  return copy
    ? Response.json(copy, { status: 201 })
    : refuse({ status: 404, message: "There is no such job to copy." });
}
