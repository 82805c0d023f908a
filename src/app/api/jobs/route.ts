import { database } from "@/server/database";
import { handler, readBody, errorResponse, jobOfBody } from "@/server/door";
import { createJob } from "@/server/jobs";

/** Makes a job from a whole document of a job: `{ "job": … }`. */
export const POST = handler(async (request) => {
  const read = await readBody(request);
  if (!read.ok) return errorResponse(read.refusal);
  const document = jobOfBody(read.body);
  if (!document.ok) return errorResponse(document.refusal);
  return Response.json(await createJob(database(), document.job), { status: 201 });
});
