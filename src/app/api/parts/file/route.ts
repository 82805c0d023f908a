import { rowOfEntry, SHELF_COLUMNS } from "@/core/applications/parts/table";
import { writeTable } from "@/csv/read";
import { database } from "@/server/database";
import { handler } from "@/server/handler";
import { allParts } from "@/server/parts";

/** The whole shelf as CSV, in the columns of docs/formats.md. */
export const GET = handler({ may: "look" }, async (_, __, { workshopId }) => {
  const parts = await allParts(database(), workshopId);
  return new Response(
    writeTable(
      SHELF_COLUMNS,
      parts.map(({ entry }) => rowOfEntry(entry)),
    ),
    {
      headers: {
        "content-type": "text/csv; charset=utf-8",
        "content-disposition": 'attachment; filename="parts-shelf.csv"',
      },
    },
  );
});
