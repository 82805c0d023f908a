import { database } from "@/server/database";
import { handler, errorResponse } from "@/server/door";
import { exportJob } from "@/server/job-export";
import { getJob } from "@/server/jobs";
import { fileStem } from "@/server/words";
import { say } from "@/core/messages/say";

const GONE = say("server.job.none");

/** The whole job as a ZIP: document, requirement, revisions, test runs with readings, files and photos. */
export const GET = handler<{ id: string }>(async (_, { id }) => {
  const db = database();
  const found = await getJob(db, id);
  const pieces = found && (await exportJob(db, id));
  if (!pieces) return errorResponse({ status: 404, message: GONE });
  const stream = new ReadableStream<Uint8Array>({
    async pull(controller) {
      const { done, value } = await pieces.next();
      if (done) controller.close();
      else controller.enqueue(value);
    },
    async cancel() {
      await pieces.return();
    },
  });
  return new Response(stream, {
    headers: {
      "content-type": "application/zip",
      "content-disposition": `attachment; filename="${fileStem(found.job.name)}-job.zip"`,
      "cache-control": "no-store",
    },
  });
}, GONE);
