import { z } from "zod";
import { say } from "@/core/messages/say";
import { database } from "@/server/database";
import { authorOf, errorResponse, handler, ofJob, readBytes } from "@/server/handler";
import { addJobPhoto, getJobPhoto } from "@/server/pictures/job-photos";
import { LARGEST_PICTURE } from "@/server/pictures/pictures";

type Place = { id: string; photo: string };
const GONE = say("server.photo.none");
const missing = () => errorResponse({ status: 404, message: GONE });
const askedSchema = z.object({ size: z.enum(["whole", "small"]).default("whole") });
/** As the steps of a document refer to a photo. */
const isPhotoId = (id: string) => z.uuid().safeParse(id).success;

export const GET = handler<Place>(
  ofJob("look"),
  async (request, { id, photo }) => {
    const asked = askedSchema.safeParse(Object.fromEntries(new URL(request.url).searchParams));
    if (!asked.success) return errorResponse({ status: 400, message: "size: whole or small" });
    const found = isPhotoId(photo) ? await getJobPhoto(database(), id, photo, asked.data.size) : null;
    if (!found) return missing();
    return new Response(new Uint8Array(found.bytes), {
      headers: { "content-type": found.type, "cache-control": "private, max-age=31536000, immutable" },
    });
  },
  GONE,
);

/** Keeps a photo under the sender's own id, once. */
export const PUT = handler<Place>(
  ofJob("measure"),
  async (request, { id, photo }, who) => {
    if (!isPhotoId(photo)) return missing();
    const read = await readBytes(request, LARGEST_PICTURE);
    if (!read.ok) return errorResponse(read.refusal);
    await addJobPhoto(database(), authorOf(who), id, { id: photo, sent: read.bytes });
    return new Response(null, { status: 201 });
  },
  GONE,
);
