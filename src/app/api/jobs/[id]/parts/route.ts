import { z } from "zod";
import { partsList } from "@/core/applications/handover/parts-list";
import { assess } from "@/core/assessment/verdicts/assess";
import { database } from "@/server/database";
import { handler, errorResponse, ofJob } from "@/server/handler";
import { partsCsv, partsXlsx } from "@/server/papers/parts-table";
import { getJob } from "@/server/jobs";
import { fileStem } from "@/server/words";
import { say } from "@/core/messages/say";

const GONE = say("server.job.none");
const askedSchema = z.object({ as: z.enum(["csv", "xlsx"]).default("csv") });
const TYPE = {
  csv: "text/csv; charset=utf-8",
  xlsx: "application/vnd.openxmlformats-officedocument.spreadsheetml.sheet",
};

/** The parts list of a job as CSV, or as a workbook with `?as=xlsx`. */
export const GET = handler<{ id: string }>(
  ofJob("look"),
  async (request, { id }) => {
    const asked = askedSchema.safeParse(Object.fromEntries(new URL(request.url).searchParams));
    if (!asked.success) return errorResponse({ status: 400, message: "as: csv or xlsx" });
    const found = await getJob(database(), id);
    if (!found) return errorResponse({ status: 404, message: GONE });
    const lines = partsList(found.job, assess(found.job));
    const { as } = asked.data;
    return new Response(as === "csv" ? partsCsv(lines) : await partsXlsx(lines), {
      headers: {
        "content-type": TYPE[as],
        "content-disposition": `attachment; filename="${fileStem(found.job.name)}-parts.${as}"`,
      },
    });
  },
  GONE,
);
