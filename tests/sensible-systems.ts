import fc from "fast-check";
import { q } from "./jobs";
import {
  emptyBranch,
  emptyController,
  emptyPanel,
  emptyPart,
  emptyJob,
  type Branch,
  type Job,
} from "@/core/document/schema";
import { MAINS_SYSTEMS, type MainsKey } from "@/core/reference/standards/mains";
import { RULE_SET_KEYS, type RuleSetKey } from "@/core/reference/standards/rule-set";

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
export const sensible = fc
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
