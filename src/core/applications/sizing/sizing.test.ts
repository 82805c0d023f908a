import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { q, jobOf } from "../../../../tests/jobs";
import {
  emptyBranch,
  emptyController,
  emptyPanel,
  emptyPart,
  emptyJob,
  type Branch,
  type Job,
} from "../../document/schema";
import { MAINS_SYSTEMS, type MainsKey } from "../../reference/standards/mains";
import { RULE_SET_KEYS, type RuleSetKey } from "../../reference/standards/rule-set";
import { assess } from "../../assessment/verdicts/assess";
import { judge } from "./size-circuit";
import { sizeJob } from "./size-system";
import { cases } from "../../../../tests/cases";
import { randomJob } from "../../../../tests/random-jobs";

const MAINS: Record<RuleSetKey, MainsKey[]> = {
  "us-road": ["120V60Hz", "120V240V60Hz", "100V60Hz"],
  "us-boat": ["120V60Hz", "120V240V60Hz", "127V220V60Hz"],
  "eu-road": ["230V50Hz"],
  "eu-boat": ["230V50Hz"],
  "au-nz": ["230V50Hz"],
};
/** Watts of inverter that each battery voltage carries on one or two cables a pole. */
const INVERTERS: Record<number, number[]> = {
  12.8: [1500, 2000, 3000],
  25.6: [2000, 3000, 5000],
  51.2: [3000, 5000, 8000],
};

/** Systems as they are sold: any rule set, voltage, sources and units, with an inverter and a battery that carry them. */
const sensible = fc
  .record({
    set: fc.constantFrom(...RULE_SET_KEYS),
    mains: fc.nat(2),
    volts: fc.constantFrom(12.8, 25.6, 51.2),
    inverter: fc.nat(2),
    count: fc.constantFrom(1, 1, 1, 2),
    transformer: fc.boolean(),
    duty: fc.double({ min: 0.3, max: 0.75, noNaN: true }),
    units: fc.constantFrom(1, 1, 2),
    soft: fc.boolean(),
    loads: fc.boolean(),
    metres: fc.double({ min: 0.5, max: 3, noNaN: true }),
    far: fc.double({ min: 1, max: 6, noNaN: true }),
    ambient: fc.integer({ min: 25, max: 50 }),
    roles: fc.subarray(["solar", "engine", "charger", "loads", "shore", "circuit"] as Branch["role"][]),
    engineAmps: fc.constantFrom(18, 30, 50),
    panels: fc.integer({ min: 1, max: 6 }),
    series: fc.constantFrom(1, 2),
    shore: fc.nat(3),
    insulation: fc.constantFrom("70", "90", "105") as fc.Arbitrary<"70" | "90" | "105">,
    fuse: fc.constantFrom("class-t", "hrc", "bolted-strip", "terminal") as fc.Arbitrary<"class-t">,
  })
  .map((o): Job => {
    const mains = MAINS[o.set][o.mains % MAINS[o.set].length]!;
    const job = emptyJob("Sized", mains);
    job.brief.ruleSet = o.set;
    job.cabin.kind = o.set.endsWith("boat") ? "boat" : "van";
    const rating = INVERTERS[o.volts]![o.inverter]!;
    const { legVolts, acrossVolts } = MAINS_SYSTEMS[mains];
    const split = acrossVolts !== null;
    job.inverter = {
      ...job.inverter,
      rating: q(rating),
      count: q(o.count),
      type: o.transformer ? "transformer" : "high-frequency",
    };
    // A hot compartment is another question than wires.
    job.inverter.compartmentC = q(35);
    const va = (rating * o.count * o.duty) / o.units / (split ? 1 : 1);
    job.units = Array.from({ length: o.units }, (_, i) => ({
      ...job.units[0]!,
      id: `u${i}`,
      name: `Unit ${i + 1}`,
      leg: split ? ("both" as const) : ("L1" as const),
      startAid: o.soft ? ("soft-starter" as const) : ("none" as const),
      runningCurrent: q((va / (split ? acrossVolts : legVolts)) * 0.9),
      lockedRotorCurrent: q((va / (split ? acrossVolts : legVolts)) * 0.9 * 4),
    }));
    if (o.loads)
      job.brief.loads = [
        { id: "k", name: "Sockets", side: "mains", leg: split ? "both" : "L1", atStart: false, power: q(rating * 0.1) },
        { id: "d", name: "Fridge", side: "dc", leg: "L1", atStart: true, power: q(90) },
      ];
    const ah = (rating * o.count * 3) / o.volts;
    job.bank = {
      ...job.bank,
      blockVoltage: q(12.8),
      series: q(Math.round(o.volts / 12.8)),
      parallel: q(2),
      capacityAh: q(Math.max(100, Math.round(ah / 2))),
      continuousCurrent: q(Math.round((1.2 * rating * o.count) / o.volts)),
    };
    job.wiring.ambientC = q(o.ambient);
    job.wiring.main = job.wiring.main.map((part) =>
      part.kind === "cable"
        ? { ...part, insulation: o.insulation === "70" ? "90" : o.insulation, length: q(o.metres) }
        : part.kind === "fuse"
          ? { ...part, fuseKind: o.fuse }
          : part,
    );
    job.wiring.mains = job.wiring.mains.map((part) =>
      part.kind === "cable" ? { ...part, insulation: o.insulation, length: q(o.far) } : part,
    );
    if (o.roles.includes("shore")) job.wiring.mains.unshift(emptyPart("changeover", "transfer"));
    for (const role of o.roles) {
      const branch = emptyBranch(role, role);
      if (role === "engine") branch.current = q(o.engineAmps);
      if (role === "charger") branch.current = q(30);
      if (role === "loads" && o.volts > 20) branch.converter = true;
      if (role === "circuit") branch.unitId = "u0";
      job.wiring.branches.push(branch);
    }
    if (o.roles.includes("solar")) {
      job.sources.controllers = [emptyController("c")];
      const count = o.panels * o.series;
      job.sources.panels = [{ ...emptyPanel("p"), count: q(count), series: q(o.series), power: q(200) }];
    }
    return job;
  });

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
  it("sized again is the same", () => {
    const once = sizeJob(jobs[0]!).job;
    expect(sizeJob(once).job).toEqual(once);
  });
  it("names what no size mends", () => {
    const { left } = sizeJob(jobOf({ unit: { runningCurrent: q(20) }, inverter: { rating: q(1000) } }));
    expect(left.map(({ by }) => by)).toContain("inverter-continuous");
  });
});
