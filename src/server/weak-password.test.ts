import { expect, it } from "vitest";
import { refuseWeakPassword } from "./weak-password";

const OWN = ["Mara Quill", "mara.quill@tern.invalid"];

it.each([
  ["one of breaches", "1qaz2wsx3edc"],
  ["one of breaches in capitals, with a year and a sign", "!Password2026!"],
  ["digits and signs alone", "2026-11-29 12:00"],
  ["one letter", "aaaaaaaaaaaaaa"],
  ["a short piece again and again", "ternternternter"],
  ["the person's name", "Mara Quill 1987"],
  ["what stands before the @ of the e-mail address", "mara.quill.77"],
])("a password that is %s is refused", (_, password) => {
  expect(() => refuseWeakPassword(password, OWN)).toThrow(/guessed among the first/);
});
it.each(["four ducks on the slipway", "Kz7#pwv2Lq9!mr", "quill mast gravel otter"])("%s is taken", (password) => {
  expect(() => refuseWeakPassword(password, OWN)).not.toThrow();
});
