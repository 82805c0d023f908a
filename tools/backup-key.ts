import { hkdfSync, scryptSync } from "node:crypto";
import { join } from "node:path";
import { keptSecret } from "./secrets";

const SALT = "chillbank backup";
let made: { of: string; key: Buffer } | null = null;

/**
 * The key that backups are signed with: of `CHILLBANK_BACKUP_PASSPHRASE` where it is set, so that another installation may read
 * them; else of the installation's secret.
 */
export function backupKey(): Buffer {
  const passphrase = process.env.CHILLBANK_BACKUP_PASSPHRASE;
  const of =
    passphrase ?? process.env.CHILLBANK_SECRET ?? keptSecret(join(import.meta.dirname, "../.local/session.secret"));
  if (made?.of === of) return made.key;
  const key = passphrase
    ? scryptSync(passphrase, SALT, 32)
    : Buffer.from(hkdfSync("sha256", of, SALT, "signature", 32));
  made = { of, key };
  return key;
}
