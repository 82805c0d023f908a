import { describe, expect, it } from "vitest";
import { q, jobOf } from "../../../../tests/jobs";
import { emptyBranch, emptyPanel, type Job } from "../../document/schema";
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
function loadOf(job: Job, key: string, outputs = [figure("output", 2300, "apparentPower")]) {
  const system = buildSystem(job);
  const circuit = allCircuits(system.wiring).find((one) => one.key === key)!;
  const { current, design } = circuitLoad(system, circuit, along, outputs);
  return { current: current.value, design: design.value, system };
}
const withBranch = (branch: ReturnType<typeof emptyBranch>, mains: "230V50Hz" | "120V60Hz" = "230V50Hz"): Job => {
  const job = jobOf({ mains });
  job.wiring.branches = [branch];
  return job;
};

describe("what a circuit carries with everything on", () => {
  it("is the battery's current along the main one", () => {
    expect(loadOf(jobOf(), "main")).toMatchObject({ current: 120, design: 120 });
  });
  it("is power over volts on the mains one", () => {
    expect(loadOf(jobOf(), "mains").current).toBeCloseTo(10, 9);
  });
  // NEC 210.20(A): 125 % of a continuous load; IEC 60364 asks for the load alone.
  it("is taken a quarter higher for the parts of a continuous AC load where the code asks for it", () => {
    const output = [figure("output", 1200, "apparentPower")];
    const american = loadOf(jobOf({ mains: "120V60Hz" }), "mains", output);
    expect(american.design / american.current).toBeCloseTo(1.25, 9);
    const european = loadOf(jobOf(), "mains", output);
    expect(european.design).toBe(european.current);
  });
  it("is that of the fuller leg on a supply of two", () => {
    const legs = [figure("L1", 600, "apparentPower"), figure("L2", 1800, "apparentPower")];
    const { current, system } = loadOf(jobOf({ mains: "120V240V60Hz" }), "mains", legs);
    expect(current).toBeCloseTo(1800 / system.mains, 9);
  });
  it("is a unit's own current on a circuit to itself", () => {
    const job = withBranch({ ...emptyBranch("circuit", "c"), unitId: jobOf().units[0]!.id });
    job.units[0]!.runningCurrent = q(7);
    const { current, system } = loadOf(job, "c");
    expect(current).toBeCloseTo(system.units[0]!.runningApparent.value / 230, 9);
  });
  it("is a DC unit's power at the volts at which it switches off", () => {
    const job = withBranch({ ...emptyBranch("dc-unit", "d"), unitId: jobOf().units[0]!.id });
    Object.assign(job.units[0]!, { kind: "dc", ratedPower: q(600), cutOffVoltage: q(10.5) });
    const { current, system } = loadOf(job, "d");
    expect(current).toBeCloseTo(system.units[0]!.running.value / 10.5, 9);
  });
  it("is what a source passes at most", () => {
    expect(loadOf(withBranch({ ...emptyBranch("engine", "e"), current: q(45) }), "e").current).toBe(45);
  });
  it("is what a converter draws at its rating on the battery's side, over its efficiency", () => {
    const branch = { ...emptyBranch("loads", "l"), converter: true, converterRating: q(30), current: q(1) };
    const job = withBranch(branch);
    job.bank.blockVoltage = q(25.6);
    const { current, system } = loadOf(job, "l");
    const v = system.values.wiring.branches[0]!;
    const watts = 30 * v.loadVoltage.value;
    expect(current).toBeCloseTo(watts / v.efficiency.value / system.bank.nominalVoltage, 6);
  });
  it("is 156 % of the panels' short circuit before a controller where the code counts twice 125 %", () => {
    // NEC 690.8: 1.25 for high sun, and 1.25 for a continuous current.
    const job = withBranch(emptyBranch("solar", "s"), "120V60Hz");
    job.sources.panels = [{ ...emptyPanel("p"), count: q(2), series: q(1), shortCurrent: q(10) }];
    const { current, system } = loadOf(job, "s-far");
    expect(current).toBeCloseTo(system.wiring.rules.solarFactor * 20, 6);
    expect(system.wiring.rules.solarFactor).toBeCloseTo(1.5625, 2);
  });
});
