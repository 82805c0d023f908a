import type { Knex } from "knex";

/** Tables and columns whose names said it otherwise than the screens do, as [before, after]. */
const TABLES = [
  ["rigs", "jobs"],
  ["rig_revisions", "job_revisions"],
  ["wishes", "job_requirements"],
  ["trials", "test_runs"],
  ["trial_readings", "test_run_readings"],
  ["trial_reading_history", "test_run_reading_history"],
  ["trial_photos", "test_run_photos"],
  ["trial_imports", "test_run_imports"],
  ["trial_import_chunks", "test_run_import_chunks"],
] as const;

const COLUMNS = [
  ["job_revisions", "rig_id", "job_id"],
  ["job_requirements", "rig_id", "job_id"],
  ["job_requirements", "wish", "requirement"],
  ["customer_links", "rig_id", "job_id"],
  ["test_runs", "rig_id", "job_id"],
  ["test_run_readings", "trial_id", "test_run_id"],
  ["test_run_photos", "trial_id", "test_run_id"],
  ["test_run_imports", "trial_id", "test_run_id"],
] as const;

/** Renames the tables and columns to the words that the screens use. A second run after one that was cut short goes on. */
export async function up(knex: Knex): Promise<void> {
  for (const [before, after] of TABLES)
    if (await knex.schema.hasTable(before)) await knex.raw("RENAME TABLE ?? TO ??", [before, after]);
  for (const [table, before, after] of COLUMNS)
    if (await knex.schema.hasColumn(table, before))
      await knex.raw("ALTER TABLE ?? RENAME COLUMN ?? TO ??", [table, before, after]);
}

export async function down(knex: Knex): Promise<void> {
  for (const [table, before, after] of COLUMNS)
    await knex.raw("ALTER TABLE ?? RENAME COLUMN ?? TO ??", [table, after, before]);
  for (const [before, after] of TABLES) await knex.raw("RENAME TABLE ?? TO ??", [after, before]);
}
