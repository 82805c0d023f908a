import { describe, expect, it } from "vitest";
import { cases } from "../../../../../tests/cases";
import { foreignRun, onlyCurrent } from "../../../../../tests/foreign/simulator";
import { roofPanels, testRunVan } from "../../../../../tests/jobs";
import { meanwhile } from "./charged";
import { ahead } from "../inference/forecast";
import { fit, testRunOf } from "../inference/test-run";
import { firstMinutes, fromList, type Readings } from "../log/readings";
import { heldAgainst, outcomeOf, forecastSnapshot } from "../report/record";
import { answer, answerAsJson, whyDifferent } from "../report/report";
import { segment } from "./segment";
import { siteOf } from "../site/site";
import { viewOf } from "../report/view";

const T0 = Date.UTC(2026, 6, 14, 14);

/** The same log with so many amps more into the battery between two minutes of it. */
function fed(log: Readings, amps: number, fromMin: number, toMin: number): Readings {
  const current = log.values.battery_current_a.map((a, i) => {
    const min = (log.timeMs[i]! - log.timeMs[0]!) / 60_000;
    return min >= fromMin && min < toMin ? a + amps : a;
  });
  return { ...log, values: { ...log.values, battery_current_a: current } };
}

const partsOf = (job: Parameters<typeof siteOf>[0], log: Readings) => {
  const { timeMs } = log;
  return segment(
    log,
    siteOf(job, { startMs: timeMs[0]!, seconds: (timeMs[timeMs.length - 1]! - timeMs[0]!) / 1000 + 3600 }),
  );
};

/** Three hours of a fixed-speed unit by the minute: 30 of pull-down, then six on and six off, 70 and 15 A. */
const cycling = fromList(
  Array.from({ length: 180 }, (_, i) => ({
    timeMs: T0 + i * 60_000,
    values: { battery_current_a: i < 30 || i % 12 < 6 ? -70 : -15 },
  })),
);

/** Foreign runs whose first two hours are whole, read every 10 to 30 s. */
const foreign = Array.from({ length: 40 }, (_, i) => foreignRun(401 + i)).flatMap((run) =>
  run && run.readings.timeMs[1]! - run.readings.timeMs[0]! <= 30_000 ? [run] : [],
);

describe("a battery that is charged while a log runs", () => {
  it("is told by the current alone where more comes in than panels could give", () => {
    const { charged, chargedAt, cycles } = partsOf(testRunVan(), fed(cycling, 90, 72, 108));
    expect(charged).toHaveLength(1);
    expect(charged[0]!.fromS / 60).toBeCloseTo(72, 0);
    expect(charged[0]!.toS / 60).toBeCloseTo(107, 0);
    expect(charged[0]!.amps).toBeGreaterThan(80);
    expect(charged[0]!.amps).toBeLessThan(100);
    expect(chargedAt.reduce((n, here) => n + here, 0)).toBe(36);
    expect(cycles.some(({ onS, offS }) => meanwhile(charged, onS, offS))).toBe(false);
  });
  it("has no windows there but where the AC watts say what the unit did, and no state", () => {
    const mains = {
      ...cycling,
      values: { ...cycling.values, ac_power_w: cycling.values.battery_current_a.map((a) => (a < -20 ? 700 : 60)) },
    };
    for (const [log, told] of [
      [cycling, false],
      [mains, true],
    ] as const) {
      const { windows, charged } = partsOf(testRunVan(), fed(log, 90, 72, 108));
      const inside = windows.filter(({ fromS, toS }) => meanwhile(charged, fromS, toS));
      expect(inside.length > 0).toBe(told);
      // Half on and half off: the share that the mains shows.
      for (const { share } of inside) expect(share).toBeCloseTo(0.5, 1);
      expect(windows.length).toBeGreaterThan(3);
      const { answer: made } = viewOf(testRunVan(), fed(log, 90, 72, 108), { particles: 20 })!;
      if (!made.ok) throw new Error(made.message);
      expect(made.view.states.some(({ state }) => state === "untold")).toBe(!told);
    }
  });
  it.each([
    ["a rest that takes a little in by the monitor's zero", 17, 60, 120],
    ["three minutes of it", 90, 72, 74],
    ["what lowers a draw and turns nothing round", 10, 60, 120],
  ])("is not said of %s", (_, amps, fromMin, toMin) => {
    expect(partsOf(testRunVan(), fed(cycling, amps, fromMin, toMin)).charged).toEqual([]);
  });
  it("is not said of a sunny log whose panels were not read, up to what they are rated for", () => {
    const job = testRunVan();
    job.sources.panels = [roofPanels(300, 2)];
    expect(partsOf(job, fed(cycling, 60, 60, 120)).charged).toEqual([]);
    expect(partsOf(job, fed(cycling, 140, 60, 120)).charged).toHaveLength(1);
  });
  it("is said of no foreign run, whatever was read", () => {
    expect(foreign.length).toBeGreaterThan(8);
    for (const { job, readings } of foreign)
      for (const log of [readings, onlyCurrent(readings)]) expect(partsOf(job, log).charged).toEqual([]);
  });
  it("changes what a forecast expects of the next hour by no more than a tenth where the mains was read", () => {
    for (const { job, readings } of foreign.slice(0, cases(2, 6))) {
      const plain = firstMinutes(readings, 120);
      const next = (log: Readings) => {
        const testRun = testRunOf(job, log);
        return { testRun, watts: ahead(testRun, fit(testRun, { particles: 150 })!).wattsNextHour };
      };
      const { testRun, watts } = next(fed(plain, 40, 60, 100));
      expect(testRun.segments.charged).toHaveLength(1);
      const { amps } = testRun.segments.charged[0]!;
      expect(amps).toBeGreaterThan(34);
      expect(amps).toBeLessThan(47);
      expect(Math.abs(watts / next(plain).watts - 1)).toBeLessThan(0.1);
    }
  }, 60_000);
  it("is told in words and in JSON while it lasts", () => {
    const made = answer(testRunVan(), fed(cycling, 90, 150, 999), { particles: 60 })!;
    if (!made.ok) throw new Error(made.message);
    expect(whyDifferent(made.answer)[0]).toMatch(
      /^Something other than the panels charges the battery with about \d+ A/,
    );
    const { states } = answerAsJson(made.answer) as { states: { charged: { from_h: number; amps: number }[] } };
    expect(states.charged[0]!.from_h).toBeCloseTo(2.5, 1);
  });
  it("leaves out of the record the forecasts that were made before it ended", () => {
    const log = fed(cycling, 90, 40, 50);
    const testRun = testRunOf(testRunVan(), log);
    const promise = (minutes: number) => {
      const forecast = ahead(testRun, fit(testRun, { particles: 40, rounds: 1, lastRounds: 1 })!);
      return forecastSnapshot(minutes, forecast, { now: 2, average: 2, halfHour: 2, ampHours: 100 });
    };
    const outcome = { ...outcomeOf(testRun, 0.9, 300), reserveH: 3 };
    expect(outcome.chargedToH).toBeCloseTo(49 / 60, 2);
    expect(heldAgainst("van", [15, 30, 60].map(promise), outcome).map(({ minutes }) => minutes)).toEqual([60]);
    expect(heldAgainst("van", [promise(15)], { ...outcome, chargedToH: undefined })).toHaveLength(1);
  });
});
