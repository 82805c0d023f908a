import { placeQuery } from "@/contract/places";
import { database } from "@/server/database";
import { handler, errorResponse } from "@/server/handler";
import { findPlaces } from "@/server/places";

/** Places whose name begins with `?q=`, with their distance from `?lat=` and `?lon=`. */
export const GET = handler({ may: "look" }, async (request) => {
  const read = placeQuery.safeParse(Object.fromEntries(new URL(request.url).searchParams));
  if (!read.success) {
    const faults = read.error.issues.map(({ path, message }) => ({ path: path.join("."), message }));
    return errorResponse({ status: 400, message: `${faults[0]!.path}: ${faults[0]!.message}`, faults });
  }
  const { q, lat, lon } = read.data;
  const from = lat !== undefined && lon !== undefined ? { latitude: lat, longitude: lon } : null;
  return Response.json({ places: await findPlaces(database(), q, from) });
});
