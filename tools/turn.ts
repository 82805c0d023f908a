/*
 * Work that one server does at a time, of all that share a database. Not by GET_LOCK, which a cluster does not have: by a
 * row that its holder renews, and that runs out some seconds after a holder was killed.
 */
import type { Knex } from "knex";
import { v4 as uuid } from "uuid";
import { transaction } from "../src/server/database";

const HELD_S = 20;
const RENEWED_MS = 5000;
const ASKED_AGAIN_MS = 500;

/** Takes the turn where nobody has it. */
async function take(db: Knex, name: string, holder: string): Promise<boolean> {
  return transaction(db, async (tx) => {
    await tx.raw(
      "INSERT INTO turns (name, holder, until) VALUES (?, '', FROM_UNIXTIME(1)) ON DUPLICATE KEY UPDATE name = name",
      [name],
    );
    const taken = await tx("turns")
      .where({ name })
      .where("until", "<", tx.raw("NOW(3)"))
      .update({ holder, until: tx.raw(`NOW(3) + INTERVAL ${HELD_S} SECOND`) });
    return taken === 1;
  });
}

/**
 * Does `work` once nobody else has the turn of that name, waiting up to `waitS` seconds for it. Returns what the work returned,
 * or null where others had the turn all the time.
 */
export async function inTurn<T>(db: Knex, name: string, waitS: number, work: () => Promise<T>): Promise<T | null> {
  await db.raw(
    "CREATE TABLE IF NOT EXISTS turns (name VARCHAR(64) PRIMARY KEY, holder VARCHAR(36) NOT NULL, until DATETIME(3) NOT NULL)",
  );
  const holder = uuid();
  for (const before = Date.now() + 1000 * waitS; !(await take(db, name, holder));) {
    if (Date.now() >= before) return null;
    await new Promise((resolve) => setTimeout(resolve, ASKED_AGAIN_MS));
  }
  const own = () => db("turns").where({ name, holder });
  const renewing = setInterval(
    () =>
      void own()
        .update({ until: db.raw(`NOW(3) + INTERVAL ${HELD_S} SECOND`) })
        // Asked again in five seconds; three in a row may go wrong.
        .catch(() => undefined),
    RENEWED_MS,
  );
  try {
    return await work();
  } finally {
    clearInterval(renewing);
    await own().delete();
  }
}
