import type { Knex } from "knex";

/**
 * Which server attends a test run's instrument, and until when it has said so: one at a time, and another takes it over where
 * that one is silent. The row stays when an instrument ended by itself, with the reason.
 */
export async function up(knex: Knex): Promise<void> {
  // Whoever watches asks for what was stored last, whatever time it is of.
  await knex.raw("CREATE INDEX IF NOT EXISTS test_run_readings_stored ON test_run_readings (test_run_id, created_at)");
  if (await knex.schema.hasTable("instrument_leases")) return;
  await knex.schema.createTable("instrument_leases", (table) => {
    table.uuid("test_run_id").primary().references("id").inTable("test_runs").onDelete("CASCADE");
    /** The start that it is of: readings of an earlier start are taken no more. */
    table.uuid("start_id").notNullable();
    table.uuid("server_id").nullable();
    table.datetime("until", { precision: 3 }).notNullable();
    table.string("ended", 200).nullable();
    table.index(["server_id"]);
  });
}

export async function down(knex: Knex): Promise<void> {
  await knex.raw("DROP INDEX IF EXISTS test_run_readings_stored ON test_run_readings");
  await knex.schema.dropTableIfExists("instrument_leases");
}
