import { database } from "@/server/database";
import { authorOf, handler, readBody, errorResponse, jobOfBody } from "@/server/handler";
import { createJob } from "@/server/jobs";

/** Makes a job from a whole document of a job: `{ "job": … }`. */
export const POST = handler({ may: "design" }, async (request, _, who) => {
  const read = await readBody(request);
  if (!read.ok) return errorResponse(read.refusal);
  const document = jobOfBody(read.body);
  if (!document.ok) return errorResponse(document.refusal);
  return Response.json(await createJob(database(), authorOf(who), document.job), { status: 201 });
});
