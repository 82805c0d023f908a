import { describe, expect, it } from "vitest";
import fc from "fast-check";
import { readFileSync } from "node:fs";
import { cases } from "../../../../tests/cases";
import { sensible } from "../../../../tests/sensible-systems";
import { worst } from "../../../../tests/systems";
import { RULE_IDS } from "../judge/rule-ids";
import { assess } from "../verdicts/assess";
import { EXAMPLES } from "./examples";
import { RULES } from "./rules";

describe.each(RULE_IDS)("the rule %s", (id) => {
  const { title, asks, fix, clause } = RULES[id];
  const { breaks, word, meets } = EXAMPLES[id];
  it("is broken by its example, by the word of the example, and tells what to do", () => {
    const check = worst(breaks(), id);
    expect(check?.word).toBe(word);
    expect(check!.fix).toMatch(/^[A-Z].*\.$/);
  });
  it("is met by its other example", () => expect(["Holds", undefined]).toContain(worst(meets(), id)?.word));
  it("has its sentences, a clause for every rule set, and its place on the page for surveyors", () => {
    expect(RULES[id].id).toBe(id);
    expect(title).toMatch(/^[A-Z]/);
    expect([asks, fix].every((text) => /^[A-Z].*\.$/.test(text))).toBe(true);
    for (const one of typeof clause === "string" ? [clause] : Object.values(clause))
      expect(one.length).toBeGreaterThan(3);
    const page = readFileSync("docs/rules.md", "utf8").replace(/\s+/g, " ");
    for (const text of [`### ${title}`, asks, fix, `\`${id}\``]) expect(page).toContain(text.replace(/\s+/g, " "));
  });
});

describe("checks", () => {
  it("of rules that look for things have no margin", () => {
    for (const id of RULE_IDS)
      if (RULES[id].ofThings)
        for (const job of [EXAMPLES[id].breaks(), EXAMPLES[id].meets()])
          for (const { by, form } of Object.values(assess(job).verdicts).flatMap(({ checks }) => checks))
            if (by === id) expect(form).toBe("there");
  });
  it("have keys of their own, in any system", () => {
    fc.assert(
      fc.property(sensible, (job) => {
        const { starts, carries } = assess(job).verdicts;
        for (const { checks } of [starts, carries])
          expect(checks.map(({ key }) => key).filter((key, i, all) => all.indexOf(key) !== i)).toEqual([]);
      }),
      { numRuns: cases(60, 300), seed: 3 },
    );
  });
});
