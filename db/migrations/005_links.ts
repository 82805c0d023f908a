import type { Knex } from "knex";

/** Read-only pages for customers: what was promised, by a link that only its holder knows. */
export async function up(knex: Knex): Promise<void> {
  await knex.schema.createTable("customer_links", (table) => {
    table.uuid("id").primary();
    table.uuid("rig_id").notNullable();
    /** SHA-256 of the token in hexadecimal: who reads the database cannot open the page. */
    table.specificType("token_hash", "char(64)").notNullable().unique();
    table.json("page").notNullable();
    table.datetime("created_at", { precision: 3 }).notNullable();
    table.datetime("expires_at", { precision: 3 }).notNullable();
    table.datetime("withdrawn_at", { precision: 3 }).nullable();
    table.index(["rig_id", "created_at"]);
  });
}

export async function down(knex: Knex): Promise<void> {
  await knex.schema.dropTable("customer_links");
}
