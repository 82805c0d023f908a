import { say } from "@/core/messages/say";
import { deleted, errorResponse, handler, ofJob } from "@/server/handler";
import { eraseJob } from "@/server/erasure";
import { asAllowed } from "@/server/rights";

const GONE = say("server.job.notDeleted");

/** Erases a deleted job for good, with all that belongs to it. */
export const DELETE = handler<{ id: string }>(
  deleted(ofJob("manage")),
  async (_, { id }, who) =>
    (await asAllowed(who, "manage", (tx) => eraseJob(tx, id)))
      ? new Response(null, { status: 204 })
      : errorResponse({ status: 404, message: GONE }),
  GONE,
);
