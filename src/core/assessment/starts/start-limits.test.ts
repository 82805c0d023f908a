import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { cases } from "../../../../tests/cases";
import { jobOf, q } from "../../../../tests/jobs";
import { randomJob } from "../../../../tests/random-jobs";
import { compareStartAids } from "../../applications/start-aids/start-aids";
import { emptyBranch, type Job } from "../../document/schema";
import { voltageOnBranch } from "../../models/system/allowed";
import { buildSystem } from "../../models/system/build";
import { assess } from "../verdicts/assess";
import { lastsOf } from "../verdicts/day";
import { limitName } from "../../simulation/start/start";
import { startConditions } from "./start-conditions";
import type { RuleId } from "../judge/rule-ids";
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
  return {
    own,
    of: (by: RuleId, own?: "own") =>
      verdict.checks.find((one) => one.by === by && one.key.endsWith(" own") === (own !== undefined))!,
  };
};

describe("a start while a DC unit runs on a branch of its own", () => {
  it("is held against the battery's protection with that unit's current, by Kirchhoff", () => {
    // One limit at every moment: both are nearest to it at the start's peak.
    const board = { continuousCurrent: q(500), peakCurrent: q(500) };
    const [alone, both] = [startOf(withDirectUnit(null, board)), startOf(withDirectUnit(600, board))];
    // 600 W at the volts of a loaded 12 V battery are 45 to 60 A.
    const more = both.of("start-protection").need - alone.of("start-protection").need;
    expect(more).toBeGreaterThan(45);
    expect(more).toBeLessThan(75);
  });
  it("fails where the battery's board opens below the two together, and holds without that unit", () => {
    const opensAt = q(1.2 * startOf(withDirectUnit(null)).of("start-protection").need);
    const board = { continuousCurrent: opensAt, peakCurrent: opensAt };
    expect(startOf(withDirectUnit(null, board)).of("start-protection").word).toBe("Holds");
    expect(startOf(withDirectUnit(600, board)).of("start-protection").word).toBe("Fails");
  });
  it("leaves the inverter less power before the volts give out, starting and running", () => {
    const [alone, both] = [withDirectUnit(null), withDirectUnit(600)];
    expect(startOf(both).own.allowed.power).toBeLessThan(0.97 * startOf(alone).own.allowed.power);
    const running = (job: Job) => assess(job).verdicts.carries.checks.find(({ by }) => by === "bank-voltage")!.has;
    expect(running(both)).toBeLessThan(0.97 * running(alone));
  });
});

describe("each limit of a start", () => {
  it("of the volts has one name in the picture, the check and the conditions: of what switches off first", () => {
    const thin = (job: Job): Job => ({
      ...job,
      wiring: { ...job.wiring, main: jobOf({ cable: { areaMm2: q(10), length: q(6) } }).wiring.main },
    });
    const board = { stopVoltage: q(12.6) };
    for (const [job, name] of [
      [thin(withDirectUnit(null)), "voltage at the inverter"],
      [withDirectUnit(null, board), "BMS low-voltage cut-off"],
    ] as const) {
      const { own, of } = startOf(job);
      expect(limitName("voltage", own)).toBe(name);
      expect(of("start-voltage").name).toBe(name);
      expect(startConditions(job)[0]!.by).toBe(name);
    }
  });
  it("is judged by the same figures as the picture draws, in any system", () => {
    fc.assert(
      fc.property(randomJob(false), (job) => {
        const { own, of } = startOf(job);
        for (const [limit, { need, has }] of Object.entries(own.nearest)) {
          const found = limit === "unit" ? of("start-voltage", "own") : of(`start-${limit}` as RuleId);
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

describe("the cut-off of a DC unit on a branch of its own", () => {
  /** The unit's own branch as a fuse and so many metres of a cable, out and back. */
  function onBranch(dcWatts: number, cable: { area: number; length: number }, cutOffVoltage = 11): Job {
    const job = withDirectUnit(dcWatts, { continuousCurrent: q(500), peakCurrent: q(500) });
    const sized = { areaMm2: q(cable.area), length: q(cable.length) };
    const branches = job.wiring.branches.map((branch) =>
      branch.role === "dc-unit"
        ? { ...branch, parts: branch.parts.map((part) => (part.kind === "cable" ? { ...part, ...sized } : part)) }
        : branch,
    );
    const [first, own] = job.units;
    return {
      ...job,
      units: [first!, { ...own!, cutOffVoltage: q(cutOffVoltage) }],
      wiring: { ...job.wiring, branches },
    };
  }
  const thick = { area: 50, length: 2 };
  const thin = { area: 4, length: 8 };
  const carried = (job: Job) =>
    assess(job).verdicts.carries.checks.find(({ by, run }) => by === "bank-voltage" && run !== undefined)!;

  it("fails by the loss in its own cable, starting and running: 8 m of 4 mm², out and back, lose 3.4 V at 50 A, by Ohm", () => {
    for (const judge of [(job: Job) => startOf(job).of("start-voltage", "own"), carried]) {
      expect(judge(onBranch(600, thick)).word).toBe("Holds");
      expect(judge(onBranch(600, thin)).word).toBe("Fails");
    }
  });
  it("is named with its unit and its branch, and decides the verdict where it is the weakest link", () => {
    const { verdicts } = assess(onBranch(600, thin));
    expect(verdicts.starts.decides).toMatchObject({ name: "voltage at Cooler", run: "wiring.branches.0.parts" });
  });
  it("meets its limit where the power drawn leaves just the cut-off's volts, by Ohm's law over battery and branch", () => {
    const job = onBranch(300, thick);
    const { has, limit } = carried(job);
    const term = (symbol: string) => limit.terms.find((one) => one.symbol === symbol)!.value;
    const amps = has / 11;
    expect(term("E") - amps * (term("R_b") + term("R"))).toBeCloseTo(11, 6);
    expect(voltageOnBranch(buildSystem(job), 1, { seen: term("E"), power: has })).toBeCloseTo(11, 6);
  });
  it("is lifted by a thicker cable of its own, which is the one compared as a start aid", () => {
    const aid = compareStartAids(onBranch(600, thin)).find(({ key }) => key === "thicker-cable")!;
    expect(aid.starts.word).toBe("Holds");
    expect(aid.job!.wiring.main).toEqual(onBranch(600, thin).wiring.main);
  });
  it("fails as before where a generator starts the other unit: it is fed by the battery still", () => {
    const by = (cable: { area: number; length: number }) =>
      compareStartAids(onBranch(600, cable)).find(({ key }) => key === "generator")!;
    expect(by(thin).starts).toMatchObject({ word: "Fails", by: "voltage at Cooler" });
    expect(by(thick).starts.word).toBe("Holds");
  });
  it("leaves less the more the start of another unit takes from the battery", () => {
    const job = onBranch(300, thick);
    const hard = { ...job, units: [{ ...job.units[0]!, lockedRotorCurrent: q(24) }, job.units[1]!] };
    expect(startOf(hard).of("start-voltage", "own").has).toBeLessThan(startOf(job).of("start-voltage", "own").has);
  });
  it("ends the day's run by the same cable: the unit switches itself off while the inverter goes on", () => {
    const lasting = (cable: { area: number; length: number }) => lastsOf(onBranch(600, cable)).decides.name;
    expect(lasting(thin)).toBe("Low-voltage cut-off of the air conditioner");
    expect(lasting(thick)).not.toBe("Low-voltage cut-off of the air conditioner");
  });
});

describe("a DC unit at the end of the inverter's circuit", () => {
  const job = withDirectUnit(300, { stopVoltage: q(9) });
  const [first, own] = job.units;
  const at = (cutOffVoltage: number): Job => ({
    ...job,
    units: [first!, { ...own!, cutOffVoltage: q(cutOffVoltage) }],
    wiring: { ...job.wiring, branches: [] },
    inverter: { ...job.inverter, cutOffVoltage: q(10.5) },
  });
  it("switches itself off at its own cut-off where that is above the inverter's", () => {
    expect(startOf(at(12.4)).own.allowed.farEnd).toBe(12.4);
    expect(startOf(at(12.4)).of("start-voltage").name).toBe("voltage at the unit");
    // Below the inverter's, the unit's own decides nothing any more.
    expect(startOf(at(10)).own.allowed).toEqual(startOf(at(5)).own.allowed);
    expect(startOf(at(10)).of("start-voltage").name).toBe("voltage at the inverter");
  });
  it("ends the hand method's hours while it runs, and not while it is off", () => {
    const endedBy = (mode: string) => assess(at(12.4)).hours.find((one) => one.mode === mode)!.cutOffBy;
    expect(endedBy("full")).toBe("unit");
    expect(endedBy("off")).not.toBe("unit");
  });
});
