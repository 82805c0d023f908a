import { database } from "@/server/database";
import { foreign, refuse } from "@/server/door";
import { restorePart } from "@/server/parts";
import { idSchema } from "@/server/rigs";

export async function POST(request: Request, { params }: { params: Promise<{ id: string }> }): Promise<Response> {
  const { id } = await params;
  const stranger = foreign(request);
  if (stranger) return refuse(stranger);
  const back = idSchema.safeParse(id).success && (await restorePart(database(), id));
  return back
    ? new Response(null, { status: 204 })
    : refuse({ status: 404, message: "There is no such part to bring back." });
}
