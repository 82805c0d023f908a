/*
 * No field that bears on safety is inert: sound systems of every rule set, sized automatically, are spoiled one field at a
 * time, far too small, far too large, of the wrong kind, or missing. Each has to be worse by a check that is about the part or
 * its run. What nobody entered is not spoiled here: it takes the value that the same rules ask for.
 */
import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { cases } from "../../../../tests/cases";
import { sensible } from "../../../../tests/sensible-systems";
import { sizeJob } from "../../applications/sizing/size-system";
import { PART_FIELDS, type PartKey } from "../../document/fields";
import type { Job, Part } from "../../document/schema";
import { assess } from "../verdicts/assess";
import type { FieldSpec } from "../../units/known";
import type { Word } from "../judge/word";

const GRAVITY: Record<Word, number> = { Holds: 0, Tight: 1, Fails: 2, Stop: 3 };
const DATA_SHEET = "of its data sheet: larger is a better part";
const SLACK = "costs volts only, and the drop is judged where it is too much";

/** What is inert with a reason, by kind of part, field and direction; `*` for every kind. */
const EXCEPTIONS: Record<string, string> = {
  "cable areaMm2 large": "more copper carries more",
  "cable length small": "a shorter cable loses less",
  "cable count large": "more copper carries more",
  "cable circuits small": "fewer circuits run together heat each other less",
  "cable conductorC small": SLACK,
  "cable conductorC large": SLACK,
  "cable ampacity large": "of the cable's own data sheet, as entered",
  "* voltage large": DATA_SHEET,
  "* interrupting large": DATA_SHEET,
  "* resistance small": "loses less",
  "fuse resistance large": SLACK,
  "isolator resistance large": SLACK,
  "shunt resistance large": SLACK,
  "joints contacts large": SLACK,
  "joints resistance large": SLACK,
  "cable circuits large": "the smallest cable sold may carry its load in any bundle",
  "cable length large": SLACK,
  "cable count small": "one cable is the least",
  "breaker missing": "where the inverter cannot give more than its cable carries, or the breaker before it protects",
  "rcd residual small": "it opens sooner",
  "joints contacts small": "fewer joints lose less",
  "joints missing": "joints nobody counts lose nothing; millivolts over each are measured in commissioning",
  "shunt missing": "it measures, and protects nothing",
  "connector missing": "it joins, and protects nothing",
  "busbar missing": "it joins, and protects nothing",
  "isolator rating large": DATA_SHEET,
  "shunt rating large": DATA_SHEET,
  "busbar rating large": DATA_SHEET,
  "connector rating large": DATA_SHEET,
  "inlet rating large": DATA_SHEET,
  "changeover rating large": DATA_SHEET,
  "rcd rating large": DATA_SHEET,
};
const excepted = (what: string) => EXCEPTIONS[what] ?? EXCEPTIONS[what.replace(/^\S+/, "*")];

interface Run {
  path: string;
  of(job: Job): Part[];
}

function runsOf(job: Job): Run[] {
  return [
    { path: "wiring.main", of: (one) => one.wiring.main },
    { path: "wiring.mains", of: (one) => one.wiring.mains },
    ...job.wiring.branches.flatMap((_, i): Run[] => [
      { path: `wiring.branches.${i}`, of: (one) => one.wiring.branches[i]!.parts },
      { path: `wiring.branches.${i}`, of: (one) => one.wiring.branches[i]!.far },
    ]),
  ];
}

const checksOf = (job: Job) => {
  const { starts, carries } = assess(job).verdicts;
  return [...starts.checks, ...carries.checks];
};

/** Names of what was spoiled and noticed by nobody. */
function inert(systems: Job[]): Set<string> {
  const silent = new Set<string>();
  for (const job of systems) {
    const { values } = assess(job);
    const before = new Map(checksOf(job).map(({ key, by, word }) => [`${by} ${key}`, GRAVITY[word]]));
    for (const run of runsOf(job))
      run.of(job).forEach((part, k) => {
        const spoil = (what: string, change: (part: Part, list: Part[]) => void) => {
          const copy = structuredClone(job);
          change(run.of(copy)[k]!, run.of(copy));
          const noticed = checksOf(copy).some(
            ({ key, by, word, part: about, run: along, name }) =>
              GRAVITY[word] > (before.get(`${by} ${key}`) ?? 0) &&
              (about?.startsWith(run.path) || along?.startsWith(run.path) || name.includes(part.kind)),
          );
          if (!noticed) silent.add(`${part.kind} ${what}`);
        };
        const group = groupAt(values, run, k);
        for (const [key, spec] of Object.entries(PART_FIELDS[part.kind]) as [PartKey, FieldSpec][]) {
          const value = group[key]?.value;
          if (value === undefined) continue;
          const put = (next: number) => (one: Part) =>
            void Object.assign(one, { [key]: { value: next, origin: "plate" } });
          spoil(`${key} small`, put(Math.max(spec.min, value * 0.02)));
          spoil(`${key} large`, put(Math.min(spec.max, value * 50)));
        }
        spoil("missing", (_, list) => void list.splice(k, 1));
      });
  }
  return silent;
}

function groupAt(values: ReturnType<typeof assess>["values"], run: Run, k: number) {
  const shape = { wiring: values.wiring } as unknown as Job;
  return run.of(shape)[k] as unknown as Partial<Record<PartKey, { value: number }>>;
}

describe("sound systems, one part spoiled at a time", () => {
  const systems = fc.sample(sensible, { numRuns: cases(6, 40), seed: 38 }).map((job) => {
    const { job: sized } = sizeJob(job);
    sized.inverter.neutralBond = "relay";
    return sized;
  });
  it("hold, or are tight, as they are", () => {
    for (const job of systems) expect(["Holds", "Tight"]).toContain(assess(job).verdicts.carries.word);
  });
  it("are worse in every field but those that are listed with a reason", () => {
    const silent = inert(systems);
    expect([...silent].filter((what) => !excepted(what))).toEqual([]);
  });
});
