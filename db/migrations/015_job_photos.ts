import type { Knex } from "knex";

/**
 * Photos of a job's commissioning steps and inspection points. The id is of the job's document and only within it: a copy of a
 * job has the same ones.
 */
export async function up(knex: Knex): Promise<void> {
  await knex.schema.createTable("job_photos", (table) => {
    table.uuid("job_id").notNullable();
    table.uuid("id").notNullable();
    table.primary(["job_id", "id"]);
    table.string("type", 40).notNullable();
    table.specificType("data", "mediumblob").notNullable();
    /** The same at most 900 pixels wide or high: for lists and documents. */
    table.specificType("small", "mediumblob").notNullable();
    /** Of both. */
    table.integer("bytes").unsigned().notNullable();
    table.datetime("created_at", { precision: 3 }).notNullable();
  });
}

export async function down(knex: Knex): Promise<void> {
  await knex.schema.dropTable("job_photos");
}
