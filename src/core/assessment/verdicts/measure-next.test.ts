/* What the ranking leaves out to be quick has no say in it: by systems of every kind. */
import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { cases } from "../../../../tests/cases";
import { wide } from "../../../../tests/wide-systems";
import { everyKnown, resolveJob } from "../../document/resolve";
import { keyOf, stepsOf, type Step } from "../../document/path";
import type { Job } from "../../document/schema";
import { assess } from "./assess";
import { measureNext, OF_A_START } from "./measure-next";

/** A system with one of its values multiplied. */
function scaled(job: Job, path: Parameters<typeof stepsOf>[0], factor: number, value: number): Job {
  const copy = structuredClone(job);
  const steps = [...stepsOf(path)];
  const last = steps.pop()!;
  const group = steps.reduce<unknown>((at, step) => (at as Record<Step, unknown>)[step], copy) as Record<Step, unknown>;
  group[last] = { value: value * factor, origin: "plate" };
  return copy;
}

/** Names and margins of all that Carries looks at, but for what is sized to let a start pass where nobody entered it. */
const carried = (job: Job) =>
  assess(job)
    .verdicts.carries.checks.filter(({ part }) => !part?.startsWith("wiring."))
    .map(({ key, margin }) => [key, margin]);

describe("measure next", () => {
  it("leaves Carries alone where a value is one of the start", () => {
    for (const job of fc.sample(wide, { numRuns: cases(4, 25), seed: 11 }))
      for (const { path, value, origin } of everyKnown(resolveJob(job))) {
        if (origin !== "assumed" || !OF_A_START.has(keyOf(path))) continue;
        for (const factor of [0.7, 1.5])
          expect(carried(scaled(job, path, factor, value)), `${path} × ${factor}`).toEqual(carried(job));
      }
  });
  it("values of a system settle as they do alone where its surroundings are lent to it", () => {
    for (const [one, other] of fc.sample(fc.tuple(wide, wide), { numRuns: cases(5, 40), seed: 12 })) {
      const moved: Job = {
        ...one,
        units: other.units,
        bank: other.bank,
        inverter: other.inverter,
        wiring: other.wiring,
      };
      expect(resolveJob(moved, resolveJob(one))).toEqual(resolveJob(moved));
    }
  });
  it("leaves out what no instrument reads", () => {
    for (const job of fc.sample(wide, { numRuns: cases(3, 10), seed: 13 })) {
      const { starts, carries } = measureNext(job);
      for (const { path } of [...starts, ...carries])
        expect(path).not.toMatch(/^weather|sinceStop|efficiency|peakTime/);
    }
  });
});
