import { z } from "zod";

/** Places whose name begins with `q`, with their distance from a latitude and longitude where both are given. */
export const placeQuery = z.object({
  q: z.string().min(1, { error: "the beginning of a name" }).max(120, { error: "at most 120 characters" }),
  lat: z.coerce.number().min(-90).max(90).optional(),
  lon: z.coerce.number().min(-180).max(180).optional(),
});

/** A place that a search found: a town of the gazetteer, or a typical station. */
export const foundPlace = z.object({
  name: z.string(),
  /** ISO 3166-1 alpha-2, or empty for a station. */
  country: z.string(),
  /** The gazetteer's code of the region: of the United States the state's letters. */
  region: z.string(),
  latitude: z.number(),
  longitude: z.number(),
  /** Id of the typical station, where it is one. */
  station: z.string().nullable(),
  /** Distance from where the search was made from, km; null without one. */
  km: z.number().nullable(),
});
export const foundPlaces = z.object({ places: z.array(foundPlace) });
export type FoundPlace = z.infer<typeof foundPlace>;
