import { z } from "zod";
import { database } from "@/server/database";
import { handler, errorResponse } from "@/server/door";
import { findPlaces } from "@/server/places";

const querySchema = z.object({
  q: z.string().min(1, { error: "the beginning of a name" }).max(120, { error: "at most 120 characters" }),
  lat: z.coerce.number().min(-90).max(90).optional(),
  lon: z.coerce.number().min(-180).max(180).optional(),
});

/** Places whose name begins with `?q=`, with their distance from `?lat=` and `?lon=`. */
export const GET = handler(async (request) => {
  const read = querySchema.safeParse(Object.fromEntries(new URL(request.url).searchParams));
  if (!read.success) {
    const faults = read.error.issues.map(({ path, message }) => ({ path: path.join("."), message }));
    return errorResponse({ status: 400, message: `${faults[0]!.path}: ${faults[0]!.message}`, faults });
  }
  const { q, lat, lon } = read.data;
  const from = lat !== undefined && lon !== undefined ? { latitude: lat, longitude: lon } : null;
  return Response.json({ places: await findPlaces(database(), q, from) });
});
