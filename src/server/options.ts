import type { Knex } from "knex";
import type { ListedRevision, NewRevision } from "@/contract/revisions";
import { readRig, type Rig } from "../core/document/schema";
import { wishSchema, type Wish } from "../core/applications/options/target";
import { summarySchema, type Summary } from "../core/assessment/verdicts/summary";
import { parsed } from "./json-column";
import { summaryInThread } from "@/server/summaries";

/** The target of a job as it was last kept, or null; one that this Chillbank cannot read counts as none. */
export async function getWish(db: Knex, rigId: string): Promise<Wish | null> {
  const row = await db<{ rig_id: string; wish: unknown }>("wishes").where({ rig_id: rigId }).first("wish");
  const read = wishSchema.safeParse(row ? parsed(row.wish) : null);
  return read.success ? read.data : null;
}

export async function keepWish(db: Knex, rigId: string, wish: Wish): Promise<void> {
  await db("wishes")
    .insert({ rig_id: rigId, wish: JSON.stringify(wish), updated_at: new Date() })
    .onConflict("rig_id")
    .merge(["wish", "updated_at"]);
}

interface Row {
  id: string;
  rig_id: string;
  name: string;
  promise: string;
  document: unknown;
  summary: unknown;
  created_at: Date;
}

const living = (db: Knex, rigId: string) => db<Row>("rig_revisions").where("rig_id", rigId).whereNull("deleted_at");

/** Revisions of a job, the newest first. */
export async function listRevisions(db: Knex, rigId: string): Promise<ListedRevision[]> {
  const rows = await living(db, rigId)
    .select("id", "name", "promise", "summary", "created_at")
    .orderBy([
      { column: "created_at", order: "desc" },
      { column: "id", order: "desc" },
    ]);
  return rows.map((row) => ({
    id: row.id,
    name: row.name,
    promise: row.promise,
    summary: summarySchema.parse(parsed(row.summary)) as Summary,
    createdMs: row.created_at.getTime(),
  }));
}

/** Names a state of a job. Sent twice with one id it is kept once. */
export async function keepRevision(
  db: Knex,
  rigId: string,
  { id, name, promise }: NewRevision,
  rig: Rig,
): Promise<void> {
  await db("rig_revisions")
    .insert({
      id,
      rig_id: rigId,
      name,
      promise,
      document: JSON.stringify(rig),
      summary: JSON.stringify(await summaryInThread(rig)),
      created_at: new Date(),
    })
    .onConflict("id")
    .merge(["id"]);
}

/** The document of a revision, or null. */
export async function revisionRig(db: Knex, rigId: string, id: string): Promise<Rig | null> {
  const row = await living(db, rigId).andWhere({ id }).first("document");
  if (!row) return null;
  const read = readRig(parsed(row.document));
  return read.ok ? read.rig : null;
}

export async function changeRevision(db: Knex, rigId: string, id: string, deleted: boolean): Promise<boolean> {
  const found = db("rig_revisions").where({ rig_id: rigId, id });
  return (await found.update({ deleted_at: deleted ? new Date() : null })) === 1;
}
