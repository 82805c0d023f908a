import type { Knex } from "knex";

/** In small transactions: a cluster sends each round as a whole, with the photos of the rows that it changes. */
export const config = { transaction: false };
const AT_ONCE = 100;

/** Bytes of photos and of imported logs as they are kept, so that a workshop's can be added up without reading them. */
export async function up(knex: Knex): Promise<void> {
  for (const name of ["test_run_photos", "test_run_import_chunks"]) {
    if (!(await knex.schema.hasColumn(name, "bytes")))
      await knex.schema.alterTable(name, (table) => {
        table.integer("bytes").unsigned().nullable();
      });
    const size = knex.raw("OCTET_LENGTH(data)");
    while ((await knex(name).whereNull("bytes").limit(AT_ONCE).update({ bytes: size })) > 0);
  }
}

export async function down(knex: Knex): Promise<void> {
  for (const name of ["test_run_photos", "test_run_import_chunks"])
    await knex.schema.alterTable(name, (table) => {
      table.dropColumn("bytes");
    });
}
