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

/** Signs that stand for letters in words that are to look like none. */
const STANDS_FOR: Readonly<Record<string, string>> = {
  "@": "a",
  "4": "a",
  "3": "e",
  "1": "i",
  "!": "i",
  "0": "o",
  $: "s",
  "5": "s",
  "7": "t",
};
const lettersOf = (text: string) => text.toLowerCase().replace(/[^\p{L}]/gu, "");
/** Letters alone, and with signs read as the letters that they stand for. */
const spelled = (text: string) => [
  lettersOf(text),
  lettersOf(text.toLowerCase().replace(/[@43!10$57]/g, (sign) => STANDS_FOR[sign]!)),
];

/** The name that everybody here knows. */
const PRODUCT = ["chillbank"];
/** Sayings, rows of keys and examples of good passwords: those who guess begin with them (common practice, no source). */
const FAMOUS = [
  ...["correcthorsebatterystaple", "tobeornottobe", "thatisthequestion", "thequickbrownfox", "jumpsoverthelazydog"],
  ...["maytheforcebewithyou", "onceuponatime", "inthebeginning", "itwasthebestoftimes", "itwasadarkandstormynight"],
  ...["winteriscoming", "toinfinityandbeyond", "nevergonnagiveyouup", "letmeinplease", "opensesame", "carpediem"],
  ...["thisismypassword", "mypasswordis", "whatsmypassword", "iforgotmypassword", "changemenow", "changethispassword"],
  ...[
    "iloveyousomuch",
    "iloveyouforever",
    "helloworld",
    "goodmorning",
    "happybirthday",
    "merrychristmas",
    "allyouneedislove",
  ],
  ...[
    "onetwothreefour",
    "abcdefghijklmnopqrstuvwxyz",
    "qwertyuiop",
    "asdfghjkl",
    "zxcvbnm",
    "qwertzuiop",
    "azertyuiop",
  ],
  ...["homesweethome", "practicemakesperfect", "betterlatethannever", "timeismoney", "knowledgeispower", "trustnoone"],
];
/** Letters that have to be left of a password once what everybody knows is taken out of it. */
const LEAST_OF_ITS_OWN = 8;
const SHORTEST_WORD = 3;

/** What is left of a password's letters without the words that everybody knows, the longest first. */
function without(letters: string, known: readonly string[]): string {
  return known.toSorted((a, b) => b.length - a.length).reduce((left, word) => left.replaceAll(word, ""), letters);
}

/** Words that somebody who knows the person and the workshop would try: whole names and each of their words. */
const wordsOf = (own: readonly string[]): string[] =>
  [...own, ...own.flatMap((text) => text.split("@")[0]!.split(/[^\p{L}]+/u)), ...PRODUCT]
    .map(lettersOf)
    .filter((word) => word.length >= SHORTEST_WORD);

/** Whether a password has too little that is not known: digits and signs alone, one common word beside names and years. */
function isKnown(password: string, own: readonly string[]): boolean {
  const words = [...wordsOf(own), ...FAMOUS];
  return spelled(password).some((letters) => {
    const left = without(letters, words);
    return common.has(letters) || common.has(left) || (left !== letters && left.length < LEAST_OF_ITS_OWN);
  });
}

/**
 * Refuses a password that would be guessed among the first: one that breaches are full of, with or without digits and signs
 * around it or for letters in it, one short piece again and again, a famous phrase, or the names of the person, of their
 * workshop or of this application with little beside them (ASVS 4, 2.1.7).
 */
export function refuseWeakPassword(password: string, own: readonly string[]): void {
  const whole = password.toLowerCase();
  const word = bare(password);
  if (common.has(whole) || word === "" || common.has(word) || isRepeated(whole) || isKnown(password, own))
    throw new Refusal(400, say("server.people.weakPassword"));
}
