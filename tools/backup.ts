/*
 * A workshop's record in one file: a consistent dump of its database, photos and original files in it, packed, behind a line
 * with its length and SHA-256. What does not match that line is not restored.
 */
import { spawn } from "node:child_process";
import { createHash } from "node:crypto";
import { once } from "node:events";
import { createReadStream, createWriteStream } from "node:fs";
import { open, rename, rm, stat } from "node:fs/promises";
import { pipeline } from "node:stream/promises";
import { createGunzip, createGzip } from "node:zlib";
import { connectionOf } from "../src/server/connection-of";
import { connect } from "../src/server/database";

const FORMAT = "chillbank-backup";
const VERSION = 1;
/** The first line, filled with blanks to this length: the payload begins where it ends. */
const HEAD_BYTES = 160;

/** Why a backup is not restored: said to whoever asked for it. */
export class NotRestored extends Error {}

/** How the client programs reach a database; the password goes by the environment, where no other user reads it. */
function clientOf(url: string): { args: string[]; name: string; env: NodeJS.ProcessEnv } {
  const { host, port, user, password, database } = connectionOf(url);
  return {
    args: [
      "--no-defaults",
      "--protocol=tcp",
      `--host=${host}`,
      `--port=${port}`,
      `--user=${user}`,
      "--default-character-set=utf8mb4",
    ],
    name: database,
    env: { ...process.env, MYSQL_PWD: password },
  };
}

/** Runs a client program to its end; throws what it said where it failed. */
async function ended(child: ReturnType<typeof spawn>): Promise<void> {
  let said = "";
  child.stderr?.on("data", (chunk: Buffer) => (said = (said + chunk.toString()).slice(-2000)));
  const [code] = (await once(child, "close")) as [number | null];
  if (code !== 0) throw new Error(`${child.spawnfile} ended with ${code}: ${said.trim()}`);
}

/** Writes a backup of a database that may go on being used; the file is there whole or not at all. Returns its bytes. */
export async function backup(url: string, file: string): Promise<number> {
  const { args, name, env } = clientOf(url);
  const part = `${file}.part`;
  try {
    const dump = spawn(
      "mariadb-dump",
      [...args, "--single-transaction", "--quick", "--hex-blob", "--skip-comments", name],
      {
        env,
        stdio: ["ignore", "pipe", "pipe"],
      },
    );
    const head = await open(part, "w", 0o600);
    await head.write(Buffer.alloc(HEAD_BYTES, " "));
    await head.close();
    const hash = createHash("sha256");
    let bytes = 0;
    await Promise.all([
      ended(dump),
      pipeline(
        dump.stdout,
        createGzip(),
        async function* (pieces: AsyncIterable<Buffer>) {
          for await (const piece of pieces) {
            hash.update(piece);
            bytes += piece.length;
            yield piece;
          }
        },
        createWriteStream(part, { flags: "r+", start: HEAD_BYTES }),
      ),
    ]);
    const line = `${FORMAT} ${VERSION} ${bytes} ${hash.digest("hex")}`.padEnd(HEAD_BYTES - 1) + "\n";
    const whole = await open(part, "r+");
    await whole.write(line, 0);
    await whole.sync();
    await whole.close();
    await rename(part, file);
    return HEAD_BYTES + bytes;
  } finally {
    await rm(part, { force: true });
  }
}

/** Holds a backup against its first line. Throws `NotRestored`. */
export async function checkBackup(file: string): Promise<void> {
  const handle = await open(file, "r").catch(() => {
    throw new NotRestored(`${file} cannot be read.`);
  });
  const head = Buffer.alloc(HEAD_BYTES);
  const { bytesRead } = await handle.read(head, 0, HEAD_BYTES, 0);
  await handle.close();
  const [format, version, bytes, sha256] = head.toString("latin1", 0, bytesRead).trim().split(" ");
  if (format !== FORMAT) throw new NotRestored(`${file} is not a backup of Chillbank.`);
  if (version !== String(VERSION)) throw new NotRestored(`${file} was made by a newer Chillbank (version ${version}).`);
  if ((await stat(file)).size !== HEAD_BYTES + Number(bytes))
    throw new NotRestored(`${file} is cut off, or something was added to it.`);
  const hash = createHash("sha256");
  for await (const piece of createReadStream(file, { start: HEAD_BYTES })) hash.update(piece as Buffer);
  if (hash.digest("hex") !== sha256) throw new NotRestored(`${file} is damaged: its checksum does not match.`);
}

/** Restores a backup into a database that holds no job; nothing is written where the backup is damaged. Throws `NotRestored`. */
export async function restore(url: string, file: string): Promise<void> {
  await checkBackup(file);
  const db = connect(url);
  try {
    const filled = (await db.schema.hasTable("jobs")) && (await db("jobs").first("id"));
    if (filled) throw new NotRestored("The database holds jobs already: restore into an empty one.");
    // A schema of another version would stay beside what is restored.
    const [tables] = (await db.raw("SHOW TABLES")) as [Record<string, string>[]];
    await db.transaction(async (tx) => {
      await tx.raw("SET FOREIGN_KEY_CHECKS = 0");
      for (const row of tables) await tx.raw("DROP TABLE ??", [Object.values(row)[0]!]);
      await tx.raw("SET FOREIGN_KEY_CHECKS = 1");
    });
  } finally {
    await db.destroy();
  }
  const { args, name, env } = clientOf(url);
  const client = spawn("mariadb", [...args, "--max-allowed-packet=1G", name], {
    env,
    stdio: ["pipe", "ignore", "pipe"],
  });
  await Promise.all([
    ended(client),
    pipeline(createReadStream(file, { start: HEAD_BYTES }), createGunzip(), client.stdin),
  ]);
}
