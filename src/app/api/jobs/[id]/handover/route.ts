import { makeHandover } from "@/server/papers/handover-making";
import { fileStem } from "@/server/words";
import { drawDiagram, documentHandler } from "./asked";

/** The handover document of a job as PDF, of the revision that is stored and the day that it was stored on. */
export const GET = documentHandler(async (request, { found, personId, runs, photos, paper }) => {
  const pdf = await makeHandover(found, runs, paper, { personId, draw: drawDiagram, photos, signal: request.signal });
  return new Response(new Uint8Array(pdf), {
    headers: {
      "content-type": "application/pdf",
      "content-disposition": `inline; filename="${fileStem(found.job.name)}-handover.pdf"`,
      "cache-control": "no-store",
    },
  });
});
