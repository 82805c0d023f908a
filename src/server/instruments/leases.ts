import type { Knex } from "knex";
import { v4, v7 } from "uuid";
import { beginningOf } from "@/core/units/text";
import type { Source } from "@/contract/test-runs";
import { transaction } from "../database";
import { setSource } from "../test-runs";

/*
 * An instrument is attended by one server at a time. It says so in the database every few seconds; one that has been silent
 * for longer than a lease has lost it to whichever server asks first. Times are the database's, so that servers whose clocks
 * differ agree.
 */

/** How long a server's word holds, s. With the pause between looks an instrument is taken over within 15 s. */
const LEASE_S = 10;

const held = globalThis as { chillbankServer?: string };
/** This process among those that share the database. */
export const serverId = (): string => (held.chillbankServer ??= v4());

const UNTIL = `NOW(3) + INTERVAL ${LEASE_S} SECOND`;

/** Notes a new start of a test run's instrument by this server, whoever attended the one before. Returns the start's id. */
export async function leaseAnew(db: Knex, testRunId: string, source: Source, truth?: unknown): Promise<string> {
  const startId = v7();
  const row = { start_id: startId, server_id: serverId(), until: db.raw(UNTIL), ended: null };
  await transaction(db, async (tx) => {
    await setSource(tx, testRunId, source, truth);
    await tx("instrument_leases")
      .insert({ test_run_id: testRunId, ...row })
      .onConflict("test_run_id")
      .merge(row);
  });
  return startId;
}

/** Takes the lease of an instrument that nobody attends. Returns the id of its start, null where another was sooner. */
export async function takeLease(db: Knex, testRunId: string): Promise<string | null> {
  return transaction(db, async (tx) => {
    // Without a row it ran before there were leases, or was copied in with a record.
    await tx("instrument_leases")
      .insert({ test_run_id: testRunId, start_id: v7(), server_id: null, until: new Date(0), ended: null })
      .onConflict("test_run_id")
      .merge(["test_run_id"]);
    const taken = await tx("instrument_leases")
      .where({ test_run_id: testRunId, ended: null })
      .where("until", "<", tx.raw("NOW(3)"))
      .update({ server_id: serverId(), until: tx.raw(UNTIL) });
    if (taken !== 1) return null;
    const row = (await tx("instrument_leases").where({ test_run_id: testRunId }).first("start_id")) as {
      start_id: string;
    };
    return row.start_id;
  });
}

/** Leases of test runs that are under way with an instrument: not finished, and neither they nor their jobs deleted. */
const underWay = (db: Knex) =>
  db("test_runs")
    .join("jobs", "jobs.id", "test_runs.job_id")
    .leftJoin("instrument_leases", "instrument_leases.test_run_id", "test_runs.id")
    .whereNotNull("test_runs.source")
    .whereNull("test_runs.finished_at")
    .whereNull("test_runs.deleted_at")
    .whereNull("jobs.deleted_at")
    .whereNull("instrument_leases.ended");

/** Says that this server still attends its instruments. Returns the start of each by the id of its test run. */
export async function renewLeases(db: Knex): Promise<Map<string, string>> {
  const server_id = serverId();
  await db("instrument_leases")
    .where({ server_id })
    .update({ until: db.raw(UNTIL) });
  const rows: { id: string; startId: string }[] = await underWay(db)
    .where("instrument_leases.server_id", server_id)
    .select("test_runs.id as id", "instrument_leases.start_id as startId");
  return new Map(rows.map(({ id, startId }) => [id, startId]));
}

/** Test runs under way whose instrument nobody attends. */
export async function unattended(db: Knex, limit = 50): Promise<string[]> {
  const rows: { id: string }[] = await underWay(db)
    .where((lapsed) =>
      lapsed.whereNull("instrument_leases.until").orWhere("instrument_leases.until", "<", db.raw("NOW(3)")),
    )
    .limit(limit)
    .select("test_runs.id as id");
  return rows.map(({ id }) => id);
}

/** Ends a test run's instrument, on whichever server it is attended: that one finds it out at its next look or reading. */
export async function dropLease(db: Knex, testRunId: string): Promise<void> {
  await transaction(db, async (tx) => {
    await setSource(tx, testRunId, null);
    await tx("instrument_leases").where({ test_run_id: testRunId }).delete();
  });
}

/** Notes that an instrument came to its end by itself, and why; an older start than the present one is let be. */
export async function endLease(db: Knex, testRunId: string, startId: string, reason: string): Promise<void> {
  await transaction(db, async (tx) => {
    const ended = await tx("instrument_leases")
      .where({ test_run_id: testRunId, start_id: startId })
      .update({ server_id: null, ended: beginningOf(reason, 200) });
    if (ended === 1) await setSource(tx, testRunId, null);
  });
}

/** Why the last instrument of a test run ended by itself; null where it did not. */
export async function reasonOfEnd(db: Knex, testRunId: string): Promise<string | null> {
  const row = (await db("instrument_leases").where({ test_run_id: testRunId }).first("ended")) as
    | { ended: string | null }
    | undefined;
  return row?.ended ?? null;
}
