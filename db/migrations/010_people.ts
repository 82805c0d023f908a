import type { Knex } from "knex";
import { v7 as uuid } from "uuid";
import { genericParts } from "../generic-parts";

const MOMENT = { precision: 3 };

/** Whether anybody has worked here before there were workshops: any job, or a shelf that is not the one that ships. */
async function wasUsed(knex: Knex): Promise<boolean> {
  if (await knex("jobs").first("id")) return true;
  const [{ parts }] = (await knex("parts").count({ parts: "*" })) as [{ parts: number }];
  const changed: unknown = await knex("parts").where("revision", ">", 1).orWhereNotNull("deleted_at").first("id");
  return Number(parts) !== genericParts().length || changed !== undefined;
}

const PEOPLE: [string, (table: Knex.CreateTableBuilder) => void][] = [
  [
    "workshops",
    (table) => {
      table.uuid("id").primary();
      table.string("name", 80).notNullable();
      table.datetime("created_at", MOMENT).notNullable();
    },
  ],
  [
    "people",
    (table) => {
      table.string("id", 36).primary();
      table.uuid("workshop_id").notNullable().index();
      table.string("role", 20).notNullable();
      table.string("name", 80).notNullable();
      table.string("email", 200).notNullable().unique();
      table.boolean("email_verified").notNullable().defaultTo(true);
      table.string("image", 400).nullable();
      table.datetime("created_at", MOMENT).notNullable();
      table.datetime("updated_at", MOMENT).notNullable();
    },
  ],
  [
    "sessions",
    (table) => {
      table.string("id", 36).primary();
      table.string("person_id", 36).notNullable().index();
      table.string("token", 100).notNullable().unique();
      table.datetime("expires_at", MOMENT).notNullable();
      table.string("address", 60).nullable();
      table.string("browser", 400).nullable();
      table.datetime("created_at", MOMENT).notNullable();
      table.datetime("updated_at", MOMENT).notNullable();
    },
  ],
  [
    "credentials",
    (table) => {
      table.string("id", 36).primary();
      table.string("person_id", 36).notNullable().index();
      table.string("account_id", 100).notNullable();
      table.string("provider_id", 40).notNullable();
      table.string("password", 400).nullable();
      for (const name of ["access_token", "refresh_token", "id_token", "scope"]) table.text(name).nullable();
      table.datetime("access_token_expires_at", MOMENT).nullable();
      table.datetime("refresh_token_expires_at", MOMENT).nullable();
      table.datetime("created_at", MOMENT).notNullable();
      table.datetime("updated_at", MOMENT).notNullable();
    },
  ],
  [
    "verifications",
    (table) => {
      table.string("id", 36).primary();
      table.string("identifier", 200).notNullable().index();
      table.text("value").notNullable();
      table.datetime("expires_at", MOMENT).notNullable();
      table.datetime("created_at", MOMENT).notNullable();
      table.datetime("updated_at", MOMENT).notNullable();
    },
  ],
  [
    "invitations",
    (table) => {
      table.uuid("id").primary();
      table.uuid("workshop_id").notNullable().index();
      table.string("role", 20).notNullable();
      table.string("invited_by", 36).notNullable();
      table.string("token_hash", 64).notNullable().unique();
      table.datetime("created_at", MOMENT).notNullable();
      table.datetime("expires_at", MOMENT).notNullable();
      table.datetime("used_at", MOMENT).nullable();
    },
  ],
  [
    "beginning_codes",
    (table) => {
      table.string("code_hash", 64).primary();
      table.datetime("expires_at", MOMENT).notNullable();
    },
  ],
  [
    "attempts",
    // As the limiter's library wants it.
    (table) => {
      table.string("key", 255).primary();
      table.integer("points", 9).notNullable().defaultTo(0);
      table.bigInteger("expire").unsigned().nullable().index();
    },
  ],
  [
    "job_changes",
    (table) => {
      table.bigIncrements("id");
      table.uuid("job_id").notNullable();
      table.string("person_id", 36).nullable();
      table.string("name", 80).notNullable();
      table.string("what", 20).notNullable();
      table.string("parts", 400).notNullable().defaultTo("");
      table.integer("revision").unsigned().nullable();
      table.datetime("began_at", MOMENT).notNullable();
      table.datetime("changed_at", MOMENT).notNullable();
      table.index(["job_id", "id"]);
    },
  ],
];

/** Workshops and their people; every job, part and mapping belongs to one. Begins again where it was broken off. */
export async function up(knex: Knex): Promise<void> {
  for (const [name, shape] of PEOPLE)
    if (!(await knex.schema.hasTable(name))) await knex.schema.createTable(name, shape);
  for (const name of ["jobs", "parts", "log_mappings"])
    if (!(await knex.schema.hasColumn(name, "workshop_id")))
      await knex.schema.alterTable(name, (table) => {
        table.uuid("workshop_id").nullable();
      });
  if (await wasUsed(knex)) {
    const standing = (await knex("workshops").first("id")) as { id: string } | undefined;
    const id = standing?.id ?? uuid();
    if (!standing) await knex("workshops").insert({ id, name: "Workshop", created_at: new Date() });
    for (const name of ["jobs", "parts", "log_mappings"])
      await knex(name).whereNull("workshop_id").update({ workshop_id: id });
  } else {
    // Each workshop is given a shelf of its own as it begins.
    await knex("parts").whereNull("workshop_id").delete();
  }
  await knex("log_mappings").whereNull("workshop_id").delete();
  await knex.raw(
    "ALTER TABLE log_mappings MODIFY workshop_id char(36) NOT NULL, DROP PRIMARY KEY, ADD PRIMARY KEY (workshop_id, header_hash)",
  );
  await knex.raw(
    "ALTER TABLE jobs MODIFY workshop_id char(36) NOT NULL, ADD INDEX IF NOT EXISTS jobs_of_workshop (workshop_id, deleted_at, updated_at)",
  );
  await knex.raw(
    "ALTER TABLE parts MODIFY workshop_id char(36) NOT NULL, ADD INDEX IF NOT EXISTS parts_of_workshop (workshop_id, deleted_at, kind, name)",
  );
}

export async function down(knex: Knex): Promise<void> {
  for (const [name] of PEOPLE) await knex.schema.dropTableIfExists(name);
  await knex.raw("ALTER TABLE log_mappings DROP PRIMARY KEY, ADD PRIMARY KEY (header_hash), DROP COLUMN workshop_id");
  await knex.raw("ALTER TABLE jobs DROP INDEX jobs_of_workshop, DROP COLUMN workshop_id");
  await knex.raw("ALTER TABLE parts DROP INDEX parts_of_workshop, DROP COLUMN workshop_id");
}
