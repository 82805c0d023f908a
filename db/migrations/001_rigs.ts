import type { Knex } from "knex";

/** One row a job. The document is the truth; the other columns are read off it for listing and searching. */
export async function up(knex: Knex): Promise<void> {
  await knex.schema.createTable("rigs", (table) => {
    table.uuid("id").primary();
    table.integer("revision").unsigned().notNullable().defaultTo(1);
    table.json("document").notNullable();
    table.json("summary").notNullable();
    table.integer("core_version").unsigned().notNullable();
    table.string("name", 120).notNullable();
    table.string("search_text", 6000).notNullable();
    table.datetime("created_at", { precision: 3 }).notNullable();
    table.datetime("updated_at", { precision: 3 }).notNullable();
    table.datetime("deleted_at", { precision: 3 }).nullable();
    table.index(["deleted_at", "updated_at"]);
  });
}

export async function down(knex: Knex): Promise<void> {
  await knex.schema.dropTable("rigs");
}
