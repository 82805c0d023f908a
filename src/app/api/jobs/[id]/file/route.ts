import { database } from "@/server/database";
import { handler, errorResponse, ofJob } from "@/server/handler";
import { getJob } from "@/server/jobs";
import { fileStem } from "@/server/words";
import { say } from "@/core/messages/say";

const GONE = say("server.job.none");

/** The document of a job as a file: what `bin/chillbank assess` reads and what import takes. */
export const GET = handler<{ id: string }>(
  ofJob("look"),
  async (_, { id }) => {
    const found = await getJob(database(), id);
    if (!found) return errorResponse({ status: 404, message: GONE });
    return new Response(`${JSON.stringify(found.job, null, 2)}\n`, {
      headers: {
        "content-type": "application/json; charset=utf-8",
        "content-disposition": `attachment; filename="${fileStem(found.job.name)}.job.json"`,
      },
    });
  },
  GONE,
);
