import { database } from "@/server/database";
import { authorOf, handler, readAs, errorResponse, ofJob } from "@/server/handler";
import { listLinks, makeLink } from "@/server/links";
import { customerPageInThread, readyPapers } from "@/server/papers/in-thread";
import { newLink } from "@/contract/links";
import { baseAddress } from "@/server/origin";
import { getJob } from "@/server/jobs";
import { say } from "@/core/messages/say";

const GONE = say("server.job.gone");

export const GET = handler<{ id: string }>(
  ofJob("look"),
  async (_, { id }) => {
    // The Handover stage asks for them as it opens.
    readyPapers();
    return Response.json({ links: await listLinks(database(), id) });
  },
  GONE,
);

/** Makes a customer's page of what is stored: `{ "days": 30 | 90 | 365 }`. The address is given once. */
export const POST = handler<{ id: string }>(
  ofJob("design"),
  async (request, { id }, who) => {
    const asked = await readAs(request, newLink);
    if (!asked.ok) return errorResponse(asked.refusal);
    const db = database();
    const found = await getJob(db, id);
    if (!found) return errorResponse({ status: 404, message: GONE });
    const date = found.updatedAt.toISOString().slice(0, 10);
    const { job, revision } = found;
    const page = await customerPageInThread(
      { job, revision, date },
      { personId: who.personId, signal: request.signal },
    );
    const { token } = await makeLink(db, authorOf(who), { jobId: id, page, days: asked.value.days });
    const path = `/c/${token}`;
    const base = baseAddress();
    const address = base && new URL(path, base).href;
    return Response.json({ path, address, links: await listLinks(db, id) }, { status: 201 });
  },
  GONE,
);
