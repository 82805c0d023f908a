import { expect, it } from "vitest";
import { refuseWeakPassword } from "./weak-password";

const OWN = ["Mara Quill", "mara.quill@tern.invalid", "Slipway Electrics"];

it.each([
  ["one of breaches", "1qaz2wsx3edc"],
  ["one of breaches in capitals, with a year and a sign", "!Password2026!"],
  ["digits and signs alone", "2026-11-29 12:00"],
  ["one letter", "aaaaaaaaaaaaaa"],
  ["a short piece again and again", "ternternternter"],
  ["the person's name", "Mara Quill 1987"],
  ["the person's name with a word that everybody takes", "MaraSummer2024"],
  ["the workshop's name and a year", "Slipway2026!!"],
  ["the workshop's whole name", "slipway-electrics"],
  ["the workshop's name with signs for letters", "5l1pw4y 3l3ctr1cs"],
  ["the product's name", "chillbank2026"],
  ["the product's name with a word", "My-Chillbank-2026"],
  ["a year and a season", "Summer 2026 !!"],
  ["a famous phrase", "Correct horse battery staple"],
  ["a famous phrase with signs for letters", "0nce up0n a t1me"],
  ["a row of keys", "QWERTYUIOP[]12"],
  ["what stands before the @ of the e-mail address", "mara.quill.77"],
])("a password that is %s is refused", (_, password) => {
  expect(() => refuseWeakPassword(password, OWN)).toThrow(/guessed among the first/);
});
it.each([
  "four ducks on the slipway",
  "mara counts gravel",
  "Slipway otter lamp 9",
  "Kz7#pwv2Lq9!mr",
  "quill mast gravel otter",
])("%s is taken", (password) => {
  expect(() => refuseWeakPassword(password, OWN)).not.toThrow();
});
