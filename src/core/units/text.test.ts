import { expect, it } from "vitest";
import { beginningOf } from "./text";

it.each([
  ["short", 10, "short"],
  ["abcdef", 3, "abc"],
  ["ab\u{1F600}cd", 3, "ab"],
  ["ab\u{1F600}cd", 4, "ab\u{1F600}"],
])("the beginning of %j, %i units long, is %j", (text, most, beginning) => {
  expect(beginningOf(text, most)).toBe(beginning);
});
