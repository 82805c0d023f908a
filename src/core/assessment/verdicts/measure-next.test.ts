/* What the ranking leaves out to be quick has no say in it: by systems of every kind. */
import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { cases } from "../../../../tests/cases";
import { demoJob } from "../../../../tests/jobs";
import { wide } from "../../../../tests/wide-systems";
import { Kept } from "../../document/kept";
import { everyKnown, resolveJob } from "../../document/resolve";
import { keyOf, stepsOf } from "../../document/path";
import type { Job } from "../../document/schema";
import { buildSystem } from "../../models/system/build";
import type { System } from "../../models/system/system";
import { allCircuits } from "../../models/wiring/circuits";
import { assess } from "./assess";
import { carriesMargin, measureNext, OF_A_START, untouchedBy, withValue } from "./measure-next";

const DEMO = ["1-folio", "2-marionette", "3-shearwater", "4-skep", "5-lora", "6-levain"];

/** A system with one of its values multiplied; what it has in common with the other is shared. */
const scaled = (job: Job, path: Parameters<typeof stepsOf>[0], factor: number, value: number): Job =>
  withValue(job, stepsOf(path), { value: value * factor, origin: "plate" });

/** Names and margins of all that Carries looks at, but for what is sized to let a start pass where nobody entered it. */
const carried = (job: Job) =>
  assess(job)
    .verdicts.carries.checks.filter(({ part }) => !part?.startsWith("wiring."))
    .map(({ key, margin }) => [key, margin]);

/** Ohm and A of each part of the wiring. */
const carriedBy = ({ wiring }: System) =>
  allCircuits(wiring).flatMap(({ parts }) =>
    parts.map(({ path, resistance, ampacity }) => [path, resistance, ampacity?.value]),
  );

describe("measure next", () => {
  it("leaves Carries alone where a value is one of the start", () => {
    for (const job of fc.sample(wide, { numRuns: cases(4, 25), seed: 11 }))
      for (const { path, value, origin } of everyKnown(resolveJob(job))) {
        if (origin !== "assumed" || !OF_A_START.has(keyOf(path))) continue;
        for (const factor of [0.7, 1.5])
          expect(carried(scaled(job, path, factor, value)), `${path} × ${factor}`).toEqual(carried(job));
      }
  });
  it("finds of circuits that a value is no part of what was found before", () => {
    for (const job of [...DEMO.map(demoJob), ...fc.sample(wide, { numRuns: cases(15, 100), seed: 15 })]) {
      const values = resolveJob(job);
      const { found } = carriesMargin(buildSystem(job, values));
      for (const { path, value, origin } of everyKnown(values.wiring)) {
        const untouched = untouchedBy(stepsOf(path), found);
        if (origin !== "assumed" || untouched.size === 0) continue;
        for (const factor of [0.4, 2.5]) {
          const system = buildSystem(scaled(job, path, factor, value));
          expect(carriesMargin(system, untouched).margin, `${path} × ${factor}`).toBe(carriesMargin(system).margin);
        }
      }
    }
  });
  it("values of a system settle as they do alone where one of them differs from another system's", () => {
    for (const job of fc.sample(wide, { numRuns: cases(3, 20), seed: 14 })) {
      const kept = new Kept();
      const first = resolveJob(job, { kept });
      buildSystem(job, first, kept);
      for (const { path, value, origin } of everyKnown(first)) {
        if (origin !== "assumed" || /^(brief|place|weather|supplies|startAids)/.test(path)) continue;
        for (const factor of [0.6, 1.7]) {
          const moved = scaled(job, path, factor, value);
          const itsValues = resolveJob(moved, { surroundings: first, kept });
          expect(itsValues, path).toEqual(resolveJob(moved));
          expect(carriedBy(buildSystem(moved, itsValues, kept)), path).toEqual(carriedBy(buildSystem(moved)));
        }
      }
    }
  });
  it("values of a system settle as they do alone where its surroundings are lent to it", () => {
    for (const [one, other] of fc.sample(fc.tuple(wide, wide), { numRuns: cases(5, 40), seed: 12 })) {
      const kept = new Kept();
      const first = resolveJob(one, { kept });
      const moved: Job = {
        ...one,
        units: other.units,
        bank: other.bank,
        inverter: other.inverter,
        wiring: other.wiring,
      };
      expect(resolveJob(moved, { surroundings: first, kept })).toEqual(resolveJob(moved));
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
