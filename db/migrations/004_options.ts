import type { Knex } from "knex";

/** The target of a job, and the states of its document that were given a name. */
export async function up(knex: Knex): Promise<void> {
  await knex.schema.createTable("wishes", (table) => {
    table.uuid("rig_id").primary();
    table.json("wish").notNullable();
    table.datetime("updated_at", { precision: 3 }).notNullable();
  });
  await knex.schema.createTable("rig_revisions", (table) => {
    table.uuid("id").primary();
    table.uuid("rig_id").notNullable();
    table.string("name", 120).notNullable();
    /** What was promised to the customer with it. */
    table.string("promise", 2000).notNullable();
    table.json("document").notNullable();
    table.json("summary").notNullable();
    table.datetime("created_at", { precision: 3 }).notNullable();
    table.datetime("deleted_at", { precision: 3 }).nullable();
    table.index(["rig_id", "created_at"]);
  });
}

export async function down(knex: Knex): Promise<void> {
  await knex.schema.dropTable("rig_revisions");
  await knex.schema.dropTable("wishes");
}
