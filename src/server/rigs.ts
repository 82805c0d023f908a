import type { Knex } from "knex";
import { v7 as uuid } from "uuid";
import { readRig, type Rig } from "../core/document/schema";
import { CORE_VERSION, summarySchema, type Summary } from "../core/assessment/verdicts/summary";
import { parsed } from "./json-column";
import { summaryInThread } from "./summaries";

export const PAGE_SIZE = 25;

export interface StoredRig {
  id: string;
  revision: number;
  rig: Rig;
  updatedAt: Date;
}

export interface ListedRig {
  id: string;
  name: string;
  place: string;
  notation: Rig["notation"];
  summary: Summary;
  updatedAt: Date;
}

export type Saved =
  | { outcome: "saved"; revision: number; updatedAt: Date }
  | { outcome: "changed-elsewhere"; current: StoredRig }
  | { outcome: "missing" };

interface Row {
  id: string;
  revision: number;
  document: unknown;
  summary: unknown;
  updated_at: Date;
}

function documentOf(row: Pick<Row, "id" | "document">): Rig {
  const read = readRig(parsed(row.document));
  if (!read.ok)
    throw new Error(`stored rig ${row.id} is not readable: ${read.faults[0]?.path} ${read.faults[0]?.message}`);
  return read.rig;
}

const stored = (row: Row): StoredRig => ({
  id: row.id,
  revision: row.revision,
  rig: documentOf(row),
  updatedAt: row.updated_at,
});

/** The columns that follow from a document. */
export async function rigColumns(rig: Rig) {
  return {
    document: JSON.stringify(rig),
    summary: JSON.stringify(await summaryInThread(rig)),
    core_version: CORE_VERSION,
    name: rig.name,
    search_text: `${rig.name} ${rig.brief.place} ${rig.brief.wording}`.slice(0, 6000),
  };
}

/** One page of the jobs whose name, place or wording holds every word of `query`, last changed first. */
export async function listRigs(db: Knex, query: string, page: number): Promise<{ rows: ListedRig[]; total: number }> {
  const matching = db("rigs").whereNull("deleted_at");
  for (const word of query.trim().split(/\s+/).filter(Boolean).slice(0, 10)) {
    matching.andWhere("search_text", "like", `%${word.replace(/[\\%_]/g, "\\$&")}%`);
  }
  const [{ total }] = (await matching.clone().count({ total: "*" })) as [{ total: number }];
  const rows: (Row & { name: string })[] = await matching
    .select("id", "name", "document", "summary", "updated_at", "revision")
    .orderBy([
      { column: "updated_at", order: "desc" },
      { column: "id", order: "desc" },
    ])
    .limit(PAGE_SIZE)
    .offset((page - 1) * PAGE_SIZE);
  return {
    total: Number(total),
    rows: rows.map((row) => {
      const rig = documentOf(row);
      const summary = summarySchema.parse(parsed(row.summary)) as Summary;
      return {
        id: row.id,
        name: row.name,
        place: rig.brief.place,
        notation: rig.notation,
        summary,
        updatedAt: row.updated_at,
      };
    }),
  };
}

export async function getRig(db: Knex, id: string): Promise<StoredRig | null> {
  const row = await db<Row>("rigs").where({ id }).whereNull("deleted_at").first();
  return row ? stored(row) : null;
}

export async function createRig(db: Knex, rig: Rig, now = new Date()): Promise<{ id: string; revision: number }> {
  const id = uuid();
  await db("rigs").insert({ id, revision: 1, ...(await rigColumns(rig)), created_at: now, updated_at: now });
  return { id, revision: 1 };
}

/**
 * Saves a system over the revision it was read at. Where another window has saved since, nothing is written and what
 * stands there now comes back.
 */
export async function saveRig(db: Knex, id: string, revision: number, rig: Rig): Promise<Saved> {
  const updatedAt = new Date();
  const standing = db("rigs").where({ id, revision }).whereNull("deleted_at");
  // A save that comes too late is told so before its verdicts are computed.
  const columns = (await standing.clone().first("id")) ? await rigColumns(rig) : null;
  const changed = columns && (await standing.update({ ...columns, revision: revision + 1, updated_at: updatedAt }));
  if (changed === 1) return { outcome: "saved", revision: revision + 1, updatedAt };
  const current = await getRig(db, id);
  return current ? { outcome: "changed-elsewhere", current } : { outcome: "missing" };
}

/** Takes a job off the list; `restoreRig` brings it back. Returns whether there was one. */
export async function deleteRig(db: Knex, id: string): Promise<boolean> {
  return (await db("rigs").where({ id }).whereNull("deleted_at").update({ deleted_at: new Date() })) === 1;
}

export async function restoreRig(db: Knex, id: string): Promise<boolean> {
  return (await db("rigs").where({ id }).whereNotNull("deleted_at").update({ deleted_at: null })) === 1;
}

/** A copy under the name "… copy", or null where there is nothing to copy. */
export async function duplicateRig(db: Knex, id: string): Promise<{ id: string; revision: number } | null> {
  const source = await getRig(db, id);
  if (!source) return null;
  return createRig(db, { ...source.rig, name: `${source.rig.name.slice(0, 114)} copy` });
}

/** Makes the stored verdicts anew where the core has changed since they were stored. */
export async function refreshSummaries(db: Knex): Promise<number> {
  const stale: Row[] = await db("rigs").whereNot("core_version", CORE_VERSION).select("id", "document");
  for (const row of stale) {
    const { summary, core_version } = await rigColumns(documentOf(row));
    await db("rigs").where({ id: row.id }).update({ summary, core_version });
  }
  return stale.length;
}
