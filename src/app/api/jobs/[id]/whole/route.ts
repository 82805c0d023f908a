import { database } from "@/server/database";
import { handler, errorResponse, ofJob } from "@/server/handler";
import { exportJob } from "@/server/job-export";
import { getJob } from "@/server/jobs";
import { spool, streamOf } from "@/server/spool";
import { fileStem } from "@/server/words";
import { say } from "@/core/messages/say";

const GONE = say("server.job.none");

const headersOf = (name: string) => ({
  "content-type": "application/zip",
  "content-disposition": `attachment; filename="${fileStem(name)}-job.zip"`,
  "cache-control": "no-store",
});

/** Jobs that are being packed: each holds a connection until it is whole. */
let packing = 0;
const MOST_PACKING = 2;

/** The whole job as a ZIP: document, requirement, revisions, test runs with readings, files and photos. */
export const GET = handler<{ id: string }>(
  ofJob("look"),
  async (_, { id }) => {
    const db = database();
    const found = await getJob(db, id);
    if (!found) return errorResponse({ status: 404, message: GONE });
    if (packing >= MOST_PACKING) return errorResponse({ status: 503, message: say("server.busy") });
    packing++;
    try {
      const pieces = await exportJob(db, id);
      if (!pieces) return errorResponse({ status: 404, message: GONE });
      // Whole before the first byte goes out: somebody who reads slowly, or not at all, then holds no connection.
      const packed = await spool(pieces);
      if (packed === "too-large") return errorResponse({ status: 413, message: say("server.import.tooLarge") });
      return new Response(streamOf(packed), {
        headers: { ...headersOf(found.job.name), "content-length": String(packed.bytes) },
      });
    } finally {
      packing--;
    }
  },
  GONE,
);

/** What GET would answer, without packing anything. */
export const HEAD = handler<{ id: string }>(
  ofJob("look"),
  async (_, { id }) => {
    const found = await getJob(database(), id);
    return found
      ? new Response(null, { headers: headersOf(found.job.name) })
      : errorResponse({ status: 404, message: GONE });
  },
  GONE,
);
