import type { Knex } from "knex";

/** One-time codes that people may ask for at their sign-in: the secret and the recovery codes, encrypted with the installation's key. */
export async function up(knex: Knex): Promise<void> {
  await knex.schema.createTable("second_factors", (table) => {
    table.string("id", 36).primary();
    table.string("person_id", 36).notNullable().unique();
    table.text("secret").notNullable();
    table.text("recovery_codes").notNullable();
    /** False until a first code was typed. */
    table.boolean("verified").notNullable().defaultTo(false);
    table.integer("failed").unsigned().notNullable().defaultTo(0);
    table.datetime("locked_until", { precision: 3 }).nullable();
  });
  await knex.schema.alterTable("people", (table) => {
    table.boolean("second_factor").notNullable().defaultTo(false);
  });
}

export async function down(knex: Knex): Promise<void> {
  await knex.schema.alterTable("people", (table) => {
    table.dropColumn("second_factor");
  });
  await knex.schema.dropTable("second_factors");
}
