import { database } from "@/server/database";
import { foreign, refuse } from "@/server/door";
import { getRig, idSchema } from "@/server/rigs";

/** The rig document as a file: what `bin/chillbank assess` reads and what import takes. */
export async function GET(request: Request, { params }: { params: Promise<{ id: string }> }): Promise<Response> {
  const { id } = await params;
  const stranger = foreign(request);
  if (stranger) return refuse(stranger);
  const found = idSchema.safeParse(id).success ? await getRig(database(), id) : null;
  if (!found) return refuse({ status: 404, message: "There is no such job." });
  const name =
    found.rig.name
      .normalize("NFKD")
      .replace(/[^A-Za-z0-9]+/g, "-")
      .replace(/^-|-$/g, "")
      .toLowerCase() || "rig";
  return new Response(`${JSON.stringify(found.rig, null, 2)}\n`, {
    headers: {
      "content-type": "application/json; charset=utf-8",
      "content-disposition": `attachment; filename="${name}.rig.json"`,
    },
  });
}
