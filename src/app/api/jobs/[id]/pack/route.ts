import { makePack } from "@/server/pack-making";
import { fileStem } from "@/server/words";
import { drawPlan, packDoor } from "./asked";

/** The pack of a job as PDF, of the revision that is stored and the day that it was stored on. */
export const GET = packDoor(async (request, { found, runs, paper }) => {
  const pdf = await makePack(found, runs, paper, { draw: drawPlan, signal: request.signal });
  return new Response(new Uint8Array(pdf), {
    headers: {
      "content-type": "application/pdf",
      "content-disposition": `inline; filename="${fileStem(found.job.name)}-pack.pdf"`,
      "cache-control": "no-store",
    },
  });
});
