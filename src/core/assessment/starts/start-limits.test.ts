import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { cases } from "../../../../tests/cases";
import { jobOf, q } from "../../../../tests/jobs";
import { randomJob } from "../../../../tests/random-jobs";
import { emptyBranch, type Job } from "../../document/schema";
import { buildSystem } from "../../models/system/build";
import { assess } from "../verdicts/assess";
import { assessStarts } from "./starts";

/** A unit on mains and one on DC, this one on a branch of its own beside the inverter's run or not there at all. */
function withDirectUnit(dcWatts: number | null, bank: Partial<Job["bank"]> = {}): Job {
  const job = jobOf({
    unit: { runningCurrent: q(4), lockedRotorCurrent: q(12) },
    bank: { capacityAh: q(200), ...bank },
  });
  if (dcWatts === null) return job;
  const own = { ...job.units[0]!, id: "dc", name: "Cooler", kind: "dc" as const, runningCurrent: undefined };
  return {
    ...job,
    units: [job.units[0]!, { ...own, dcRunningCurrent: q(dcWatts / 12.8, "measured") }],
    wiring: { ...job.wiring, branches: [...job.wiring.branches, { ...emptyBranch("dc-unit", "b"), unitId: "dc" }] },
  };
}
const startOf = (job: Job) => {
  const { own, verdict } = assessStarts(buildSystem(job));
  return { own, of: (key: string) => verdict.checks.find((one) => one.key === key)! };
};

describe("a start while a DC unit runs on a branch of its own", () => {
  it("is held against the battery's protection with that unit's current, by Kirchhoff", () => {
    // One limit at every moment: both are nearest to it at the start's peak.
    const board = { continuousCurrent: q(500), peakCurrent: q(500) };
    const [alone, both] = [startOf(withDirectUnit(null, board)), startOf(withDirectUnit(600, board))];
    // 600 W at the volts of a loaded 12 V battery are 45 to 60 A.
    const more = both.of("protection").need - alone.of("protection").need;
    expect(more).toBeGreaterThan(45);
    expect(more).toBeLessThan(75);
  });
  it("fails where the battery's board opens below the two together, and holds without that unit", () => {
    const opensAt = q(1.2 * startOf(withDirectUnit(null)).of("protection").need);
    const board = { continuousCurrent: opensAt, peakCurrent: opensAt };
    expect(startOf(withDirectUnit(null, board)).of("protection").word).toBe("Holds");
    expect(startOf(withDirectUnit(600, board)).of("protection").word).toBe("Fails");
  });
  it("leaves the inverter less power before the volts give out, starting and running", () => {
    const [alone, both] = [withDirectUnit(null), withDirectUnit(600)];
    expect(startOf(both).own.allowed.power).toBeLessThan(0.97 * startOf(alone).own.allowed.power);
    const running = (job: Job) => assess(job).verdicts.carries.checks.find(({ key }) => key === "voltage")!.has;
    expect(running(both)).toBeLessThan(0.97 * running(alone));
  });
});

describe("each limit of a start", () => {
  it("is judged by the same figures as the picture draws, in any system", () => {
    fc.assert(
      fc.property(randomJob(false), (job) => {
        const { own, of } = startOf(job);
        for (const [limit, { need, has }] of Object.entries(own.nearest)) {
          const found = of(limit);
          if (!found) continue;
          expect(found.has, `${limit} has`).toBeCloseTo(has, 6);
          // A draw counts against the volts once it has held for the cut-off's delay: the figure is that of the moment.
          if (limit !== "voltage")
            expect(found.need / Math.max(1, need), `${limit} need`).toBeCloseTo(need / Math.max(1, need), 6);
        }
      }),
      { numRuns: cases(100, 1000) },
    );
  });
});
