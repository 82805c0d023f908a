import { database } from "@/server/database";
import { handler, errorResponse, ofJob } from "@/server/handler";
import { idSchema } from "@/contract/common";
import { listLinks, withdrawLink } from "@/server/links";
import { say } from "@/core/messages/say";

const GONE = say("server.link.none");

/** Withdraws a customer's page for good. */
export const DELETE = handler<{ id: string; link: string }>(
  ofJob("design"),
  async (_, { id, link }) => {
    const db = database();
    if (!idSchema.safeParse(link).success || !(await withdrawLink(db, id, link)))
      return errorResponse({ status: 404, message: GONE });
    return Response.json({ links: await listLinks(db, id) });
  },
  GONE,
);
