import type { Knex } from "knex";

/** How many readings a test run has: kept, since counting three hundred thousand rows at each new one takes half a second. */
export async function up(knex: Knex): Promise<void> {
  if (!(await knex.schema.hasColumn("test_runs", "readings")))
    await knex.schema.alterTable("test_runs", (table) => {
      table.integer("readings").unsigned().notNullable().defaultTo(0);
    });
  await knex.raw(
    `UPDATE test_runs SET readings =
       (SELECT COUNT(*) FROM test_run_readings r WHERE r.test_run_id = test_runs.id AND r.deleted_at IS NULL)
     + (SELECT COALESCE(SUM(i.\`rows\`), 0) FROM test_run_imports i WHERE i.test_run_id = test_runs.id AND i.whole)`,
  );
}

export async function down(knex: Knex): Promise<void> {
  await knex.schema.alterTable("test_runs", (table) => {
    table.dropColumn("readings");
  });
}
