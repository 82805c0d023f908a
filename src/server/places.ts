import type { Knex } from "knex";
import { type FoundPlace } from "@/contract/places";
import { PLACES } from "@/core/reference/weather/places";
import { distanceKm } from "@/core/reference/weather/stations";

/** Most places that a search gives. */
const MOST = 12;

/** Places whose name begins with `text`, accents and case aside: exact names first, then by population. */
export async function findPlaces(
  db: Knex,
  text: string,
  from: { latitude: number; longitude: number } | null,
): Promise<FoundPlace[]> {
  const wanted = text.trim().replace(/\s+/g, " ");
  if (wanted.length < 2) return [];
  // A comma divides the town from what helps to find it: "Faro, Portugal" looks for Faro.
  const town = wanted.split(",")[0]!.trim() || wanted;
  const like = `${town.replace(/[\\%_]/g, "\\$&")}%`;
  const rows = (await db("places")
    .where("name", "like", like)
    .orderByRaw("name = ? desc, population desc", [town])
    .limit(MOST)) as { name: string; country: string; region: string; latitude: number; longitude: number }[];
  const plain = (word: string) => word.normalize("NFD").replace(/\p{M}/gu, "").toLowerCase();
  const stations = PLACES.filter(
    ({ name }) => plain(name).startsWith(plain(wanted)) || plain(name).startsWith(plain(town)),
  );
  const away = (latitude: number, longitude: number) =>
    from ? Math.round(distanceKm(from.latitude, from.longitude, { latitude, longitude })) : null;
  const towns = rows.map(({ name, country, region, latitude, longitude }) => ({
    name,
    country,
    region,
    latitude,
    longitude,
    station: null,
    km: away(latitude, longitude),
  }));
  // A station that is one of the towns found is not said twice.
  const apart = stations.filter(
    (station) => !towns.some((one) => distanceKm(one.latitude, one.longitude, station) < 10),
  );
  return [
    ...apart.slice(0, 4).map(({ id, name, latitude, longitude }) => ({
      name,
      country: "",
      region: "",
      latitude,
      longitude,
      station: id,
      km: away(latitude, longitude),
    })),
    ...towns,
  ].slice(0, MOST);
}
