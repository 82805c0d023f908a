import type { Knex } from "knex";

/** Names within the JSON of a column, as [column, before, after]. */
const NAMES = [
  ["source", '"kind":"stand-in"', '"kind":"simulator"'],
  ["source", '"startShare":', '"startSoc":'],
  ["truth", '"startShare":', '"startSoc":'],
  ["outcome", '"endShare":', '"endSoc":'],
] as const;

/** Says what is kept of a test run by the names that the code has for it. A second run goes on. */
export async function up(knex: Knex): Promise<void> {
  if (await knex.schema.hasColumn("test_runs", "promises"))
    await knex.raw("ALTER TABLE test_runs RENAME COLUMN promises TO snapshots");
  for (const [column, before, after] of NAMES) await rename(knex, column, before, after);
}

export async function down(knex: Knex): Promise<void> {
  for (const [column, before, after] of NAMES) await rename(knex, column, after, before);
  await knex.raw("ALTER TABLE test_runs RENAME COLUMN snapshots TO promises");
}

const rename = (knex: Knex, column: string, before: string, after: string) =>
  knex("test_runs")
    .where(column, "like", `%${before}%`)
    .update({ [column]: knex.raw("REPLACE(??, ?, ?)", [column, before, after]) });
