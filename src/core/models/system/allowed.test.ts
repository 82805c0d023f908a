import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { cases } from "../../../../tests/cases";
import { jobOf, q } from "../../../../tests/jobs";
import { randomJob } from "../../../../tests/random-jobs";
import type { Job } from "../../document/schema";
import { openCircuitVoltage } from "../battery/battery";
import { allowedPathPower, farCutOff, voltsAtLimit } from "./allowed";
import { buildSystem } from "./build";
import { lowestSoc } from "./system";

/** What may flow in a system at its reserve with all its DC loads on, and V where that limit is stated. */
function atLimit(job: Job, extraWatts = 0) {
  const system = buildSystem(job);
  const context = { dcLoad: system.loads.dc + extraWatts, ...system };
  const rest = openCircuitVoltage(system.bank, lowestSoc(system));
  const allowed = allowedPathPower(context, rest);
  const { by, power } = allowed;
  return { system, rest, allowed, volts: voltsAtLimit(context, { by, rest, power }) };
}

describe("what may flow along the main run", () => {
  it("brings the volts to where something switches off, with DC loads that draw more amps the lower the volts", () =>
    fc.assert(
      fc.property(randomJob(false), fc.double({ min: 0, max: 1500, noNaN: true }), (job, watts) => {
        const { system, allowed, volts } = atLimit(job, watts);
        const { by, power, seen, farEnd } = allowed;
        // Towards half of what is seen the voltage collapses first; DC loads that draw more than the main run are no such system.
        fc.pre(power > system.loads.dc + watts && farEnd > 0.7 * seen);
        const limit = by === "bank" ? system.bank.stopVoltage : farCutOff(system);
        expect(volts! / limit).toBeCloseTo(1, 2);
      }),
      { numRuns: cases(300, 5000) },
    ));
  it("is what Ohm leaves between open circuit and the cut-off, by hand", () => {
    const { system, rest, allowed } = atLimit(jobOf({ bank: { capacityAh: q(200) } }));
    const ohms = system.bank.innerResistance + system.wiring.resistance;
    const cutOff = farCutOff(system);
    expect(system.loads.dc).toBe(0);
    expect(allowed.power).toBeCloseTo(((rest - cutOff) / ohms) * cutOff, 6);
  });
  it("is nothing where the DC loads alone bring the battery to its stop", () => {
    const { system, rest } = atLimit(jobOf({ bank: { capacityAh: q(100) } }));
    const { stopVoltage, innerResistance } = system.bank;
    const enough = ((rest - stopVoltage) / innerResistance) * stopVoltage;
    expect(atLimit(jobOf({ bank: { capacityAh: q(100) } }), 1.01 * enough).allowed.power).toBe(0);
  });
});
