import { describe, expect, it } from "vitest";
import { q, jobOf } from "../../../../tests/jobs";
import { emptySpan, type Job, type PlanSpan } from "../../document/schema";
import { recordOf } from "../../simulation/day/record";
import { simulate } from "../../simulation/day/simulate";
import { resolveJob } from "../../document/resolve";
import { buildSystem } from "../system/build";
import {
  heatFactor,
  LOW_FAN_CAPACITY,
  LOWEST_SPEED,
  partLoadFactor,
  speedAtPower,
  variablePowerShare,
} from "./air-conditioner";

const drawsOf = (parts: Parameters<typeof jobOf>[0]) => {
  const system = buildSystem(jobOf(parts));
  return { ...system.units[0]!, system };
};
/** The rating point's outdoor temperature: nothing is corrected for heat there. */
const RATED = { outdoorC: 35 };

describe("what a unit draws while it runs", () => {
  it("is volts times amps times power factor by its plate", () => {
    const { running, runningApparent } = drawsOf({
      ...RATED,
      unit: { runningCurrent: q(6), runningPowerFactor: q(0.95) },
    });
    expect(running.value).toBeCloseTo(230 * 6 * 0.95, 6);
    expect(runningApparent.value).toBeCloseTo(230 * 6, 6);
  });
  it("is the plate's watts where it has no amps", () => {
    expect(drawsOf({ ...RATED, unit: { ratedPower: q(1200) } }).running.value).toBeCloseTo(1200, 6);
  });
  // Goes over its rated point by common practice: 14 % more power for 10 % more cooling.
  it.each<[string, NonNullable<Parameters<typeof jobOf>[0]>["unit"], number, number]>([
    ["its plate's watts", { kind: "variable", ratedPower: q(600) }, 684, 684 / 0.98],
    ["its plate's amps", { kind: "variable", runningCurrent: q(3), runningPowerFactor: q(1) }, 786.6, 786.6],
    ["its cooling alone", { kind: "variable", coolingPower: q(2640) }, 912, 912 / 0.98],
    ["the watts measured at full", { kind: "variable", ratedPower: q(600, "measured") }, 600, 600 / 0.98],
    [
      "the amps measured at full",
      { kind: "variable", runningCurrent: q(3, "measured"), runningPowerFactor: q(1), measuredAtC: q(35) },
      690,
      690,
    ],
    ["its plate's watts on the battery", { kind: "dc", ratedPower: q(500) }, 570, 570],
    ["its plate's maximum", { kind: "variable", ratedPower: q(600), maximumPower: q(900) }, 900, 900 / 0.98],
    [
      "a maximum below its rating as if it were that",
      { kind: "variable", ratedPower: q(600), maximumPower: q(500) },
      600,
      600 / 0.98,
    ],
  ])("at a variable unit's top speed follows from %s", (_, unit, watts, apparent) => {
    const { running, runningApparent } = drawsOf({ ...RATED, unit });
    expect(running.value).toBeCloseTo(watts, 6);
    expect(runningApparent.value).toBeCloseTo(apparent, 6);
  });
  it("by amps at the battery is what the inverter makes of them: its own losses close the sum", () => {
    const { running, system } = drawsOf({ ...RATED, unit: { dcRunningCurrent: q(100, "measured") } });
    const { inverter, bank, wiring } = system;
    const volts = system.bankFigures.restHalf.value - 100 * (bank.innerResistance + wiring.resistance);
    const { lossShare, lossRise, rating } = inverter;
    const back = running.value * (1 + lossShare) + (lossRise * running.value ** 2) / rating;
    expect(back).toBeCloseTo(100 * volts, 3);
  });
  it("on battery DC is its amps at the volts that they leave", () => {
    const { running, system } = drawsOf({ ...RATED, unit: { kind: "dc", dcRunningCurrent: q(40, "measured") } });
    const volts = system.bankFigures.restHalf.value - 40 * (system.bank.innerResistance + system.wiring.resistance);
    expect(running.value).toBeCloseTo(40 * volts, 6);
  });
  it.each<[string, NonNullable<Parameters<typeof jobOf>[0]>["unit"], number, number]>([
    ["a window unit of 5,000 BTU/h", { coolingPower: q(1465) }, 440, 480],
    ["a roof unit of 13,500 BTU/h", { coolingPower: q(3956) }, 1300, 1580],
    ["a variable one", { kind: "variable", coolingPower: q(3956) }, 1120, 1410],
    ["a sea-water unit of 16,000 BTU/h", { coolingPower: q(4689), condenser: "sea" }, 1230, 1460],
    ["a variable sea-water unit", { kind: "variable", coolingPower: q(4689), condenser: "sea" }, 880, 1140],
    ["a DC roof unit", { kind: "dc", coolingPower: q(2000) }, 570, 770],
    ["a wall split of 9,000 BTU/h", { kind: "variable", coolingPower: q(2638), condenser: "split" }, 650, 850],
  ])("from its cooling alone lies in what efficiency rules and plates show (from memory): %s", (_, unit, low, high) => {
    const values = resolveJob(jobOf({ unit })).units[0]!;
    expect(values.ratedPower.value).toBeGreaterThanOrEqual(low);
    expect(values.ratedPower.value).toBeLessThanOrEqual(high);
  });
  it("by the sea does not follow the air, and grows with the sea", () => {
    const at = (outdoorC: number, seaC: number) => {
      const job = jobOf({ outdoorC, unit: { condenser: "sea", coolingPower: q(4689) } });
      return buildSystem({ ...job, place: { ...job.place, seaC: q(seaC) } }).units[0]!.running.value;
    };
    expect(at(45, 27)).toBe(at(30, 27));
    expect(at(30, 31)).toBeGreaterThan(at(30, 27));
  });
  it("grows with the heat from the point at which it is known", () => {
    const at = (outdoorC: number) => drawsOf({ outdoorC, unit: { runningCurrent: q(6) } }).running.value;
    expect(at(45)).toBeGreaterThan(at(35));
    expect(at(45) / at(35)).toBeCloseTo(heatFactor(0.013, 45, 35), 6);
  });
  it("counts the pump of a sea-water unit beside its plate, and not twice beside amps at the battery", () => {
    const sea = { condenser: "sea" as const, pumpPower: q(60) };
    expect(drawsOf({ unit: { ...sea, runningCurrent: q(6) } }).pump).toBe(60);
    const [read, air] = [sea, { condenser: "outside" as const }].map((unit) =>
      drawsOf({ unit: { ...unit, dcRunningCurrent: q(90, "measured") } }),
    );
    expect(read!.known.value + read!.pump).toBeCloseTo(air!.known.value, 6);
  });
});

describe("what a unit draws otherwise", () => {
  it("on its fan is no more than it draws in full", () => {
    const { fan, running } = drawsOf({ ...RATED, unit: { runningCurrent: q(0.2), fanPower: q(500) } });
    expect(fan.value).toBe(running.value);
  });
  it("on its low fan, at fixed speed, is less by what the fan draws less", () => {
    const { low, running } = drawsOf({
      ...RATED,
      unit: { runningCurrent: q(6), fanPower: q(150), fanLowPower: q(60) },
    });
    expect(low.value).toBeCloseTo(running.value - 90, 6);
  });
  it("of a wall split, at half its cooling, is 1.4 to 1.7 times as much cooling a watt, and 15 to 20 % of full at its lowest speed (common practice, no source)", () => {
    const { bend } = drawsOf({ unit: { kind: "variable", runningCurrent: q(6), condenser: "split" } });
    expect(0.5 / variablePowerShare(0.5, bend)).toBeGreaterThan(1.4);
    expect(0.5 / variablePowerShare(0.5, bend)).toBeLessThan(1.7);
    expect(variablePowerShare(LOWEST_SPEED, bend)).toBeGreaterThan(0.15);
    expect(variablePowerShare(LOWEST_SPEED, bend)).toBeLessThan(0.2);
  });
  it("on its low fan, at variable speed, is between 0.45 and a half of full, as roof units are (common practice, no source)", () => {
    const { low, running } = drawsOf({ ...RATED, unit: { kind: "variable", runningCurrent: q(6) } });
    expect(low.value / running.value).toBeGreaterThan(0.45);
    expect(low.value / running.value).toBeLessThan(0.5);
  });
});

describe("the duty that was measured", () => {
  it("comes from the average between the draw at rest and running", () => {
    const { holding, running, fan } = drawsOf({
      ...RATED,
      unit: {
        dcRunningCurrent: q(100, "measured"),
        dcAverageCurrent: q(60, "measured"),
        dcFanCurrent: q(5, "measured"),
        fanBetween: true,
      },
    });
    const { duty, average } = holding!;
    expect(duty.value * running.value + (1 - duty.value) * fan.value).toBeCloseTo(average.value, 6);
    expect(duty.value).toBeGreaterThan(0.5);
    expect(duty.value).toBeLessThan(0.65);
  });
  it("of a variable unit is the speed whose power that is", () => {
    const { holding, running } = drawsOf({
      ...RATED,
      unit: { kind: "variable", dcRunningCurrent: q(100, "measured"), dcAverageCurrent: q(50, "measured") },
    });
    const { duty, average } = holding!;
    expect(variablePowerShare(duty.value) * running.value).toBeCloseTo(average.value, 6);
  });
  it("as entered gives the average power back", () => {
    const { holding, running } = drawsOf({
      ...RATED,
      unit: { runningCurrent: q(6), dutyCycle: q(0.4), fanBetween: false },
    });
    expect(holding!.average.value).toBeCloseTo(0.4 * running.value, 6);
  });
  it("is none where nothing was measured", () => {
    expect(drawsOf({ unit: { runningCurrent: q(6) } }).holding).toBeNull();
  });
});

describe("part load", () => {
  it("of a variable unit goes from its power at full to its speed and back", () => {
    for (const speed of [0.25, 0.4, 0.7, 1]) expect(speedAtPower(variablePowerShare(speed))).toBeCloseTo(speed, 9);
  });
  // AHRI 210/240, older default of the degradation coefficient: 0.25 (from memory).
  it("of a cycling unit costs a quarter at no load and nothing at full", () => {
    expect(partLoadFactor(1)).toBe(1);
    expect(partLoadFactor(0)).toBe(0.75);
  });
});

describe("a unit whose low fan was measured at the battery", () => {
  const variable = (low: number) =>
    drawsOf({
      ...RATED,
      unit: {
        kind: "variable",
        dcRunningCurrent: q(100, "measured"),
        dcLowCurrent: q(low, "measured"),
        measuredAtC: q(35),
      },
    });
  it.each([30, 42, 60])("of %i A draws so at the cooling of its low fan, and all of its full draw at full", (low) => {
    const { bend, known, low: lowFan } = variable(low);
    expect(variablePowerShare(LOW_FAN_CAPACITY, bend) * known.value).toBeCloseTo(lowFan.value, 6);
    expect(variablePowerShare(1, bend)).toBeCloseTo(1, 9);
    expect(speedAtPower(variablePowerShare(0.7, bend), bend)).toBeCloseTo(0.7, 9);
  });
  it("takes no reading for a curve that no unit has", () => {
    expect([variable(2).bend, variable(95).bend, variable(120).bend]).toEqual([2, 0.5, 1]);
  });
  it("saves what was measured, where its speed is fixed", () => {
    const { lowFanSaving, known, low } = drawsOf({
      ...RATED,
      unit: { dcRunningCurrent: q(100, "measured"), dcLowCurrent: q(92, "measured"), measuredAtC: q(35) },
    });
    expect(lowFanSaving).toBeCloseTo(known.value - low.value, 6);
  });
  // A run that passed over the reading said another time than the hours at a constant low fan beside it.
  it.each(["variable", "fixed"] as const)("draws on the low fan in the day's run what was read, %s speed", (kind) => {
    const low = kind === "variable" ? 60 : 92;
    const base = jobOf({
      outdoorC: 35,
      brief: { loads: [] },
      unit: {
        kind,
        dcRunningCurrent: q(100, "measured"),
        dcLowCurrent: q(low, "measured"),
        measuredAtC: q(35),
        condenserRise: q(0),
        powerPerKelvin: q(0),
      },
      bank: { capacityAh: q(400), parallel: q(4) },
      inverter: { rating: q(3000) },
    });
    const unit = {
      ...(emptySpan("unit", "u", 720, 300) as Extract<PlanSpan, { kind: "unit" }>),
      mode: "low" as const,
      setPointC: q(10),
    };
    const job: Job = {
      ...base,
      plan: { start: null, days: 1, week: [], patterns: [{ id: "d", name: "Day", spans: [unit] }] },
    };
    const { units } = recordOf(simulate(job, { days: 0.15, minuteOfDay: 720, noOverload: true }));
    const read = buildSystem(job).units[0]!.low.value;
    // Wet bulb of the room and its fall move a unit's power by some percent.
    expect(units[90]! / read).toBeGreaterThan(0.85);
    expect(units[90]! / read).toBeLessThan(1.1);
  });
});
