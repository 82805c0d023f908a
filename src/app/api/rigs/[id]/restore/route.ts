import { database } from "@/server/database";
import { foreign, refuse } from "@/server/door";
import { idSchema, restoreRig } from "@/server/rigs";

export async function POST(request: Request, { params }: { params: Promise<{ id: string }> }): Promise<Response> {
  const { id } = await params;
  const stranger = foreign(request);
  if (stranger) return refuse(stranger);
  const back = idSchema.safeParse(id).success && (await restoreRig(database(), id));
  return back
    ? new Response(null, { status: 204 })
    : refuse({ status: 404, message: "There is no deleted job of that id." });
}
