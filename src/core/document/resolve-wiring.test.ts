import { describe, expect, it } from "vitest";
import { q, rigOf } from "../../../tests/rigs";
import { emptyBranch, emptyPart, type Rig } from "./schema";
import { resolveRig } from "./resolve";
import { fullDcPower, usesInverter } from "./resolve-wiring";

const mainOf = (rig: Rig) => {
  const { main } = resolveRig(rig).path;
  const at = (kind: string) => rig.path.main.findIndex((part) => part.kind === kind);
  return { cable: main[at("cable")]!, fuse: main[at("fuse")]!, joints: main[at("joints")] };
};

describe("the main circuit where nobody entered it", () => {
  const rig = rigOf({ unit: { runningCurrent: q(6) }, inverter: { rating: q(3000) } });
  it("has a fuse for 125 % of the inverter's full draw at its cut-off", () => {
    const values = resolveRig(rig);
    const full = fullDcPower(values.inverter) / values.inverter.cutOffVoltage.value;
    const { fuse } = mainOf(rig);
    expect(fuse.rating!.value).toBeGreaterThanOrEqual(1.25 * full);
    expect(fuse.rating!.why).toMatch(/125 %/);
  });
  it("has copper that its fuse protects, as many side by side as that takes", () => {
    const { cable } = mainOf(rig);
    expect(cable.areaMm2!.origin).toBe("assumed");
    expect(cable.areaMm2!.value * cable.count!.value).toBeGreaterThan(70);
  });
  it("has more copper where it is longer, for the voltage drop allowed", () => {
    const long = mainOf(rigOf({ inverter: { rating: q(3000) }, cable: { length: q(6) } }));
    const near = mainOf(rigOf({ inverter: { rating: q(3000) }, cable: { length: q(1) } }));
    const copper = ({ cable }: ReturnType<typeof mainOf>) => cable.areaMm2!.value * cable.count!.value;
    expect(copper(long)).toBeGreaterThan(copper(near));
    expect(long.cable.areaMm2!.why).toMatch(/voltage drop/);
  });
  it("has a fuse under what a cable carries that somebody entered", () => {
    const thin = mainOf(rigOf({ inverter: { rating: q(3000) }, cable: { areaMm2: q(35) } }));
    const thick = mainOf(rigOf({ inverter: { rating: q(3000) }, cable: { areaMm2: q(120) } }));
    expect(thin.fuse.rating!.value).toBeLessThan(thick.fuse.rating!.value);
    expect(thin.fuse.rating!.why).toMatch(/protects the cable/);
  });
  it("keeps what was entered", () => {
    const own = mainOf(rigOf({ cable: { areaMm2: q(95), count: q(2) }, fuse: { rating: q(400) } }));
    expect([own.cable.areaMm2, own.cable.count, own.fuse.rating].map((one) => [one!.value, one!.entered])).toEqual([
      [95, true],
      [2, true],
      [400, true],
    ]);
  });
  it("is half as thick for each of two inverters with leads of their own", () => {
    const inverter = { rating: q(3000), count: q(2) };
    const shared = mainOf(rigOf({ inverter: { ...inverter, leads: "shared" } }));
    const own = mainOf(rigOf({ inverter: { ...inverter, leads: "own" } }));
    expect(own.fuse.rating!.value).toBeLessThan(shared.fuse.rating!.value);
  });
});

describe("the mains circuit where nobody entered it", () => {
  const breakerOf = (rig: Rig) => {
    const at = rig.path.mains.findIndex(({ kind }) => kind === "breaker");
    return resolveRig(rig).path.mains[at]!.rating!;
  };
  it("has a breaker that lets a hard start pass", () => {
    const soft = rigOf({ unit: { runningCurrent: q(5), lockedRotorCurrent: q(12) }, inverter: { rating: q(1000) } });
    const hard = rigOf({ unit: { runningCurrent: q(5), lockedRotorCurrent: q(90) }, inverter: { rating: q(1000) } });
    expect(breakerOf(hard).value).toBeGreaterThan(breakerOf(soft).value);
    expect(breakerOf(hard).why).toMatch(/start pass/);
  });
  it("is protected between a transfer switch and its own breaker by the shore's breaker too", () => {
    const copper = (amps: number, order: "before" | "behind") => {
      const rig = rigOf({ inverter: { rating: q(1000) } });
      const shore = { ...emptyBranch("shore", "shore"), current: q(amps) };
      rig.path.branches = [{ ...shore, parts: [emptyPart("breaker", "b"), ...shore.parts] }];
      const [cable, breaker] = [emptyPart("cable", "w"), emptyPart("breaker", "own")];
      rig.path.mains = [emptyPart("changeover", "t"), ...(order === "before" ? [cable, breaker] : [breaker, cable])];
      return resolveRig(rig).path.mains[order === "before" ? 1 : 2]!.areaMm2!.value;
    };
    expect(copper(63, "before")).toBeGreaterThan(copper(10, "before"));
    expect(copper(63, "behind")).toBe(copper(10, "behind"));
  });
});

describe("a branch where nobody entered it", () => {
  const partsOf = (branch: ReturnType<typeof emptyBranch>, change: (rig: Rig) => void = () => {}) => {
    const rig = rigOf();
    rig.path.branches = [branch];
    change(rig);
    return resolveRig(rig).path.branches[0]!;
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
    ["a unit on mains", rigOf(), true],
    ["a unit on the battery alone", rigOf({ unit: { kind: "dc" } }), false],
    [
      "a load on mains beside such a unit",
      rigOf({
        unit: { kind: "dc" },
        brief: { loads: [{ id: "a", name: "Kettle", side: "mains", leg: "L1", atStart: false, power: q(1000) }] },
      }),
      true,
    ],
  ])("%s", (_, rig, expected) => expect(usesInverter(rig)).toBe(expected));
});
