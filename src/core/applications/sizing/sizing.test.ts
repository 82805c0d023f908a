import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { q, jobOf } from "../../../../tests/jobs";
import type { Job } from "../../document/schema";
import { assess } from "../../assessment/verdicts/assess";
import { judge } from "./size-circuit";
import { sizeJob } from "./size-system";
import { cases } from "../../../../tests/cases";
import { randomJob } from "../../../../tests/random-jobs";
import { sensible } from "../../../../tests/sensible-systems";

const RUNS = cases(8, 300);
const jobs = fc.sample(sensible, { numRuns: RUNS, seed: 16 });

describe("judging a system by one like it", () => {
  it("gives what judging it whole gives, whatever other sizes its runs take, and its starts and checks in the same order", () =>
    fc.assert(
      fc.property(randomJob(false), randomJob(false), (job, other) => {
        const changed: Job = {
          ...job,
          wiring: {
            ...job.wiring,
            main: other.wiring.main,
            mains: other.wiring.mains,
            links: other.wiring.links,
            measured: {},
            branches: job.wiring.branches.map((branch, i) => ({
              ...branch,
              parts: other.wiring.branches[i]?.parts ?? [],
              far: other.wiring.branches[i]?.far ?? [],
            })),
          },
        };
        const [alone, beside] = [judge(changed), judge(changed, judge(job))];
        expect(beside.system.values).toEqual(alone.system.values);
        expect(beside.currents).toEqual(alone.currents);
        expect(beside.checks.map(({ key, need, has }) => [key, need, has])).toEqual(
          alone.checks.map(({ key, need, has }) => [key, need, has]),
        );
      }),
      { numRuns: cases(60, 2000) },
    ));
});

describe("size automatically", () => {
  it(`${RUNS} systems over all rule sets, voltages and sources: all Hold or Tight in Carries, and no part is larger than a rule asks`, () => {
    const failing: string[] = [];
    const loose: string[] = [];
    jobs.forEach((job, i) => {
      const { job: sized, parts } = sizeJob(job);
      const { carries } = assess(sized).verdicts;
      if (carries.word === "Fails" || carries.word === "Stop")
        failing.push(
          `${i}: ${carries.checks
            .filter(({ word }) => word === "Fails" || word === "Stop")
            .map(({ name, need, has }) => `${name} ${need.toFixed(2)}/${has.toFixed(2)}`)
            .join("; ")}`,
        );
      // Each part was judged anew one size smaller; the smallest that is sold has none.
      for (const { path, name, smaller } of parts)
        if (smaller && smaller.breaks.length === 0) loose.push(`${i}: ${path} ${name} to ${smaller.size}`);
    });
    expect(failing).toEqual([]);
    expect(loose).toEqual([]);
  });
  it("says which rule sized a part, and what one size smaller would break", () => {
    const { parts } = sizeJob(jobOf({ unit: { runningCurrent: q(6) }, inverter: { rating: q(3000) } }));
    const cable = parts.find(({ path }) => path === "wiring.main.3")!;
    expect(cable.rule).not.toBe("");
    expect(cable.smaller!.breaks.length).toBeGreaterThan(0);
    expect(parts.find(({ path }) => path === "wiring.main.0")!.smaller!.breaks).toContain(
      "Main run carries the inverter's full draw",
    );
  });
  it("3 kVA at 12 V: a fuse of 125 % of the full draw and copper that it protects (common practice, no source)", () => {
    const { job } = sizeJob(jobOf({ unit: { runningCurrent: q(6) }, inverter: { rating: q(3000) } }));
    const { values } = assess(job);
    expect(values.wiring.main[0]!.rating!.value).toBe(400);
    expect(values.wiring.main[3]!.areaMm2!.value * values.wiring.main[3]!.count!.value).toBeGreaterThanOrEqual(120);
  });
  it("says of leads and fuses between the batteries what one size smaller breaks, and of devices their kind", () => {
    const { parts } = sizeJob(jobOf({ bank: { parallel: q(3) }, inverter: { rating: q(3000) } }));
    const of = (words: RegExp) => parts.find(({ name }) => words.test(name))!;
    for (const words of [/lead of each battery/, /fuse of each battery/])
      expect(of(words).smaller!.breaks.length, String(words)).toBeGreaterThan(0);
    expect(of(/^RCD/).size).toMatch(/ A, 30 mA, type A$/);
    expect(of(/^breaker/).size).toMatch(/ A, type [BCD]$/);
  });
  it("sized again is the same", () => {
    const once = sizeJob(jobs[0]!).job;
    expect(sizeJob(once).job).toEqual(once);
  });
  it("names what no size mends", () => {
    const { left } = sizeJob(jobOf({ unit: { runningCurrent: q(20) }, inverter: { rating: q(1000) } }));
    expect(left.map(({ by }) => by)).toContain("inverter-continuous");
  });
});
