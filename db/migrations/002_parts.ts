import type { Knex } from "knex";
import { v7 as uuid } from "uuid";
import { genericParts } from "../generic-parts";

/** The workshop's shelf, one row a part, filled with the generic ones that ship. */
export async function up(knex: Knex): Promise<void> {
  await knex.schema.createTable("parts", (table) => {
    table.uuid("id").primary();
    table.integer("revision").unsigned().notNullable().defaultTo(1);
    table.string("kind", 20).notNullable();
    table.string("name", 80).notNullable();
    table.json("document").notNullable();
    table.datetime("created_at", { precision: 3 }).notNullable();
    table.datetime("updated_at", { precision: 3 }).notNullable();
    table.datetime("deleted_at", { precision: 3 }).nullable();
    table.index(["deleted_at", "kind", "name"]);
  });
  const now = new Date();
  await knex("parts").insert(
    genericParts().map((entry) => ({
      id: uuid(),
      revision: 1,
      kind: entry.kind,
      name: entry.name,
      document: JSON.stringify(entry),
      created_at: now,
      updated_at: now,
    })),
  );
}

export async function down(knex: Knex): Promise<void> {
  await knex.schema.dropTable("parts");
}
