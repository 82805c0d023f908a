/* From measured draw: each way of reading comes to the same current at the battery. */
import { describe, expect, it } from "vitest";
import fc from "fast-check";
import { cases } from "../../../tests/cases";
import { q, jobOf } from "../../../tests/jobs";
import { randomJob } from "../../../tests/random-jobs";
import { startShape } from "../simulation/start/demand";
import { resolveJob } from "./resolve";
import { assess } from "../assessment/verdicts/assess";
import { readJob, type Job } from "./schema";
import { drawFindings, DRAW_STATES, meaningOf, type DrawContext, type DrawReading } from "./draw-readings";

const context: DrawContext = {
  batteryVolts: 12.8,
  capacityAh: 400,
  acVolts: 120,
  powerFactor: 0.95,
  lossPerWatt: 0.1,
  direct: false,
};
const at = { id: "r", state: "full" as const };

describe("what a reading means for the air conditioner alone", () => {
  it.each<[string, DrawReading, number]>([
    // Fact of the trade, common practice, no source: 79 A with the unit on a 6 A base load is 73 A of the unit.
    ["battery amps with 6 A of other loads", { ...at, kind: "battery-current", current: 79, otherA: 6 }, 73],
    ["battery amps net of 20 A of sun", { ...at, kind: "battery-current", current: 59, solarA: 20, otherA: 6 }, 73],
    ["battery watts", { ...at, kind: "battery-power", power: 934.4 }, 73],
    ["battery watts at their own volts", { ...at, kind: "battery-power", power: 949, volts: 13 }, 73],
    // 13.5 A at 120 V and a power factor of 0.95 is 1539 W; with a tenth of inverter loss 132 A at 12.8 V.
    ["AC amps", { ...at, kind: "ac-current", current: 13.5 }, 132.26],
    ["AC watts", { ...at, kind: "ac-power", power: 1539 }, 132.26],
    ["3 kWh on an energy meter in 2 h", { ...at, kind: "energy", energy: 3000, hours: 2 }, 128.9],
    // Fact of the trade, common practice, no source: 100 to 80 % of 400 Ah in two hours is 40 A.
    ["100 to 80 % in two hours", { ...at, kind: "percent", from: 1, to: 0.8, hours: 2 }, 40],
    ["a time-to-go of 4 h at 90 % down to 10 %", { ...at, kind: "time-to-go", charge: 0.9, floor: 0.1, hours: 4 }, 80],
  ])("%s", (_, reading, amps) => {
    const meaning = meaningOf(reading, context);
    expect(meaning.addedA).toBeCloseTo(amps, 1);
    expect(meaning.fault).toBe("");
  });
  it.each<[string, DrawReading, RegExp]>([
    ["a percentage that rose", { ...at, kind: "percent", from: 0.5, to: 0.6, hours: 1 }, /must fall/],
    [
      "a floor above the percentage",
      { ...at, kind: "time-to-go", charge: 0.2, floor: 0.3, hours: 1 },
      /above the floor/,
    ],
    ["more other loads than amps", { ...at, kind: "battery-current", current: 5, otherA: 9 }, /nothing is left/],
  ])("%s says nothing, and why", (_, reading, message) => {
    expect(meaningOf(reading, context).fault).toMatch(message);
  });
  it("a percentage that fell little is less sure than one that fell much", () => {
    const of = (to: number) => meaningOf({ ...at, kind: "percent", from: 1, to, hours: 1 }, context).spread;
    expect(of(0.98)).toBeGreaterThan(3 * of(0.8));
  });
});

describe("readings at several outdoor temperatures", () => {
  const clamp = (current: number, outdoorC: number): DrawReading => ({
    ...at,
    id: `at-${outdoorC}`,
    kind: "ac-current",
    current,
    outdoorC,
  });
  it("give the unit's own rise: a 14 A roof unit takes 1 A more for each 10 °F (common practice, no source)", () => {
    const { line } = drawFindings([clamp(14, 35), clamp(15, 40.56), clamp(16, 46.11)], context);
    expect(line!.perKelvin).toBeCloseTo(1 / 14 / (10 / 1.8), 3);
    expect(line!.count).toBe(3);
    expect(line!.at35).toBeCloseTo(meaningOf(clamp(14, 35), context).addedA, 1);
  });
  it("less than 3 K apart give no slope", () => {
    expect(drawFindings([clamp(14, 35), clamp(15, 37.9)], context).line).toBeNull();
  });
  it("do not disagree for their temperatures alone", () => {
    expect(drawFindings([clamp(14, 20), clamp(17, 36)], context).disagree).toEqual([]);
    expect(drawFindings([clamp(14, 36), clamp(19, 36)], context).disagree).toHaveLength(1);
  });
  it("stand for the draw and its rise in the job", () => {
    const readings: DrawReading[] = [28, 32, 36, 40].map((outdoorC) => ({
      ...at,
      id: `b${outdoorC}`,
      kind: "battery-current",
      current: 100 * (1 + 0.02 * (outdoorC - 35)),
      outdoorC,
    }));
    const { units } = resolveJob(jobOf({ unit: { readings } }));
    expect(units[0]!.powerPerKelvin).toMatchObject({ origin: "fitted" });
    expect(units[0]!.powerPerKelvin.value).toBeCloseTo(0.02, 6);
    expect(units[0]!.dcRunningCurrent!.value).toBeCloseTo(110, 6);
    expect(units[0]!.measuredAtC!.value).toBe(40);
  });
});

describe("several readings", () => {
  const shunt: DrawReading = { ...at, id: "shunt", kind: "battery-current", current: 79, otherA: 6, outdoorC: 33 };
  const monitor: DrawReading = { ...at, id: "ttg", kind: "time-to-go", charge: 1, floor: 0, hours: 4.5 };
  it("the surest of a state is used, whichever came first", () => {
    for (const list of [
      [shunt, monitor],
      [monitor, shunt],
    ])
      expect(drawFindings(list, context).best.full!.reading.id).toBe("shunt");
  });
  it("those that disagree are named, those within their uncertainty are not", () => {
    expect(drawFindings([shunt, monitor], context).disagree).toEqual([]);
    const wrong: DrawReading = { ...at, id: "wrong", kind: "ac-power", power: 1600 };
    expect(drawFindings([shunt, wrong], context).disagree).toEqual(["wrong"]);
  });
  it("go into the unit's figures as measured, with their outdoor temperature", () => {
    const job = jobOf({ unit: { readings: [shunt, { ...shunt, id: "h", state: "holding", current: 40 }] } });
    const [unit] = resolveJob(job).units;
    expect(unit!.dcRunningCurrent).toMatchObject({ value: 73, origin: "measured" });
    expect(unit!.dcAverageCurrent).toMatchObject({ value: 34, origin: "measured" });
    expect(unit!.measuredAtC).toMatchObject({ value: 33, origin: "measured" });
    expect(assess(job).hours.map(({ mode }) => mode)).toContain("measured");
  });
  it("what was entered for a state comes before its readings", () => {
    const job = jobOf({ unit: { readings: [shunt], dcRunningCurrent: q(70, "measured") } });
    expect(resolveJob(job).units[0]!.dcRunningCurrent!.value).toBe(70);
  });
  it("a document with a reading out of range is refused by its path", () => {
    const job = jobOf({ unit: { readings: [{ ...shunt, current: 99_999 }] } });
    expect(readJob(job)).toMatchObject({ ok: false, faults: [{ path: "units.0.readings.0.current" }] });
  });
});

describe("a reading of running draw and the start", () => {
  const running = { apparent: 1500, real: 1400, fan: 100, volts: 120 };
  /** Amps at the peak of the first unit's start. */
  const peak = (job: Job) => startShape(job.units[0]!, resolveJob(job).units[0]!, running, "none").peakCurrent;

  it("never lowers the start's demand, of any random fixed-speed unit and any reading", () => {
    const reading = fc.record({
      id: fc.constant("r"),
      state: fc.constantFrom(...DRAW_STATES),
      kind: fc.constant("battery-current" as const),
      current: fc.double({ min: 1, max: 200, noNaN: true }),
    });
    fc.assert(
      fc.property(randomJob(false), reading, (random, one) => {
        const job: Job = { ...random, units: random.units.map((unit) => ({ ...unit, kind: "fixed", readings: [] })) };
        const read = { ...job, units: job.units.map((unit) => ({ ...unit, readings: [one] })) };
        expect(peak(read)).toBeGreaterThanOrEqual(peak(job) - 1e-9);
        const clamped = job.units.map((unit) => ({ ...unit, runningCurrent: q(3, "measured") }));
        const bare = job.units.map(({ runningCurrent: _, ...unit }) => unit);
        expect(peak({ ...job, units: clamped })).toBeGreaterThanOrEqual(peak({ ...job, units: bare }) - 1e-9);
      }),
      { numRuns: cases(100, 500) },
    );
  });

  it("leaves a start that fails by the capacity failing on a mild day", () => {
    // 13,500 BTU/h draw some 12 A at 35 degC outdoors and start at 60 A; on a mild day 8 A are read.
    const unit = { coolingPower: q(3956) };
    const without = jobOf({ unit, mains: "120V60Hz", inverter: { rating: q(3000) } });
    const reading = { id: "r", state: "full" as const, kind: "ac-current" as const, current: 8, outdoorC: 20 };
    const mild = { ...without, units: [{ ...without.units[0]!, readings: [reading] }] };
    expect(resolveJob(mild).units[0]!.lockedRotorCurrent).toMatchObject({
      value: resolveJob(without).units[0]!.lockedRotorCurrent.value,
      origin: "assumed",
    });
    expect(assess(mild).verdicts.starts.word).toBe(assess(without).verdicts.starts.word);
  });
});
