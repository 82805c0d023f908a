import { describe, expect, it } from "vitest";
import { q, rigOf } from "../../../../tests/rigs";
import { emptyBranch, emptyPanel, type Rig } from "../../document/schema";
import { buildSystem } from "../../models/system/build";
import { allCircuits } from "../../models/wiring/circuits";
import { constant, traced, type TracedValue } from "../../units/trace";
import { circuitLoad } from "./circuit-load";

const figure = (key: string, value: number, dimension: "current" | "apparentPower"): TracedValue =>
  traced({
    key,
    name: key,
    dimension,
    value,
    relation: "x = y",
    terms: () => [constant("y", key, value, dimension, "")],
  });
const along = figure("along", 120, "current");

/** What the circuit of a key carries, and what its parts are chosen for, A. */
function loadOf(rig: Rig, key: string, outputs = [figure("output", 2300, "apparentPower")]) {
  const system = buildSystem(rig);
  const circuit = allCircuits(system.path).find((one) => one.key === key)!;
  const { current, design } = circuitLoad(system, circuit, along, outputs);
  return { current: current.value, design: design.value, system };
}
const withBranch = (branch: ReturnType<typeof emptyBranch>, mains: "230V50Hz" | "120V60Hz" = "230V50Hz"): Rig => {
  const rig = rigOf({ mains });
  rig.path.branches = [branch];
  return rig;
};

describe("what a circuit carries with everything on", () => {
  it("is the battery's current along the main one", () => {
    expect(loadOf(rigOf(), "main")).toMatchObject({ current: 120, design: 120 });
  });
  it("is power over volts on the mains one", () => {
    expect(loadOf(rigOf(), "mains").current).toBeCloseTo(10, 9);
  });
  // NEC 210.20(A): 125 % of a continuous load; IEC 60364 asks for the load alone.
  it("is taken a quarter higher for the parts of a continuous AC load where the code asks for it", () => {
    const output = [figure("output", 1200, "apparentPower")];
    const american = loadOf(rigOf({ mains: "120V60Hz" }), "mains", output);
    expect(american.design / american.current).toBeCloseTo(1.25, 9);
    const european = loadOf(rigOf(), "mains", output);
    expect(european.design).toBe(european.current);
  });
  it("is that of the fuller leg on a supply of two", () => {
    const legs = [figure("L1", 600, "apparentPower"), figure("L2", 1800, "apparentPower")];
    const { current, system } = loadOf(rigOf({ mains: "120V240V60Hz" }), "mains", legs);
    expect(current).toBeCloseTo(1800 / system.mains, 9);
  });
  it("is a unit's own current on a circuit to itself", () => {
    const rig = withBranch({ ...emptyBranch("circuit", "c"), unitId: rigOf().units[0]!.id });
    rig.units[0]!.runningCurrent = q(7);
    const { current, system } = loadOf(rig, "c");
    expect(current).toBeCloseTo(system.units[0]!.runningApparent.value / 230, 9);
  });
  it("is a DC unit's power at the volts at which it switches off", () => {
    const rig = withBranch({ ...emptyBranch("dc-unit", "d"), unitId: rigOf().units[0]!.id });
    Object.assign(rig.units[0]!, { kind: "dc", ratedPower: q(600), cutOffVoltage: q(10.5) });
    const { current, system } = loadOf(rig, "d");
    expect(current).toBeCloseTo(system.units[0]!.running.value / 10.5, 9);
  });
  it("is what a source passes at most", () => {
    expect(loadOf(withBranch({ ...emptyBranch("engine", "e"), current: q(45) }), "e").current).toBe(45);
  });
  it("is what a converter draws at its rating on the battery's side, over its efficiency", () => {
    const branch = { ...emptyBranch("loads", "l"), converter: true, converterRating: q(30), current: q(1) };
    const rig = withBranch(branch);
    rig.bank.blockVoltage = q(25.6);
    const { current, system } = loadOf(rig, "l");
    const v = system.values.path.branches[0]!;
    const watts = 30 * v.loadVoltage.value;
    expect(current).toBeCloseTo(watts / v.efficiency.value / system.bank.nominalVoltage, 6);
  });
  it("is 156 % of the panels' short circuit before a controller where the code counts twice 125 %", () => {
    // NEC 690.8: 1.25 for high sun, and 1.25 for a continuous current.
    const rig = withBranch(emptyBranch("solar", "s"), "120V60Hz");
    rig.sources.panels = [{ ...emptyPanel("p"), count: q(2), series: q(1), shortCurrent: q(10) }];
    const { current, system } = loadOf(rig, "s-far");
    expect(current).toBeCloseTo(system.path.rules.solarFactor * 20, 6);
    expect(system.path.rules.solarFactor).toBeCloseTo(1.5625, 2);
  });
});
