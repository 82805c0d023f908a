import type { Knex } from "knex";

/**
 * Measured runs. Readings by hand and from instruments are rows, so that each can be corrected with its history; an
 * import's are packed in chunks, invisible until the whole of it is there.
 */
export async function up(knex: Knex): Promise<void> {
  await knex.schema.createTable("trials", (table) => {
    table.uuid("id").primary();
    table.uuid("rig_id").notNullable();
    table.string("name", 120).notNullable();
    table.string("kind", 40).notNullable();
    table.datetime("started_at", { precision: 3 }).notNullable();
    table.datetime("finished_at", { precision: 3 }).nullable();
    /** Instrument that feeds it, its settings, and what a simulator hides. */
    table.json("source").nullable();
    table.json("truth").nullable();
    /** Forecasts as they were given at 15, 30, 60 and 120 minutes; and what happened. */
    table.json("promises").notNullable();
    table.json("outcome").nullable();
    table.datetime("created_at", { precision: 3 }).notNullable();
    table.datetime("updated_at", { precision: 3 }).notNullable();
    table.datetime("deleted_at", { precision: 3 }).nullable();
    table.index(["rig_id", "started_at"]);
  });
  await knex.schema.createTable("trial_readings", (table) => {
    table.uuid("id").primary();
    table.uuid("trial_id").notNullable();
    table.bigInteger("time_ms").notNullable();
    table.json("reading").notNullable();
    table.uuid("photo_id").nullable();
    table.integer("version").unsigned().notNullable().defaultTo(1);
    table.datetime("deleted_at", { precision: 3 }).nullable();
    table.datetime("created_at", { precision: 3 }).notNullable();
    table.index(["trial_id", "time_ms"]);
  });
  await knex.schema.createTable("trial_reading_history", (table) => {
    table.increments("entry");
    table.uuid("reading_id").notNullable().index();
    table.integer("version").unsigned().notNullable();
    table.bigInteger("time_ms").notNullable();
    table.json("reading").notNullable();
    table.boolean("was_deleted").notNullable();
    table.datetime("changed_at", { precision: 3 }).notNullable();
  });
  await knex.schema.createTable("trial_imports", (table) => {
    table.uuid("id").primary();
    table.uuid("trial_id").notNullable().index();
    table.string("file_name", 200).notNullable();
    table.integer("rows").unsigned().notNullable().defaultTo(0);
    table.boolean("whole").notNullable().defaultTo(false);
    table.datetime("created_at", { precision: 3 }).notNullable();
  });
  await knex.schema.createTable("trial_import_chunks", (table) => {
    table.uuid("import_id").notNullable();
    table.integer("seq").unsigned().notNullable();
    /** "readings" packed as the log's binary, or "file" as the original's bytes. */
    table.string("part", 10).notNullable();
    table.integer("rows").unsigned().notNullable();
    table.specificType("data", "mediumblob").notNullable();
    table.primary(["import_id", "part", "seq"]);
  });
  await knex.schema.createTable("trial_photos", (table) => {
    table.uuid("id").primary();
    table.uuid("trial_id").notNullable().index();
    table.string("type", 40).notNullable();
    table.specificType("data", "mediumblob").notNullable();
    table.datetime("created_at", { precision: 3 }).notNullable();
  });
  await knex.schema.createTable("log_mappings", (table) => {
    /** The header line that it is for, hashed. */
    table.string("header_hash", 64).primary();
    table.json("mapping").notNullable();
    table.datetime("used_at", { precision: 3 }).notNullable();
  });
}

export async function down(knex: Knex): Promise<void> {
  for (const table of [
    "log_mappings",
    "trial_photos",
    "trial_import_chunks",
    "trial_imports",
    "trial_reading_history",
    "trial_readings",
    "trials",
  ])
    await knex.schema.dropTable(table);
}
