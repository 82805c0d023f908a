import type { Knex } from "knex";

/** What was said of the day of a test run as it began; null where nothing was. */
export async function up(knex: Knex): Promise<void> {
  if (await knex.schema.hasColumn("test_runs", "conditions")) return;
  await knex.schema.alterTable("test_runs", (table) => {
    table.json("conditions").nullable();
  });
}

export async function down(knex: Knex): Promise<void> {
  await knex.schema.alterTable("test_runs", (table) => {
    table.dropColumn("conditions");
  });
}
