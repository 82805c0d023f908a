import { describe, expect, it } from "vitest";
import type { Job } from "@/core/document/schema";
import { cases } from "../../../../../tests/cases";
import { ownRun } from "../../../../../tests/foreign/own";
import { scoreOne, summarise, type Scored } from "../../../../../tests/foreign/score";
import { demoJob, q, testRunVan } from "../../../../../tests/jobs";
import { calibrate } from "../inference/calibrate";
import { fit, testRunOf } from "../inference/test-run";
import { emptyReadings, type Readings } from "../log/readings";
import { severalOf } from "./several";
import { expectedStep } from "./segment";

const T0 = Date.UTC(2026, 6, 14, 14);
/** The van of the test run's tests, its cooling and draw shared by two units of their own thermostats. */
const twins = (kind: "fixed" | "variable" = "fixed"): Job => {
  const job = testRunVan({ kind });
  const half = { ...job.units[0]!, coolingPower: q(1000), ratedPower: q(350) };
  return { ...job, units: [half, { ...half, id: "unit-2" }] };
};

/** Two units of 25 A each over 15 A: half an hour both, then one 8 on and 8 off, the other 5 on and 10 off, by half minutes. */
function drawn({ mains = false, minutes = 150 } = {}): Readings {
  const log = emptyReadings(minutes * 2);
  for (let i = 0; i < log.timeMs.length; i++) {
    const min = i / 2;
    const first = min < 30 || (min - 30) % 16 >= 8;
    const second = min < 30 || (min - 30) % 15 >= 10;
    const amps = 15 + (first ? 25 : 0) + (second ? 25 : 0);
    log.timeMs[i] = T0 + i * 30_000;
    log.values.battery_current_a[i] = -amps;
    log.values.battery_voltage_v[i] = 13;
    if (mains) log.values.ac_power_w[i] = 60 + (first ? 285 : 0) + (second ? 285 : 0);
  }
  return log;
}
/** What both run together after the first half hour, as a share of all. */
const RUN = (8 / 16 + 5 / 15) / 2;

describe("several fixed-speed units", () => {
  it.each([false, true])("are told between all at rest and all running; mains read: %s", (mains) => {
    const { segments } = testRunOf(twins(), drawn({ mains }));
    expect(segments.several).toBe(true);
    expect(segments.levels.between!.value).toBeCloseTo(15 * 13, -1);
    expect(segments.levels.running!.value).toBeCloseTo(65 * 13, -1);
    const after = segments.windows.filter(({ fromS }) => fromS >= 1800);
    const share = after.reduce((sum, w) => sum + w.share * (w.toS - w.fromS), 0);
    expect(share / after.reduce((sum, w) => sum + (w.toS - w.fromS), 0)).toBeCloseTo(RUN, 1);
  });
  it("end their pull-down when the first of them rests", () => {
    expect(testRunOf(twins(), drawn()).segments.pullDown).toEqual({ fromS: 0, toS: 1800 });
  });
  it.each([
    ["all of them running from the start", 20, 65, 15],
    ["none of them", 0, 15, 15],
  ])("have their other end from the system where a log shows %s", (_, pulled, amps, off) => {
    const log = drawn({ minutes: Math.max(20, pulled) });
    log.values.battery_current_a.fill(-amps);
    const { site, segments } = testRunOf(twins(), log);
    const step = expectedStep(site, site.outdoorC[0]!);
    const found = severalOf({
      site,
      watts: segments.watts,
      mains: null,
      litAt: new Uint8Array(segments.watts.length),
      step,
      pace: 30,
    })!;
    expect(found.on - found.off).toBeCloseTo(step, 6);
    if (amps === 65) expect(found.on).toBeCloseTo(65 * 13, 0);
    else expect(found.off).toBeCloseTo(off * 13, 0);
  });
  it("are not one unit, nor variable ones", () => {
    for (const job of [testRunVan(), twins("variable")]) expect(testRunOf(job, drawn()).segments.several).toBe(false);
  });
  it("have their draw told together, and offered to none", () => {
    const testRun = testRunOf(twins(), drawn());
    const found = calibrate(testRun, fit(testRun, { particles: 60, rounds: 2, lastRounds: 2 })!);
    const running = found.find(({ key }) => key === "running")!;
    expect(running.label).toBe("Added battery current, all air conditioners on");
    expect(running.offered).toBe(false);
    expect(found.filter(({ key }) => key === "heatLoss").every(({ offered }) => offered)).toBe(true);
  });
  it("of a demo job are looked at without a fault", () => {
    const job = demoJob("2-marionette");
    const both = { ...job, units: [job.units[0]!, { ...job.units[0]!, id: "second" }] };
    expect(testRunOf(both, drawn()).segments.windows.length).toBeGreaterThan(0);
  });
  it("of the core's own runs are forecast well within what a hand's average says, and honestly", () => {
    const scored: Scored[] = [];
    for (let seed = 401; seed < 401 + cases(12, 50); seed++) {
      const run = ownRun(seed, 2);
      if (!run?.kind.fixed) continue;
      for (const cut of [30, 60, 120]) {
        const one = scoreOne(run.job, run.readings, run.reserveH, cut, [], { particles: 150 });
        if (one) scored.push(one);
      }
    }
    const { runs, median, coverage, hand } = summarise(scored);
    expect(runs).toBeGreaterThan(10);
    // Taken as one unit of two levels they had 13 % in the median and two thirds inside (seeds 1 to 150).
    expect(median).toBeLessThan(0.12);
    expect(median).toBeLessThan(0.8 * hand.average);
    expect(coverage).toBeGreaterThan(0.75);
  }, 120_000);
});
