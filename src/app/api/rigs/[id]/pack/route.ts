import { database } from "@/server/database";
import { door, refuse } from "@/server/door";
import { makePack, runsOfRig } from "@/server/pack-making";
import { getRig } from "@/server/rigs";
import { fileStem } from "@/server/words";
import { ASKED_WRONG, askedPack, drawPlan } from "./asked";

const GONE = "There is no such job.";

/** The pack of a job as PDF, of the revision that is stored and the day that it was stored on. */
export const GET = door<{ id: string }>(async (request, { id }) => {
  const asked = askedPack(request);
  if (!asked) return refuse(ASKED_WRONG);
  const db = database();
  const found = await getRig(db, id);
  if (!found) return refuse({ status: 404, message: GONE });
  const paper = asked.paper ?? found.rig.handover.pack.paper;
  const pdf = await makePack(found, await runsOfRig(db, id), paper, { draw: drawPlan, signal: request.signal });
  return new Response(new Uint8Array(pdf), {
    headers: {
      "content-type": "application/pdf",
      "content-disposition": `inline; filename="${fileStem(found.rig.name)}-pack.pdf"`,
      "cache-control": "no-store",
    },
  });
}, GONE);
