import { readBytes, errorResponse } from "@/server/handler";
import { testRunHandler } from "@/server/test-run-handler";
import { photoAsKept } from "@/server/photos";
import { addPhoto, getPhoto, LARGEST_PHOTO, PHOTO_TYPES } from "@/server/test-runs";
import { say } from "@/core/messages/say";

type Place = { id: string; photo: string };

export const GET = testRunHandler<Place>("look", async (_, testRun, db, { photo }) => {
  const found = await getPhoto(db, testRun.id, photo);
  if (!found) return errorResponse({ status: 404, message: say("server.photo.none") });
  return new Response(new Uint8Array(found.bytes), {
    headers: { "content-type": found.type, "cache-control": "private, max-age=31536000, immutable" },
  });
});

/** Keeps a photo under the sender's own id, once. */
export const PUT = testRunHandler<Place>("measure", async (request, testRun, db, { photo }) => {
  const type = request.headers.get("content-type") ?? "";
  if (!(PHOTO_TYPES as readonly string[]).includes(type))
    return errorResponse({ status: 415, message: say("server.expects.photo") });
  const read = await readBytes(request, LARGEST_PHOTO);
  if (!read.ok) return errorResponse(read.refusal);
  const kept = await photoAsKept(read.bytes);
  if (!kept) return errorResponse({ status: 400, message: say("server.photo.damaged") });
  await addPhoto(db, testRun.id, photo, kept.type, kept.bytes);
  return new Response(null, { status: 201 });
});
