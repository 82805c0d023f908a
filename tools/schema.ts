import { mkdirSync, readdirSync, readFileSync } from "node:fs";
import { join } from "node:path";
import { migrationSource } from "../db/migrations/index";
import { connect } from "../src/server/database";
import type { Knex } from "knex";
import { momentOf } from "../src/core/units/clock";
import { timeZoneOfJob } from "../src/core/document/place";
import { readJobText, type Job } from "../src/core/document/schema";
import { fromList } from "../src/core/applications/test-run/log/readings";
import { kindOfJob } from "../src/core/applications/test-run/report/record";
import { makeSimulator, type FaultKey } from "../src/core/applications/test-run/simulator/simulator";
import { forecastSnapshots, viewOf } from "../src/core/applications/test-run/report/view";
import { hashPassword } from "better-auth/crypto";
import { ROLE_KEYS, type Role } from "../src/contract/people";
import { createPerson, createWorkshop } from "../src/server/people";
import { demoEmail } from "../src/contract/people";
import { createJob, refreshSummaries } from "../src/server/jobs";
import { workOut } from "../src/server/verdict-queue";
import { backup } from "./backup";
import { inTurn } from "./turn";
import { idOfTold } from "../src/server/instruments/running";
import { addReadings, changeTestRun, createTestRun } from "../src/server/test-runs";

const DEMO = join(import.meta.dirname, "../db/demo");

/** A migration of a large table may take minutes. */
const PATIENT = { longestStatementS: 0 };

/** Longest that a server waits while another brings the schema up to date, s. */
const MIGRATION_WAIT_S = 1800;

/** Folder of backups: the one that is set, or one beside the data of bin/demo. */
export const BACKUPS = (): string => process.env.CHILLBANK_BACKUPS ?? join(import.meta.dirname, "../.local/backups");
export const BEFORE_UPGRADE = "before-upgrade";
/** Name of a backup of this moment. */
export const stamped = (what: string): string =>
  `${what}-${new Date().toISOString().slice(0, 19).replaceAll(":", "")}.backup`;

/** Writes a backup of a database whose schema is about to be changed. Returns its file; null where nothing would change, or nothing is there. */
async function backupBefore(db: Knex, url: string, folder: string): Promise<string | null> {
  const [done, toCome] = (await db.migrate.list({ migrationSource })) as [unknown[], { name?: string }[]];
  if (done.length === 0 || toCome.length === 0) return null;
  mkdirSync(folder, { recursive: true, mode: 0o700 });
  const file = join(folder, stamped(BEFORE_UPGRADE));
  await backup(url, file);
  return file;
}

/**
 * Brings the schema of a database up to date and stored verdicts with it. Of servers that start together one does it and the
 * others wait; what one left half done when it was killed is done again. Where `backups` names a folder, a backup of what is
 * there is written first; without it nothing is changed. Returns its file, or null where none was needed.
 */
export async function migrate(url: string, { backups = null as string | null } = {}): Promise<string | null> {
  const db = connect(url, PATIENT);
  try {
    let file: string | null = null;
    const done = await inTurn(db, "schema", MIGRATION_WAIT_S, async () => {
      file = backups && (await backupBefore(db, url, backups));
      // Nobody else is at it: a mark that says so was left by one that was killed.
      await db.migrate.forceFreeMigrationsLock({ migrationSource });
      await db.migrate.latest({ migrationSource });
      await refreshSummaries(db);
      return true;
    });
    if (!done) throw new Error("another server has been changing the schema for half an hour");
    return file;
  } finally {
    await db.destroy();
  }
}

/** Names of the demo's people by role: invented, as all of the demo is. */
const DEMO_PEOPLE: Record<Role, string> = { owner: "Mara Quill", installer: "Tobin Ashe", apprentice: "Wren Halloway" };

/** The demo's workshop with one person of each role, who sign in with `password`. Returns its id. */
async function seedPeople(db: Knex, password: string): Promise<string> {
  const standing = (await db("workshops").orderBy("created_at").first("id")) as { id: string } | undefined;
  const workshopId = standing?.id ?? (await createWorkshop(db, "Tern Lane Fitting"));
  for (const role of ROLE_KEYS) {
    const email = demoEmail(role);
    const there = (await db("people").where({ email }).first("id")) as { id: string } | undefined;
    if (there)
      await db("credentials")
        .where({ person_id: there.id })
        .update({ password: await hashPassword(password) });
    else await createPerson(db, workshopId, { name: DEMO_PEOPLE[role], email, password, role });
  }
  return workshopId;
}

/** The demo's jobs, last first: each has its place in the list by when it was made. */
const demoFiles = () =>
  readdirSync(DEMO)
    .filter((file) => file.endsWith(".json"))
    .sort()
    .reverse();

/** Puts the demo's people into a database, and its jobs, or those in `files`, into one that has never held a job. */
export async function seedDemo(url: string, password: string, files = demoFiles()): Promise<void> {
  const db = connect(url);
  try {
    const workshopId = await seedPeople(db, password);
    if (await db("jobs").first("id")) return;
    const author = { workshopId, personId: null, name: DEMO_PEOPLE.owner };
    for (const [index, file] of files.entries()) {
      const read = readJobText(readFileSync(join(DEMO, file), "utf8"));
      if (!read.ok) throw new Error(`${file}: ${read.faults[0]?.path} ${read.faults[0]?.message}`);
      // A minute between them gives the list a settled order.
      const { id } = await createJob(db, author, read.job, {
        now: new Date(Date.now() - (files.length - index) * 60_000),
      });
      await seedTestRuns(db, file, id, read.job);
      await workOut(db, id);
    }
  } finally {
    await db.destroy();
  }
}

interface DemoTestRun {
  name: string;
  /** Local hour that it began at, on the fourteenth of the job's month. */
  hour: number;
  seed: number;
  faults: FaultKey[];
  startSoc: number;
  /** Minutes that are there already; Infinity for all of it. */
  minutes: number;
  /** Goes on by itself, so many times as fast. */
  speed: number | null;
}

/** One finished, one under way, one with a wrong monitor: all from the simulator. */
const DEMO_TEST_RUNS: Record<string, DemoTestRun> = {
  "6-levain.json": {
    name: "Before the bake",
    hour: 17,
    seed: 4,
    faults: [],
    startSoc: 0.4,
    minutes: Infinity,
    speed: null,
  },
  "1-folio.json": {
    name: "New soft starter",
    hour: 19,
    seed: 11,
    faults: ["unlearned-soft-starter"],
    startSoc: 0.46,
    minutes: 75,
    // At its reserve in some twenty minutes, and over in an hour and more.
    speed: 10,
  },
  "5-lora.json": {
    name: "Test run 1",
    hour: 13,
    seed: 8,
    faults: ["wrong-monitor"],
    startSoc: 0.9,
    minutes: 200,
    speed: null,
  },
};

/** Hours that a whole log goes on after the true reserve: charge that is counted from it may be a few percent off. */
const PAST_RESERVE_H = 2.5;

async function seedTestRuns(db: Knex, file: string, jobId: string, job: Job): Promise<void> {
  const demo = DEMO_TEST_RUNS[file];
  if (!demo) return;
  const zone = timeZoneOfJob(job);
  const now = new Date();
  const month = job.brief.month ?? 8;
  const year = now.getUTCFullYear() - (month > now.getUTCMonth() ? 1 : 0);
  const startedMs = momentOf(zone, year, month, 14, demo.hour * 60);
  const { seed, faults, startSoc } = demo;
  const setup = { seed, faults, startSoc, every: 10 };
  const simulator = makeSimulator(job, setup, startedMs);
  const until = startedMs + demo.minutes * 60_000;
  const end = simulator.truth.hoursToReserve;
  const readings = simulator.readings.filter(({ timeMs }) =>
    demo.minutes === Infinity
      ? end === null || timeMs <= startedMs + (end + PAST_RESERVE_H) * 3_600_000
      : timeMs <= until,
  );
  const id = await createTestRun(db, {
    jobId,
    name: demo.name,
    kind: kindOfJob(job),
    startedMs,
    source: demo.speed === null ? null : { kind: "simulator", ...setup, speed: demo.speed },
    truth: simulator.truth,
  });
  await addReadings(
    db,
    id,
    // The ids that its instrument gives: taken up again, it tells some of them once more.
    readings.map((reading) => ({ id: idOfTold(id, reading), ...reading })),
  );
  if (demo.minutes === Infinity) {
    const log = fromList(readings);
    const made = viewOf(job, log, { particles: 200 });
    await changeTestRun(db, id, {
      finished: true,
      snapshots: forecastSnapshots(job, log, { particles: 200 }),
      outcome: made?.answer.ok ? made.answer.view.outcome : null,
    });
  }
}
