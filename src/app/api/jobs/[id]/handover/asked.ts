import { z } from "zod";
import type { MeasuredRun } from "@/core/applications/handover/document";
import type { SingleLineDiagram } from "@/core/applications/diagram/single-line-diagram";
import { database } from "@/server/database";
import { handler, errorResponse, ofJob } from "@/server/handler";
import { runsOfJob, type makeHandover, type Paper } from "@/server/papers/handover-making";
import { DIAGRAM_FONT } from "@/server/papers/handover-pdf";
import { getJob, type StoredJob } from "@/server/jobs";
import { getJobPhoto, listJobPhotos } from "@/server/pictures/job-photos";
import { diagramSvg } from "@/ui/pictures/diagram-svg";
import { say } from "@/core/messages/say";

const askedSchema = z.object({ paper: z.enum(["a4", "letter"]).optional() });
const GONE = say("server.job.none");

interface Asked {
  found: StoredJob;
  personId: string;
  runs: MeasuredRun[];
  photos: NonNullable<Parameters<typeof makeHandover>[3]["photos"]>;
  /** As the address says, else as the job does. */
  paper: Paper;
}

/** A route of a job's handover document: what it is made of is found first. */
export const documentHandler = (handle: (request: Request, asked: Asked) => Promise<Response> | Response) =>
  handler<{ id: string }>(
    ofJob("look"),
    async (request, { id }, { personId }) => {
      const asked = askedSchema.safeParse(Object.fromEntries(new URL(request.url).searchParams));
      if (!asked.success) return errorResponse({ status: 400, message: "paper: a4 or letter" });
      const db = database();
      const found = await getJob(db, id);
      if (!found) return errorResponse({ status: 404, message: GONE });
      const paper = asked.data.paper ?? found.job.handover.document.paper;
      const photos: Asked["photos"] = {
        ids: (await listJobPhotos(db, id)).map((one) => one.id),
        read: async (photo) => (await getJobPhoto(db, id, photo, "small"))?.bytes ?? null,
      };
      return handle(request, { found, personId, runs: await runsOfJob(db, id), photos, paper });
    },
    GONE,
  );

export const drawDiagram = (diagram: SingleLineDiagram): string => diagramSvg(diagram, DIAGRAM_FONT);
