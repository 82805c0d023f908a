import { describe, expect, it } from "vitest";
import { q, jobOf } from "../../../tests/jobs";
import { emptyBranch, emptyPart, type Job } from "./schema";
import { resolveJob } from "./resolve";
import { fullDcPower, usesInverter } from "./resolve-wiring";

const mainOf = (job: Job) => {
  const { main } = resolveJob(job).wiring;
  const at = (kind: string) => job.wiring.main.findIndex((part) => part.kind === kind);
  return { cable: main[at("cable")]!, fuse: main[at("fuse")]!, joints: main[at("joints")] };
};

describe("the main circuit where nobody entered it", () => {
  const job = jobOf({ unit: { runningCurrent: q(6) }, inverter: { rating: q(3000) } });
  it("has a fuse for 125 % of the inverter's full draw at its cut-off", () => {
    const values = resolveJob(job);
    const full = fullDcPower(values.inverter) / values.inverter.cutOffVoltage.value;
    const { fuse } = mainOf(job);
    expect(fuse.rating!.value).toBeGreaterThanOrEqual(1.25 * full);
    expect(fuse.rating!.why).toMatch(/125 %/);
  });
  it("has copper that its fuse protects, as many side by side as that takes", () => {
    const { cable } = mainOf(job);
    expect(cable.areaMm2!.origin).toBe("assumed");
    expect(cable.areaMm2!.value * cable.count!.value).toBeGreaterThan(70);
  });
  it("has more copper where it is longer, for the voltage drop allowed", () => {
    const long = mainOf(jobOf({ inverter: { rating: q(3000) }, cable: { length: q(6) } }));
    const near = mainOf(jobOf({ inverter: { rating: q(3000) }, cable: { length: q(1) } }));
    const copper = ({ cable }: ReturnType<typeof mainOf>) => cable.areaMm2!.value * cable.count!.value;
    expect(copper(long)).toBeGreaterThan(copper(near));
    expect(long.cable.areaMm2!.why).toMatch(/voltage drop/);
  });
  it("has a fuse under what a cable carries that somebody entered", () => {
    const thin = mainOf(jobOf({ inverter: { rating: q(3000) }, cable: { areaMm2: q(35) } }));
    const thick = mainOf(jobOf({ inverter: { rating: q(3000) }, cable: { areaMm2: q(120) } }));
    expect(thin.fuse.rating!.value).toBeLessThan(thick.fuse.rating!.value);
    expect(thin.fuse.rating!.why).toMatch(/protects the cable/);
  });
  it("keeps what was entered", () => {
    const own = mainOf(jobOf({ cable: { areaMm2: q(95), count: q(2) }, fuse: { rating: q(400) } }));
    expect([own.cable.areaMm2, own.cable.count, own.fuse.rating].map((one) => [one!.value, one!.entered])).toEqual([
      [95, true],
      [2, true],
      [400, true],
    ]);
  });
  it("is half as thick for each of two inverters with leads of their own", () => {
    const inverter = { rating: q(3000), count: q(2) };
    const shared = mainOf(jobOf({ inverter: { ...inverter, leads: "shared" } }));
    const own = mainOf(jobOf({ inverter: { ...inverter, leads: "own" } }));
    expect(own.fuse.rating!.value).toBeLessThan(shared.fuse.rating!.value);
  });
});

describe("the mains circuit where nobody entered it", () => {
  const breakerOf = (job: Job) => {
    const at = job.wiring.mains.findIndex(({ kind }) => kind === "breaker");
    return resolveJob(job).wiring.mains[at]!.rating!;
  };
  it("has a breaker that lets a hard start pass", () => {
    const soft = jobOf({ unit: { runningCurrent: q(5), lockedRotorCurrent: q(12) }, inverter: { rating: q(1000) } });
    const hard = jobOf({ unit: { runningCurrent: q(5), lockedRotorCurrent: q(90) }, inverter: { rating: q(1000) } });
    expect(breakerOf(hard).value).toBeGreaterThan(breakerOf(soft).value);
    expect(breakerOf(hard).why).toMatch(/start pass/);
  });
  it("is protected between a transfer switch and its own breaker by the shore's breaker too", () => {
    const copper = (amps: number, order: "before" | "behind") => {
      const job = jobOf({ inverter: { rating: q(1000) } });
      const shore = { ...emptyBranch("shore", "shore"), current: q(amps) };
      job.wiring.branches = [{ ...shore, parts: [emptyPart("breaker", "b"), ...shore.parts] }];
      const [cable, breaker] = [emptyPart("cable", "w"), emptyPart("breaker", "own")];
      job.wiring.mains = [emptyPart("changeover", "t"), ...(order === "before" ? [cable, breaker] : [breaker, cable])];
      return resolveJob(job).wiring.mains[order === "before" ? 1 : 2]!.areaMm2!.value;
    };
    expect(copper(63, "before")).toBeGreaterThan(copper(10, "before"));
    expect(copper(63, "behind")).toBe(copper(10, "behind"));
  });
});

describe("a branch where nobody entered it", () => {
  const partsOf = (branch: ReturnType<typeof emptyBranch>, change: (job: Job) => void = () => {}) => {
    const job = jobOf();
    job.wiring.branches = [branch];
    change(job);
    return resolveJob(job).wiring.branches[0]!;
  };
  it("has a fuse for 125 % of what its source passes", () => {
    const branch = { ...emptyBranch("engine", "e"), current: q(40) };
    const { parts } = partsOf(branch);
    const fuse = parts[branch.parts.findIndex(({ kind }) => kind === "fuse")]!;
    expect(fuse.rating!.value).toBe(50);
  });
  it("of a shore inlet has the copper that the rules want for its rating", () => {
    const copper = (amps: number) => {
      const branch = { ...emptyBranch("shore", "s"), current: q(amps) };
      return partsOf(branch).parts[branch.parts.findIndex(({ kind }) => kind === "cable")]!.areaMm2!.value;
    };
    expect(copper(32)).toBeGreaterThan(copper(10));
  });
});

describe("whether a system makes mains", () => {
  it.each([
    ["a unit on mains", jobOf(), true],
    ["a unit on the battery alone", jobOf({ unit: { kind: "dc" } }), false],
    [
      "a load on mains beside such a unit",
      jobOf({
        unit: { kind: "dc" },
        brief: { loads: [{ id: "a", name: "Kettle", side: "mains", leg: "L1", atStart: false, power: q(1000) }] },
      }),
      true,
    ],
  ])("%s", (_, job, expected) => expect(usesInverter(job)).toBe(expected));
});
