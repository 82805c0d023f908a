import type { Knex } from "knex";

/** A name of an instrument within the JSON of its setup, as [before, after]. */
const SIMULATOR = ['"kind":"stand-in"', '"kind":"simulator"'] as const;

/** Says a run's forecasts and its simulated instrument by the names that the code has for them. A second run goes on. */
export async function up(knex: Knex): Promise<void> {
  if (await knex.schema.hasColumn("test_runs", "promises"))
    await knex.raw("ALTER TABLE test_runs RENAME COLUMN promises TO snapshots");
  await renameInstrument(knex, ...SIMULATOR);
}

export async function down(knex: Knex): Promise<void> {
  const [before, after] = SIMULATOR;
  await renameInstrument(knex, after, before);
  await knex.raw("ALTER TABLE test_runs RENAME COLUMN snapshots TO promises");
}

const renameInstrument = (knex: Knex, before: string, after: string) =>
  knex("test_runs")
    .where("source", "like", `%${before}%`)
    .update({ source: knex.raw("REPLACE(source, ?, ?)", [before, after]) });
