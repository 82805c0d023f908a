import type { Knex } from "knex";
import type { JobChange } from "@/contract/jobs";

/** Who changes something, and for which workshop; nobody signed in where the application itself does it. */
export interface Author {
  workshopId: string;
  personId: string | null;
  name: string;
}

export type What = JobChange["what"];

/** Changes of one person that follow each other within this are one line of the history. */
const TOGETHER_MS = 10 * 60_000;
const MOST_LISTED = 200;

/** The parts of a document that differ between two of them: `units`, `bank`. */
export function changedParts(before: unknown, after: unknown): string[] {
  const [a, b] = [before, after].map((one) => (one ?? {}) as Record<string, unknown>) as [
    Record<string, unknown>,
    Record<string, unknown>,
  ];
  return [...new Set([...Object.keys(a), ...Object.keys(b)])].filter(
    (key) => key !== "version" && JSON.stringify(a[key]) !== JSON.stringify(b[key]),
  );
}

interface Row {
  id: number;
  parts: string;
  changed_at: Date;
}

/** Writes into a job's history what somebody did: saves that follow each other go into one line. */
export async function note(
  db: Knex,
  author: Author,
  {
    jobId,
    what,
    parts = [],
    revision = null,
  }: { jobId: string; what: What; parts?: string[]; revision?: number | null },
  now = new Date(),
): Promise<void> {
  const last = (await db("job_changes").where({ job_id: jobId }).orderBy("id", "desc").first()) as
    | (Row & { person_id: string | null; what: What })
    | undefined;
  const goesOn =
    what === "changed" &&
    last?.what === what &&
    last.person_id === author.personId &&
    now.getTime() - last.changed_at.getTime() < TOGETHER_MS;
  if (goesOn) {
    const all = [...new Set([...last.parts.split(" ").filter(Boolean), ...parts])].join(" ");
    await db("job_changes").where({ id: last.id }).update({ parts: all, revision, changed_at: now });
    return;
  }
  await db("job_changes").insert({
    job_id: jobId,
    person_id: author.personId,
    // Kept here too: who has left the workshop stays in its record.
    name: author.name,
    what,
    parts: parts.join(" "),
    revision,
    began_at: now,
    changed_at: now,
  });
}

/** What was done to a job, by whom and when, the newest first. */
export async function historyOf(db: Knex, jobId: string): Promise<JobChange[]> {
  const rows = (await db("job_changes")
    .where({ job_id: jobId })
    .orderBy("id", "desc")
    .limit(MOST_LISTED)
    .select("what", "parts", "revision", "began_at", "changed_at", "name")) as {
    what: What;
    parts: string;
    revision: number | null;
    began_at: Date;
    changed_at: Date;
    name: string;
  }[];
  return rows.map(({ parts, began_at, changed_at, ...one }) => ({
    ...one,
    parts: parts.split(" ").filter(Boolean),
    beganAt: began_at.toISOString(),
    changedAt: changed_at.toISOString(),
  }));
}
