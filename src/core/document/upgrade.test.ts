/* What was entered into a job of an older version is there after its upgrade: keys may have other names, values may not vanish. */
import { readFileSync } from "node:fs";
import { describe, expect, it } from "vitest";
import { readJob, type Job } from "./schema";

type Loose = Record<string, unknown>;
const isRecord = (value: unknown): value is Loose => typeof value === "object" && value !== null;

/** Keys that have another name since, and the names that they have had. */
const NOW: Record<string, string> = {
  fuseRating: "rating",
  fuseVoltage: "voltage",
  fuseInterrupting: "interrupting",
  fuseResistance: "resistance",
  cableAreaMm2: "areaMm2",
  cableLength: "length",
  cableCount: "count",
  contactResistance: "resistance",
  switchResistance: "resistance",
  outdoorC: "highestC",
  share: "dutyCycle",
  runShare: "dutyCycle",
  sensibleShare: "sensibleHeatRatio",
  startShare: "startSoc",
};

/** Every quantity in a document, as "key value origin", how often it stands there. */
function entered(document: unknown): Map<string, number> {
  const found = new Map<string, number>();
  const walk = (value: unknown, key: string) => {
    if (Array.isArray(value)) return value.forEach((one) => walk(one, key));
    if (!isRecord(value)) return;
    if ("value" in value && "origin" in value) {
      const said = `${NOW[key] ?? key} ${String(value.value)} ${String(value.origin)}`;
      found.set(said, (found.get(said) ?? 0) + 1);
      return;
    }
    for (const [inner, one] of Object.entries(value)) walk(one, inner);
  };
  walk(document, "");
  return found;
}

function upgraded(old: unknown): Job {
  const read = readJob(old);
  if (!read.ok) throw new Error(JSON.stringify(read).slice(0, 300));
  return read.job;
}

const vanished = (old: unknown): string[] => {
  const now = entered(upgraded(old));
  return [...entered(old)].filter(([said, times]) => (now.get(said) ?? 0) < times).map(([said]) => said);
};

const older = readFileSync("tests/older/documents.jsonl", "utf8")
  .trim()
  .split("\n")
  .map((line) => JSON.parse(line) as Loose);

describe("the demo's jobs of older versions", () => {
  it("are of every version that a job may be of, but the fourth, which the third passes through", () =>
    expect([...new Set(older.map(({ version }) => version))]).toEqual([1, 2, 3, 5, 6, 7]));
  it.each(older.map((old) => [String(old.version), String(old.name), old] as const))(
    "of version %s, %s, keep every value that was entered",
    (_, __, old) => expect(vanished(old)).toEqual([]),
  );
});

describe("what the demo has not", () => {
  const spoilt = (version: number, change: (old: Loose) => void): Loose => {
    const old = structuredClone(older.find((one) => one.version === version)!);
    change(old);
    return old;
  };
  const hot = { value: 41, origin: "measured" };
  it.each([
    [
      "an outdoor temperature beside generated weather",
      spoilt(5, (old) => {
        (old.brief as Loose).outdoorC = hot;
        (old.weather as Loose).kind = "generated";
      }),
    ],
    [
      "an outdoor temperature of before there was weather",
      spoilt(2, (old) => void ((old.brief as Loose).outdoorC = hot)),
    ],
    [
      "the resistance of a fuse at the engine's end",
      spoilt(3, (old) => {
        const branches = ((old.path as Loose).branches as Loose[]).filter(({ role }) => role === "engine");
        for (const { parts } of branches)
          for (const part of parts as Loose[])
            if (part.kind === "fuse") part.resistance = { value: 0.0004, origin: "measured" };
      }),
    ],
    [
      "resistances of switch, joints and fuse of the first version",
      spoilt(1, (old) => {
        Object.assign(old.path as Loose, {
          switchResistance: { value: 0.0003, origin: "measured" },
          contactResistance: { value: 0.0001, origin: "measured" },
          fuseResistance: { value: 0.0002, origin: "measured" },
        });
      }),
    ],
  ])("%s is kept as well", (_, old) => expect(vanished(old)).toEqual([]));
});
