/* Apply tells the truth: a log is replayed with the job as it would be, and what no finding explains is named. */
import { describe, expect, it } from "vitest";
import { q, testRunVan } from "../../../../../tests/jobs";
import { readJob, type Job } from "../../../document/schema";
import { cabinModel } from "../../../models/cabin/cabin";
import { buildSystem } from "../../../models/system/build";
import { resolveJob } from "../../../document/resolve";
import { acceptFound, calibrate, type Found, type FoundKey } from "../inference/calibrate";
import { ahead } from "../inference/forecast";
import { fit, testRunOf } from "../inference/test-run";
import { fromList, type Reading } from "../log/readings";
import { makeSimulator } from "../simulator/simulator";
import { NOTHING_SAID } from "../site/conditions";
import { appliedOf } from "./applied";

const T0 = Date.UTC(2026, 6, 14, 19);
const job = testRunVan();
const parts = cabinModel(resolveJob(job), job).heatLoss;

/** Two hours of a system that is not as its job says, and what was found in them. */
function found(hidden: Job, { seed = 5, moreA = 0, told = job, startSoc = null as number | null } = {}) {
  const { readings } = makeSimulator(hidden, { seed, faults: [], every: 30 }, T0);
  const list: Reading[] = readings
    .filter(({ timeMs }) => timeMs <= T0 + 2 * 3_600_000)
    .map(({ timeMs, values }) => ({
      timeMs,
      values: { ...values, battery_current_a: values.battery_current_a! - moreA },
    }));
  const testRun = testRunOf(told, fromList(list), { ...NOTHING_SAID, startSoc });
  const population = fit(testRun, { particles: 150 })!;
  const forecast = ahead(testRun, population);
  const offered = calibrate(testRun, population).filter((one) => one.offered);
  const apply = (taken: Found[]) => appliedOf(job, { testRun, population }, taken, forecast.hoursToReserve);
  return { offered, apply };
}
const leaky: Job = { ...job, cabin: { ...job.cabin, heatLoss: q(1.5 * parts) } };
const strong: Job = {
  ...job,
  units: job.units.map((unit) => ({ ...unit, ratedPower: q(1.15 * unit.ratedPower!.value) })),
  cabin: { ...job.cabin, heatLoss: q(1.2 * parts) },
};

describe.each([
  ["a cabin of half as much heat loss again", leaky],
  ["a unit that draws more in a leakier cabin", strong],
])("%s", (_, hidden) => {
  const { offered, apply } = found(hidden);
  const applied = apply(offered);
  it("draws with the findings what was read, or says what stays unexplained in watts and amps", () => {
    const off = (one: { readW: number; replayedW: number }) => Math.abs(one.replayedW / one.readW - 1);
    if (applied.unexplained) {
      expect(Math.abs(applied.unexplained.watts)).toBeGreaterThan(0.05 * applied.after.readW);
      expect(applied.unexplained.words).toMatch(/\d A \(\d+ W\)/);
    } else expect(off(applied.after)).toBeLessThan(0.06);
    // A running current read in a dry cabin lies two hundredths under that of the rating's air.
    expect(off(applied.after)).toBeLessThan(off(applied.before) + 0.025);
  });
  it("lasts as long as the run's own forecast says, or says why not", () => {
    const hours = applied.after.hoursToReserve ?? 48;
    const inside = hours >= (applied.forecast.p10 ?? 48) && hours <= (applied.forecast.p90 ?? 48);
    expect(inside || applied.whyOutside !== null).toBe(true);
    expect(inside && applied.whyOutside !== null).toBe(false);
  });
  it("has a charge and a cabin that were held against the log", () => {
    expect(Math.abs(applied.after.replayedAh / applied.after.readAh - 1)).toBeLessThan(0.15);
    expect(Math.abs(applied.after.cabinOffK!)).toBeLessThan(2.5);
  });
});

it("a reserve that the run has passed stands as its moment, and is no forecast", () => {
  const { offered, apply } = found(job, { startSoc: 0.25 });
  const { forecast, passed, after, whyOutside } = apply(offered);
  expect(passed).toBe(true);
  expect(forecast.p50).toBeGreaterThan(0);
  // Two hours of log: a forecast from its end on would be later.
  expect(forecast.p50).toBeLessThan(2);
  expect(forecast.p10).toBe(forecast.p90);
  const meets = Math.abs(after.hoursToReserve! / forecast.p50! - 1) <= 0.1;
  expect(whyOutside === null).toBe(meets);
});

it("13 A of which no finding is taken are named, and held back from the job", () => {
  const { offered, apply } = found(job, { moreA: 13 });
  const without = apply(offered.filter(({ key }) => key !== "base" && key !== "heatLoss"));
  expect(without.unexplained!.amps).toBeGreaterThan(9);
  expect(without.unexplained!.amps).toBeLessThan(17);
  expect(without.unexplained!.words).toMatch(/no finding explains: look for another load/);
  expect(without.job.brief.loads).toEqual(job.brief.loads);
});

it("a running current read on a mild night is that of its night: on a hot day the job draws more", () => {
  const running = found(job).offered.find(({ key }) => key === "running")!;
  expect(running.atC).toBeLessThan(32);
  const wattsAt = (highestC: number, measuredAtC?: number) => {
    const next = acceptFound(job, running);
    next.units = next.units.map((unit) => ({ ...unit, measuredAtC: q(measuredAtC ?? unit.measuredAtC!.value) }));
    return buildSystem({ ...next, weather: { ...next.weather, kind: "own", highestC: q(highestC) } }).units[0]!.running
      .value;
  };
  // 1.3 % a kelvin: a fixed-speed roof unit (common practice, no source).
  expect(wattsAt(40) / wattsAt(40, 40)).toBeCloseTo((1 + 0.013 * 5) / (1 + 0.013 * (running.atC! - 35)), 2);
  // A unit whose other readings have a day of their own keeps it: the amps are brought there.
  const other: Job = { ...job, units: job.units.map((unit) => ({ ...unit, measuredAtC: q(35) })) };
  const there = found(other, { told: other }).offered.find(({ key }) => key === "running")!;
  expect(there.entered / there.value).toBeCloseTo(1 / (1 + 0.013 * (there.atC! - 35)), 2);
  expect(acceptFound(other, there).units[0]!.measuredAtC!.value).toBe(35);
});

it.each<FoundKey>([
  "running",
  "fan",
  "base",
  "inverterLoss",
  "bankResistance",
  "capacity",
  "heatLoss",
  "slowMass",
  "solarGain",
  "solarFactor",
])("a job with a finding of %s in it is a document that can be stored", (key) => {
  const one = { key, entered: 0.5, origin: "measured" } as Found;
  const values = {
    heatLoss: 60,
    slowMass: 1e6,
    base: 40,
    running: 50,
    fan: 8,
    inverterLoss: 0.06,
    bankResistance: 0.004,
  };
  const read = readJob(acceptFound(job, { ...one, entered: (values as Record<string, number>)[key] ?? 0.9 }));
  expect(read.ok ? [] : read.faults).toEqual([]);
});
