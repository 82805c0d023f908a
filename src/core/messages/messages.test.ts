/* Every sentence of the catalogue in every state: whole, without leftovers, and ended as a sentence is. */
import { IntlMessageFormat } from "intl-messageformat";
import { describe, expect, it } from "vitest";
import { GLOSSARY } from "./glossary";
import { MESSAGES, type MessageKey } from "./messages";
import { say } from "./say";

interface Element {
  type: number;
  value: unknown;
  options?: Record<string, { value: Element[] }>;
}
/** What arguments take in a sentence, by name; times, spans and shares as the application writes them. */
const SAMPLE: Record<string, string | number> = {
  night: 3,
  day: 2,
  days: 14,
  time: "02:21",
  from: "21:00",
  span: "5 h 21",
  place: "Faro",
  month: "July",
  kind: "own",
  residualName: "RCD",
  earth: "earth",
  example: ", such as 80 %",
};
/** All ways to fill a message: each branch of each of its choices. */
function states(elements: Element[]): Record<string, string | number>[] {
  let all: Record<string, string | number>[] = [{}];
  const visit = (list: Element[]) => {
    for (const { type, value, options } of list) {
      const name = String(value);
      if (type === 1) all = all.map((one) => ({ [name]: SAMPLE[name] ?? "20 %", ...one }));
      if (!options) continue;
      const branches =
        type === 6
          ? [1, 2, 3, 4, 11, 21]
          : Object.keys(options).map((key) => (key === "other" ? (SAMPLE[name] ?? key) : key));
      all = all.flatMap((one) => branches.map((branch) => ({ ...one, [name]: branch })));
      for (const { value: inner } of Object.values(options)) visit(inner);
    }
  };
  visit(elements);
  return all;
}
const spokenAs = say as (key: MessageKey, values: Record<string, string | number>) => string;
const keys = Object.keys(MESSAGES) as MessageKey[];
const spoken = keys.flatMap((key) =>
  states(new IntlMessageFormat(MESSAGES[key], "en").getAst() as unknown as Element[]).map(
    (state) => [key, spokenAs(key, state)] as const,
  ),
);

describe("the catalogue", () => {
  it("has some hundreds of sentences, all states counted", () => {
    expect(spoken.length).toBeGreaterThan(400);
  });
  it.each(spoken)("%s: %s", (key, sentence) => {
    expect(sentence).not.toMatch(/[{}#]|undefined| {2}| [.,:;]|\.\.$/);
    expect(sentence.charAt(0)).toMatch(/[A-Z0-9“]/);
    // Labels and lines beside a figure have no full stop, sentences have one.
    const label =
      key === "interface.loading" ||
      /^(lasts|recovers)\.\w+\.short$|^recovers\.short\.|^conditions|^place\.choose$/.test(key);
    expect(sentence).toMatch(label ? /[^.]$/ : /[.:?]$/);
  });
  it("throws where a value is missing", () => {
    expect(() => spokenAs("lasts.reserve", {})).toThrow();
  });
});

it("the glossary is in order, each term once, each in a sentence", () => {
  const terms = GLOSSARY.map(([term]) => term);
  expect(terms).toEqual([...terms].sort((a, b) => a.localeCompare(b)));
  expect(new Set(terms).size).toBe(terms.length);
  for (const [, meaning] of GLOSSARY) expect(meaning).toMatch(/^[A-Z].+\.$/);
});
