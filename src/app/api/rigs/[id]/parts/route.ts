import Papa from "papaparse";
import { partRows, partsList, PARTS_HEADER } from "@/core/handover/parts-list";
import { assess } from "@/core/verdict/assess";
import { database } from "@/server/database";
import { door, refuse } from "@/server/door";
import { getRig } from "@/server/rigs";
import { fileStem } from "@/server/words";

const GONE = "There is no such job.";

/** The parts list of a job as CSV; text that a spreadsheet would run is written as text. */
export const GET = door<{ id: string }>(async (_, { id }) => {
  const found = await getRig(database(), id);
  if (!found) return refuse({ status: 404, message: GONE });
  const rows = partRows(partsList(found.rig, assess(found.rig)));
  return new Response(`${Papa.unparse([PARTS_HEADER, ...rows], { escapeFormulae: true, newline: "\n" })}\n`, {
    headers: {
      "content-type": "text/csv; charset=utf-8",
      "content-disposition": `attachment; filename="${fileStem(found.rig.name)}-parts.csv"`,
    },
  });
}, GONE);
