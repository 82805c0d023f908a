import { randomBytes } from "node:crypto";
import { readFileSync, writeFileSync } from "node:fs";

/** A secret that is kept in a file only its owner may read; made where there is none. */
export function keptSecret(file: string): string {
  try {
    return readFileSync(file, "utf8").trim();
  } catch {
    const secret = randomBytes(32).toString("base64url");
    writeFileSync(file, `${secret}\n`, { mode: 0o600 });
    return secret;
  }
}
