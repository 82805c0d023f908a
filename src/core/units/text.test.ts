import { expect, it } from "vitest";
import { beginningOf, wrapText } from "./text";

it.each([
  ["short", 10, "short"],
  ["abcdef", 3, "abc"],
  ["ab\u{1F600}cd", 3, "ab"],
  ["ab\u{1F600}cd", 4, "ab\u{1F600}"],
])("the beginning of %j, %i units long, is %j", (text, most, beginning) => {
  expect(beginningOf(text, most)).toBe(beginning);
});

it.each<[string, number, number, string[]]>([
  ["Small roof unit", 18, 3, ["Small roof unit"]],
  ["Rear bedroom roof unit", 16, 3, ["Rear bedroom", "roof unit"]],
  ["one two three four", 9, 2, ["one two", "three fo…"]],
  ["Refrigerationequipment", 10, 3, ["Refrigera…"]],
])("%j in lines of %i letters, %i of them at most, is %j", (text, most, rows, lines) => {
  expect(wrapText(text, most, rows)).toEqual(lines);
});
