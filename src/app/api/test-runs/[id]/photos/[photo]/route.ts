import { readBytes, errorResponse } from "@/server/handler";
import { testRunHandler } from "@/server/test-run-handler";
import { LARGEST_PICTURE, pictureAsKept } from "@/server/pictures/pictures";
import { addPhoto, getPhoto } from "@/server/test-runs";
import { say } from "@/core/messages/say";
import { asAllowed } from "@/server/rights";

type Place = { id: string; photo: string };

export const GET = testRunHandler<Place>("look", async (_, testRun, db, { photo }) => {
  const found = await getPhoto(db, testRun.id, photo);
  if (!found) return errorResponse({ status: 404, message: say("server.photo.none") });
  return new Response(new Uint8Array(found.bytes), {
    headers: { "content-type": found.type, "cache-control": "private, max-age=31536000, immutable" },
  });
});

/** Keeps a photo under the sender's own id, once. */
export const PUT = testRunHandler<Place>("measure", async (request, testRun, _, { photo }, who) => {
  const read = await readBytes(request, LARGEST_PICTURE);
  if (!read.ok) return errorResponse(read.refusal);
  const kept = await pictureAsKept(read.bytes);
  await asAllowed(who, "measure", (tx) => addPhoto(tx, testRun.id, photo, kept.type, kept.bytes));
  return new Response(null, { status: 201 });
});
