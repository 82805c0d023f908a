import { describe, expect, it } from "vitest";
import { dcAdded } from "@/core/models/inverter/inverter";
import { buildSystem } from "@/core/models/system/build";
import { testRunVan } from "../../../../../tests/jobs";
import { testRunOf } from "../inference/test-run";
import { fromList, type Readings } from "../log/readings";

const T0 = Date.UTC(2026, 6, 14, 14);
const job = testRunVan();
const { inverter } = buildSystem(job);
const HOUSE_W = 90;
const FAN_W = 100;
const FULL_W = 720;
const VOLTS = 13;
/** Twenty minutes of pull-down, then cycles. */
const PULL_DOWN_S = 1200;
const runs = (s: number, onS: number, offS: number) => s < PULL_DOWN_S || (s - PULL_DOWN_S) % (onS + offS) >= offS;

/** Three hours, current as the mean since the last reading or of the moment, mains always of the moment. */
function read(pace: number, onS: number, offS: number, how: "mean" | "moment", mains = true): Readings {
  const mainsAt = (s: number) => (runs(s, onS, offS) ? FULL_W : FAN_W);
  const wattsAt = (s: number) => dcAdded(inverter, mainsAt(s)) + HOUSE_W;
  return fromList(
    Array.from({ length: Math.floor(10_800 / pace) }, (_, i) => {
      const at = i * pace;
      let watts = wattsAt(at);
      if (how === "mean" && i > 0) {
        watts = 0;
        for (let s = at - pace; s < at; s++) watts += wattsAt(s) / pace;
      }
      return {
        timeMs: T0 + at * 1000,
        values: {
          battery_current_a: -watts / VOLTS,
          battery_voltage_v: VOLTS,
          ...(mains ? { ac_power_w: mainsAt(at) } : {}),
        },
      };
    }),
  );
}

/** Share of running over all windows after the pull-down, by their length. */
function shareOf(log: Readings): number {
  const after = testRunOf(job, log).segments.windows.filter(({ fromS }) => fromS >= PULL_DOWN_S + 60);
  const lasted = after.reduce((sum, { fromS, toS }) => sum + toS - fromS, 0);
  return after.reduce((sum, { fromS, toS, share }) => sum + share * (toS - fromS), 0) / lasted;
}
const OFF_W = dcAdded(inverter, FAN_W) + HOUSE_W;
const ON_W = dcAdded(inverter, FULL_W) + HOUSE_W;

describe("a log whose current is of means, its mains of the moment", () => {
  const cases: [number, number, number][] = [
    [120, 250, 370],
    [180, 390, 520],
    [300, 290, 700],
    [300, 390, 520],
    [300, 610, 320],
  ];
  it.each(cases)("a reading every %d s, %d s on and %d s off: has its two levels", (pace, onS, offS) => {
    const { levels, ofMeans } = testRunOf(job, read(pace, onS, offS, "mean")).segments;
    expect(ofMeans).toBe(true);
    expect(Math.abs(levels.between!.value / OFF_W - 1)).toBeLessThan(0.05);
    expect(Math.abs(levels.running!.value / ON_W - 1)).toBeLessThan(0.05);
  });
  it.each(cases)("a reading every %d s, %d s on and %d s off: ran as much as its charge says", (pace, onS, offS) => {
    expect(Math.abs(shareOf(read(pace, onS, offS, "mean")) - onS / (onS + offS))).toBeLessThan(0.05);
  });
  it("is known by its readings between the levels where the mains was not read", () => {
    const log = read(300, 390, 520, "mean", false);
    expect(Math.abs(testRunOf(job, log).segments.levels.running!.value / ON_W - 1)).toBeLessThan(0.05);
    expect(Math.abs(shareOf(log) - 390 / 910)).toBeLessThan(0.1);
  });
});

describe("a log that is of the moment", () => {
  it.each([60, 120, 300])("keeps its mains apart, a reading every %d s", (pace) => {
    const { segments } = testRunOf(job, read(pace, 390, 520, "moment"));
    expect([segments.ofMeans, segments.mainsApart]).toEqual([false, true]);
    expect(segments.levels.house!.value).toBeCloseTo(HOUSE_W, 0);
  });
  it("is not taken for one of means for a kettle now and then", () => {
    const log = read(120, 390, 520, "moment");
    // Three of ninety readings, DC side: its mains cannot tell of it.
    for (const i of [20, 41, 70]) log.values.battery_current_a[i] = log.values.battery_current_a[i]! - 40;
    expect(testRunOf(job, log).segments.mainsApart).toBe(true);
  });
  it("is looked at by its edges where it is read often, means or not", () => {
    const { segments } = testRunOf(job, read(10, 390, 520, "mean"));
    expect(segments.mainsApart).toBe(true);
    for (const { share } of segments.cycles.slice(1, -1)) expect(share).toBeCloseTo(390 / 910, 1);
  });
});
