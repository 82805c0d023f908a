import { entriesOfTable } from "@/core/applications/parts/table";
import { readTable } from "@/csv/read";
import { handler, readText, errorResponse } from "@/server/handler";
import { importParts } from "@/server/parts";
import { asAllowed } from "@/server/rights";

/** Puts the parts of a CSV on the shelf, all or none, and reports what was added, changed and passed over. */
export const POST = handler({ may: "stock" }, async (request, _, who) => {
  const read = await readText(request);
  if (!read.ok) return errorResponse(read.refusal);
  const table = readTable(read.text);
  if (!table.ok) return errorResponse({ status: 400, message: table.message });
  const found = entriesOfTable(table.table);
  if (!found.ok) return errorResponse({ status: 400, message: found.message });
  const { entries, ...report } = found.import;
  const counts = await asAllowed(who, "stock", (tx) => importParts(tx, who.workshopId, entries));
  return Response.json({ ...counts, rows: entries.length, ...report });
});
