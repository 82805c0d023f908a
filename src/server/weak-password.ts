import { dictionary } from "@zxcvbn-ts/language-common";
import { say } from "@/core/messages/say";
import { Refusal } from "./refusal";

/** The fifty thousand passwords that were found most often in breaches, as the library ships them. */
const common = new Set((dictionary["passwords-common"] as readonly string[]).map((one) => one.toLowerCase()));

/** A password without the digits and signs around it: `Password2026!` is password. */
const bare = (text: string) => text.toLowerCase().replace(/^[^\p{L}]+|[^\p{L}]+$/gu, "");

/** Longest piece that a password may be a repetition of, characters. */
const LONGEST_PIECE = 8;
/** Whether it is one short piece again and again: `abcabcabcabc`. */
function isRepeated(text: string): boolean {
  for (let length = 1; length <= LONGEST_PIECE; length++)
    if (
      text.length >= 2 * length &&
      text ===
        text
          .slice(0, length)
          .repeat(Math.ceil(text.length / length))
          .slice(0, text.length)
    )
      return true;
  return false;
}

/**
 * Refuses a password that would be guessed among the first: one that breaches are full of, with or without digits and signs
 * around it, one short piece again and again, or a word of whoever it is of (ASVS 4, 2.1.7).
 */
export function refuseWeakPassword(password: string, own: readonly string[]): void {
  const whole = password.toLowerCase();
  const word = bare(password);
  const taken = own.flatMap((text) => [text, text.split("@")[0]!]).map(bare);
  if (common.has(whole) || word === "" || common.has(word) || isRepeated(whole) || taken.includes(word))
    throw new Refusal(400, say("server.people.weakPassword"));
}
