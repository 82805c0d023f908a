import type { Knex } from "knex";
import { v7 as uuid } from "uuid";
import { readJob } from "../core/document/schema";
import { shelfUses, updateUses } from "../core/applications/parts/pick";
import { readEntry, type ShelfEntry, type ShelfKindKey } from "../core/applications/parts/shelf";
import { CORE_VERSION, summarySchema, type Summary } from "../core/assessment/verdicts/summary";
import type { Author } from "./job-history";
import { saveJob } from "./jobs";
import { parsed } from "./json-column";
import { needRoom } from "./quotas";
import { summaryInThread } from "@/server/summaries";

export interface StoredPart {
  id: string;
  revision: number;
  entry: ShelfEntry;
}

export type SavedPart =
  | { outcome: "saved"; revision: number }
  | { outcome: "changed-elsewhere"; current: StoredPart }
  | { outcome: "missing" };

interface Row {
  id: string;
  revision: number;
  document: unknown;
}

function stored(row: Row): StoredPart {
  const read = readEntry(parsed(row.document));
  if (!read.ok) throw new Error(`stored part ${row.id} is not readable: ${read.faults[0]?.message}`);
  return { id: row.id, revision: row.revision, entry: read.entry };
}

const columns = (entry: ShelfEntry) => ({ kind: entry.kind, name: entry.name, document: JSON.stringify(entry) });
const LISTED = 200;

/** Parts of the shelf by kind and words in the name, in order of name; at most 200, with how many there are. */
export async function listParts(
  db: Knex,
  workshopId: string,
  { kind, query }: { kind: ShelfKindKey | null; query: string },
): Promise<{ parts: StoredPart[]; total: number }> {
  const matching = db("parts").where({ workshop_id: workshopId }).whereNull("deleted_at");
  if (kind) matching.andWhere({ kind });
  for (const word of query.trim().split(/\s+/).filter(Boolean).slice(0, 10))
    matching.andWhere("name", "like", `%${word.replace(/[\\%_]/g, "\\$&")}%`);
  const [{ total }] = (await matching.clone().count({ total: "*" })) as [{ total: number }];
  const rows: Row[] = await matching
    .select("id", "revision", "document")
    // Digits in a name count as numbers: 9,000 before 13,500 as it stands on the shelf.
    .orderByRaw("kind, natural_sort_key(name), id")
    .limit(LISTED);
  return { parts: rows.map(stored), total: Number(total) };
}

/** All parts of a workshop, for export. */
export async function allParts(db: Knex, workshopId: string): Promise<StoredPart[]> {
  const rows: Row[] = await db("parts")
    .where({ workshop_id: workshopId })
    .whereNull("deleted_at")
    .select("id", "revision", "document")
    .orderBy(["kind", "name", "id"]);
  return rows.map(stored);
}

/** Parts of a workshop by their ids, deleted ones left out. */
export async function partsOf(db: Knex, workshopId: string, ids: string[]): Promise<StoredPart[]> {
  const rows: Row[] = await db("parts")
    .where({ workshop_id: workshopId })
    .whereNull("deleted_at")
    .whereIn("id", ids)
    .select("id", "revision", "document");
  return rows.map(stored);
}

export async function createPart(
  db: Knex,
  workshopId: string,
  entry: ShelfEntry,
): Promise<{ id: string; revision: number }> {
  await needRoom(db, workshopId, "parts");
  const id = uuid();
  const stamps = { created_at: new Date(), updated_at: new Date() };
  await db("parts").insert({ id, workshop_id: workshopId, revision: 1, ...columns(entry), ...stamps });
  return { id, revision: 1 };
}

/** Saves a part over the revision it was read at; its kind stays what it was. */
export async function savePart(
  db: Knex,
  workshopId: string,
  { id, revision, entry }: { id: string; revision: number; entry: ShelfEntry },
): Promise<SavedPart> {
  const changed = await db("parts")
    .where({ id, workshop_id: workshopId, revision, kind: entry.kind })
    .whereNull("deleted_at")
    .update({ ...columns(entry), revision: revision + 1, updated_at: new Date() });
  if (changed === 1) return { outcome: "saved", revision: revision + 1 };
  const [current] = await partsOf(db, workshopId, [id]);
  return current ? { outcome: "changed-elsewhere", current } : { outcome: "missing" };
}

export async function deletePart(db: Knex, id: string): Promise<boolean> {
  return (await db("parts").where({ id }).whereNull("deleted_at").update({ deleted_at: new Date() })) === 1;
}

export async function restorePart(db: Knex, id: string): Promise<boolean> {
  return (await db("parts").where({ id }).whereNotNull("deleted_at").update({ deleted_at: null })) === 1;
}

export interface ImportCounts {
  added: number;
  changed: number;
  same: number;
}

const CHUNK = 500;

/** Puts entries on the shelf, all or none: a part of the same kind and name is changed, others are added. */
export async function importParts(db: Knex, workshopId: string, entries: ShelfEntry[]): Promise<ImportCounts> {
  const counts: ImportCounts = { added: 0, changed: 0, same: 0 };
  const keyOf = ({ kind, name }: { kind: string; name: string }) => `${kind} ${name.toLowerCase()}`;
  // The last row of a name is the one that stands, as in a ledger.
  const wanted = new Map(entries.map((entry) => [keyOf(entry), entry]));
  await db.transaction(async (transaction) => {
    const rows: (Row & { kind: string; name: string })[] = await transaction("parts")
      .where({ workshop_id: workshopId })
      .whereNull("deleted_at")
      .select("id", "revision", "kind", "name", "document")
      .forUpdate();
    const there = new Map(rows.map((row) => [keyOf(row), row]));
    const now = new Date();
    const fresh: object[] = [];
    for (const [key, entry] of wanted) {
      const old = there.get(key);
      if (!old) {
        const stamps = { created_at: now, updated_at: now };
        fresh.push({ id: uuid(), workshop_id: workshopId, revision: 1, ...columns(entry), ...stamps });
        continue;
      }
      const before = readEntry(parsed(old.document));
      if (before.ok && sameEntry(before.entry, entry)) {
        counts.same++;
        continue;
      }
      counts.changed++;
      await transaction("parts")
        .where({ id: old.id })
        .update({ ...columns(entry), revision: old.revision + 1, updated_at: now });
    }
    if (fresh.length > 0) await needRoom(transaction, workshopId, "parts", fresh.length);
    for (let i = 0; i < fresh.length; i += CHUNK) await transaction("parts").insert(fresh.slice(i, i + CHUNK));
    counts.added = fresh.length;
  });
  return counts;
}

function sameEntry(a: ShelfEntry, b: ShelfEntry): boolean {
  const flat = ({ kind, name, note, choices, values, cost, mass }: ShelfEntry) =>
    JSON.stringify([
      kind,
      name,
      note,
      cost ?? null,
      mass ?? null,
      Object.entries(choices).sort(),
      Object.entries(values).sort(),
    ]);
  return flat(a) === flat(b);
}

export interface UsingJob {
  id: string;
  revision: number;
  name: string;
  /** Whether its use is of an older revision of the part. */
  stale: boolean;
  now: Summary;
  /** The verdicts that it would have with the part as it stands. */
  then: Summary;
}

/** The jobs that use a part, with their verdicts now and with the part as it stands on the shelf. */
export async function jobsUsing(db: Knex, workshopId: string, part: StoredPart): Promise<UsingJob[]> {
  const rows: {
    id: string;
    revision: number;
    name: string;
    document: unknown;
    summary: unknown;
    core_version: number;
  }[] = await db("jobs")
    .where({ workshop_id: workshopId })
    .whereNull("deleted_at")
    .andWhere("document", "like", `%${part.id}%`)
    .select("id", "revision", "name", "document", "summary", "core_version")
    .orderBy("updated_at", "desc")
    .limit(LISTED);
  const found = rows.map(
    async ({ id, revision, name, document, summary, core_version: core }): Promise<UsingJob | null> => {
      const read = readJob(parsed(document));
      if (!read.ok) return null;
      const uses = shelfUses(read.job).filter((use) => use.id === part.id);
      if (uses.length === 0) return null;
      const stale = uses.some((use) => use.revision !== part.revision);
      // What stands is stored with the job; only what would change is run anew.
      const now =
        core === CORE_VERSION ? (summarySchema.parse(parsed(summary)) as Summary) : await summaryInThread(read.job);
      const then = stale ? await summaryInThread(updateUses(read.job, part.entry, part)) : now;
      return { id, revision, name, stale, now, then };
    },
  );
  return (await Promise.all(found)).filter((one) => one !== null);
}

/** Brings the chosen jobs to the part as it stands; returns the ids that were changed. Jobs saved meanwhile are left alone. */
export async function updateJobs(
  db: Knex,
  author: Author,
  part: StoredPart,
  jobs: { id: string; revision: number }[],
): Promise<string[]> {
  const done: string[] = [];
  for (const { id, revision } of jobs) {
    const row = (await db("jobs")
      .where({ id, revision, workshop_id: author.workshopId })
      .whereNull("deleted_at")
      .first("document")) as { document: unknown } | undefined;
    const read = row ? readJob(parsed(row.document)) : null;
    if (!read?.ok) continue;
    const saved = await saveJob(db, author, { id, revision, job: updateUses(read.job, part.entry, part) });
    if (saved.outcome === "saved") done.push(id);
  }
  return done;
}
