import type { Knex } from "knex";

/** Who made a customer's link: it is withdrawn with them. Of those made before, nobody is known. */
export async function up(knex: Knex): Promise<void> {
  await knex.schema.alterTable("customer_links", (table) => {
    table.string("made_by", 36).nullable().index();
  });
}

export async function down(knex: Knex): Promise<void> {
  await knex.schema.alterTable("customer_links", (table) => {
    table.dropColumn("made_by");
  });
}
