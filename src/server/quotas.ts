import type { Knex } from "knex";
import type { Use } from "@/contract/people";
import type { MessageKey } from "@/core/messages/messages";
import { say } from "@/core/messages/say";
import { Refusal } from "./refusal";

/*
 * What one workshop may keep on a server that it shares with others. All that is stored counts, deleted jobs too until they
 * are erased. What many servers allow at once may go over by what they are asked in that moment.
 */

/** Names of the settings that change them, and what is allowed where they are not set. */
const QUOTAS = {
  jobs: { setting: "CHILLBANK_MOST_JOBS", most: 20_000, each: 1, full: "server.quota.jobs" },
  parts: { setting: "CHILLBANK_MOST_PARTS", most: 500_000, each: 1, full: "server.quota.parts" },
  people: { setting: "CHILLBANK_MOST_PEOPLE", most: 200, each: 1, full: "server.quota.people" },
  readings: { setting: "CHILLBANK_MOST_READINGS", most: 200_000_000, each: 1, full: "server.quota.readings" },
  bytes: { setting: "CHILLBANK_MOST_GB", most: 50, each: 1e9, full: "server.quota.bytes" },
} as const satisfies Record<keyof Use, { setting: string; most: number; each: number; full: MessageKey }>;
type Kind = keyof typeof QUOTAS;

/** The most of one kind that a workshop may keep here. Throws where the setting is no number of one or more. */
export function mostOf(kind: Kind): number {
  const { setting, most, each } = QUOTAS[kind];
  const text = process.env[setting];
  if (text === undefined || text === "") return most * each;
  const set = Number(text);
  if (!(set > 0)) throw new Error(`${setting}: a number over 0 expected, not "${text}"`);
  return set * each;
}

const runsOf = (db: Knex, workshopId: string) =>
  db("test_runs").join("jobs", "jobs.id", "test_runs.job_id").where({ "jobs.workshop_id": workshopId });

const COUNTS: Record<Kind, (db: Knex, workshopId: string) => Promise<number>> = {
  jobs: async (db, workshopId) => countOf(db("jobs").where({ workshop_id: workshopId })),
  parts: async (db, workshopId) => countOf(db("parts").where({ workshop_id: workshopId })),
  people: async (db, workshopId) => countOf(db("people").where({ workshop_id: workshopId })),
  readings: async (db, workshopId) => sumOf(runsOf(db, workshopId), "test_runs.readings"),
  bytes: async (db, workshopId) => {
    const photos = runsOf(db, workshopId).join("test_run_photos as kept", "kept.test_run_id", "test_runs.id");
    const logs = runsOf(db, workshopId)
      .join("test_run_imports", "test_run_imports.test_run_id", "test_runs.id")
      .join("test_run_import_chunks as kept", "kept.import_id", "test_run_imports.id");
    const ofJobs = db("jobs")
      .join("job_photos as kept", "kept.job_id", "jobs.id")
      .where({ "jobs.workshop_id": workshopId });
    const sums = await Promise.all([photos, logs, ofJobs].map((rows) => sumOf(rows, "kept.bytes")));
    return sums.reduce((total, one) => total + one, 0);
  },
};

async function countOf(rows: Knex.QueryBuilder): Promise<number> {
  const [{ n }] = (await rows.count({ n: "*" })) as [{ n: number }];
  return Number(n);
}

async function sumOf(rows: Knex.QueryBuilder, column: string): Promise<number> {
  const [{ n }] = (await rows.sum({ n: column })) as [{ n: number | null }];
  return Number(n ?? 0);
}

/** What a workshop keeps, and the most of each that it may. */
export async function useOf(db: Knex, workshopId: string): Promise<Use> {
  const kinds = Object.keys(QUOTAS) as Kind[];
  const each = await Promise.all(
    kinds.map(async (kind) => [kind, { now: await COUNTS[kind](db, workshopId), most: mostOf(kind) }] as const),
  );
  return Object.fromEntries(each) as Use;
}

/** Refuses (403) what a workshop has no room for: `more` of a kind beside what it keeps. */
export async function needRoom(db: Knex, workshopId: string, kind: Kind, more = 1): Promise<void> {
  const most = mostOf(kind);
  if ((await COUNTS[kind](db, workshopId)) + more <= most) return;
  throw new Refusal(403, say(QUOTAS[kind].full, { most: most / QUOTAS[kind].each }));
}

/** The same for the workshop that a job, or a test run of one, belongs to. */
export async function needRoomFor(
  db: Knex,
  of: { jobId: string } | { testRunId: string },
  kind: Kind,
  more = 1,
): Promise<void> {
  const jobs = db("jobs").select("jobs.workshop_id as workshopId");
  const row = (await ("jobId" in of
    ? jobs.where({ "jobs.id": of.jobId }).first()
    : jobs.join("test_runs", "test_runs.job_id", "jobs.id").where({ "test_runs.id": of.testRunId }).first())) as
    | { workshopId: string }
    | undefined;
  if (row) await needRoom(db, row.workshopId, kind, more);
}
