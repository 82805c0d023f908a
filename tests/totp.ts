/* One-time codes by the published algorithm. */
import { createHmac } from "node:crypto";

const BASE32 = "ABCDEFGHIJKLMNOPQRSTUVWXYZ234567";

/** Six digits of a key at a moment, ms (RFC 4226 5.3, RFC 6238 4: SHA-1, 30 s). */
export function digitsAt(key: Buffer, ms: number, digits = 6): string {
  const counter = Buffer.alloc(8);
  counter.writeBigUInt64BE(BigInt(Math.floor(ms / 30_000)));
  const hash = createHmac("sha1", key).update(counter).digest();
  const at = hash.at(-1)! & 15;
  return String((hash.readUInt32BE(at) & 0x7fff_ffff) % 10 ** digits).padStart(digits, "0");
}
/** The key of an authenticator's address, `otpauth://…?secret=`, in base 32 (RFC 4648). */
export function keyOf(address: string): Buffer {
  const bits = [...new URL(address).searchParams.get("secret")!.replace(/=+$/, "")]
    .map((letter) => BASE32.indexOf(letter).toString(2).padStart(5, "0"))
    .join("");
  return Buffer.from(bits.match(/.{8}/g)!.map((byte) => parseInt(byte, 2)));
}
