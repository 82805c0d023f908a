/** A place that a search found: a town of the gazetteer, or a typical station. */
export interface FoundPlace {
  name: string;
  /** ISO 3166-1 alpha-2, or empty for a station. */
  country: string;
  /** The gazetteer's code of the region: of the United States the state's letters. */
  region: string;
  latitude: number;
  longitude: number;
  /** Id of the typical station, where it is one. */
  station: string | null;
  /** Distance from where the search was made from, km; null without one. */
  km: number | null;
}
