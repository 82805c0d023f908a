/*
 * A workshop's record in one file: a consistent dump of its database, photos and original files in it, packed, behind a line
 * with its length, its SHA-256 and a signature of both by the installation's key. What does not match that line, or was signed by
 * another key, is not restored.
 */
import { spawn } from "node:child_process";
import { createHash, createHmac, timingSafeEqual } from "node:crypto";
import { once } from "node:events";
import { createReadStream, createWriteStream } from "node:fs";
import { open, rename, rm, stat } from "node:fs/promises";
import { pipeline } from "node:stream/promises";
import { createGzip } from "node:zlib";
import { connectionOf } from "../src/server/connection-of";
import { backupKey } from "./backup-key";

const FORMAT = "chillbank-backup";
const VERSION = 2;
/** The first line, filled with blanks to this length: the payload begins where it ends. */
export const HEAD_BYTES = 160;

/** Why a backup is not restored: said to whoever asked for it. */
export class NotRestored extends Error {}

/** The first line without its signature, which is over it. */
const told = (bytes: number, sha256: string) => `${FORMAT} ${VERSION} ${bytes} ${sha256}`;
const signatureOf = (line: string) => createHmac("sha256", backupKey()).update(line).digest("base64url");

/** How the dump program reaches a database; the password goes by the environment, where no other user reads it. */
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

/** Waits for the dump to end; throws what it said where it failed. */
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
    const line = told(bytes, hash.digest("base64url"));
    const signed = `${line} ${signatureOf(line)}`.padEnd(HEAD_BYTES - 1) + "\n";
    const whole = await open(part, "r+");
    await whole.write(signed, 0);
    await whole.sync();
    await whole.close();
    await rename(part, file);
    return HEAD_BYTES + bytes;
  } finally {
    await rm(part, { force: true });
  }
}

/** SHA-256 of what stands behind the first line. */
async function sumOf(file: string, as: "hex" | "base64url"): Promise<string> {
  const hash = createHash("sha256");
  for await (const piece of createReadStream(file, { start: HEAD_BYTES })) hash.update(piece as Buffer);
  return hash.digest(as);
}

const sameText = (one: string, other: string) =>
  one.length === other.length && timingSafeEqual(Buffer.from(one), Buffer.from(other));

/**
 * Holds a backup against its first line. One of version 1 was not signed: it is taken where somebody says so (`unsigned`).
 * Throws `NotRestored`.
 */
export async function checkBackup(file: string, { unsigned = false } = {}): Promise<void> {
  const handle = await open(file, "r").catch(() => {
    throw new NotRestored(`${file} cannot be read.`);
  });
  const head = Buffer.alloc(HEAD_BYTES);
  const { bytesRead } = await handle.read(head, 0, HEAD_BYTES, 0);
  await handle.close();
  const [format, version, bytes, sum = "", signature = ""] = head.toString("latin1", 0, bytesRead).trim().split(" ");
  if (format !== FORMAT) throw new NotRestored(`${file} is not a backup of Chillbank.`);
  if (Number(version) > VERSION) throw new NotRestored(`${file} was made by a newer Chillbank (version ${version}).`);
  const signed = version === String(VERSION);
  if (!signed && !unsigned)
    throw new NotRestored(
      `${file} is of a Chillbank that did not sign its backups. If it was always in your own hands, restore it with --unsigned.`,
    );
  if ((await stat(file)).size !== HEAD_BYTES + Number(bytes))
    throw new NotRestored(`${file} is cut off, or something was added to it.`);
  if ((await sumOf(file, signed ? "base64url" : "hex")) !== sum)
    throw new NotRestored(`${file} is damaged: its checksum does not match.`);
  if (signed && !sameText(signature, signatureOf(told(Number(bytes), sum))))
    throw new NotRestored(
      `${file} was signed by another key. Set CHILLBANK_SECRET or CHILLBANK_BACKUP_PASSPHRASE to what it was made with.`,
    );
}
