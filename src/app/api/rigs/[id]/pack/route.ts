import { z } from "zod";
import { packOf, packSource } from "@/core/handover/pack";
import { planOf } from "@/core/path/plan";
import { database } from "@/server/database";
import { door, refuse } from "@/server/door";
import { packPdf, PLAN_FONT } from "@/server/pack-pdf";
import { getRig } from "@/server/rigs";
import { fileStem } from "@/server/words";
import { planSvg } from "@/ui/pictures/plan-svg";

const GONE = "There is no such job.";
const askedSchema = z.object({ paper: z.enum(["a4", "letter"]).optional() });

/** The pack of a job as PDF, of the revision that is stored and the day that it was stored on. */
export const GET = door<{ id: string }>(async (request, { id }) => {
  const asked = askedSchema.safeParse(Object.fromEntries(new URL(request.url).searchParams));
  if (!asked.success) return refuse({ status: 400, message: "paper: a4 or letter" });
  const found = await getRig(database(), id);
  if (!found) return refuse({ status: 404, message: GONE });
  const source = packSource(found.rig);
  const pack = packOf(source, { revision: found.revision, date: found.updatedAt.toISOString().slice(0, 10) });
  const plan = planSvg(planOf(found.rig, source.assessment), PLAN_FONT);
  const pdf = await packPdf(pack, plan, asked.data.paper ?? found.rig.handover.pack.paper);
  return new Response(new Uint8Array(pdf), {
    headers: {
      "content-type": "application/pdf",
      "content-disposition": `inline; filename="${fileStem(found.rig.name)}-pack.pdf"`,
      "cache-control": "no-store",
    },
  });
}, GONE);
