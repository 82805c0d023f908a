import { database } from "@/server/database";
import { door, refuse } from "@/server/door";
import { getRig } from "@/server/rigs";

const GONE = "There is no such job.";

/** The rig document as a file: what `bin/chillbank assess` reads and what import takes. */
export const GET = door<{ id: string }>(async (_, { id }) => {
  const found = await getRig(database(), id);
  if (!found) return refuse({ status: 404, message: GONE });
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
}, GONE);
