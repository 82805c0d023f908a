import { database } from "@/server/database";
import { authorOf, handler, withBodyInFile, errorResponse } from "@/server/handler";
import { LARGEST_JOB } from "@/server/job-file";
import { importJob } from "@/server/job-import";
import { say } from "@/core/messages/say";

/** Makes a job of a whole job's ZIP, all of it or nothing: `{ "id", "name" }`. */
export const POST = handler({ may: "design" }, async (request, _, who) => {
  if (!request.headers.get("content-type")?.startsWith("application/zip"))
    return errorResponse({ status: 415, message: say("server.expects.zip") });
  const read = await withBodyInFile(request, LARGEST_JOB, (file) => importJob(database(), authorOf(who), file));
  if (!read.ok) return errorResponse(read.refusal);
  const made = read.value;
  if (!made.ok) return errorResponse({ status: 400, message: made.message });
  return Response.json({ id: made.id, name: made.name }, { status: 201 });
});
