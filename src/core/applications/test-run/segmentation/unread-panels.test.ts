import { describe, expect, it } from "vitest";
import { dcAdded } from "@/core/models/inverter/inverter";
import { buildSystem } from "@/core/models/system/build";
import { roofPanels, testRunVan } from "../../../../../tests/jobs";
import { calibrate } from "../inference/calibrate";
import { fit, testRunOf } from "../inference/test-run";
import { fromList, type Readings } from "../log/readings";

const job = testRunVan();
job.sources.panels = [roofPanels(400, 1)];
const { inverter } = buildSystem(job);
const [HOUSE_W, FAN_W, FULL_W, VOLTS] = [90, 100, 720, 13];
const DAY = Date.UTC(2026, 6, 14, 12);
const NIGHT = Date.UTC(2026, 6, 14, 23);
const MINUTES = 180;

/** Three hours at a reading a minute: twenty minutes of pull-down, then seven on and nine off. By day clouds come and go from minute to minute. */
function cloudy(startMs: number, mains: boolean): Readings {
  return fromList(
    Array.from({ length: MINUTES }, (_, minute) => {
      const ac = minute < 20 || (minute - 20) % 16 >= 9 ? FULL_W : FAN_W;
      const cloud = (minute * 7) % 13 < 5 ? 0.2 : 1;
      const sun = startMs === DAY ? 330 * cloud : 0;
      const watts = dcAdded(inverter, ac) + HOUSE_W - sun;
      return {
        timeMs: startMs + minute * 60_000,
        values: {
          battery_current_a: -watts / VOLTS,
          battery_voltage_v: VOLTS,
          ...(mains ? { ac_power_w: ac } : {}),
        },
      };
    }),
  );
}

describe("panels that were not read, under passing clouds", () => {
  it.each([true, false])("make no log of means; its mains read: %s", (mains) => {
    expect(testRunOf(job, cloudy(DAY, mains)).segments.ofMeans).toBe(false);
  });
  it("leave the rest of the house untold by day, where it would come out below nothing, and tell it by night", () => {
    expect(testRunOf(job, cloudy(DAY, true)).segments.levels).toMatchObject({ house: null, base: null, between: null });
    expect(testRunOf(job, cloudy(NIGHT, true)).segments.levels.house!.value).toBeCloseTo(HOUSE_W, 0);
  });
  it.each([
    ["day", DAY, /drop in current at \d+ compressor stops/],
    ["night", NIGHT, /readings at full draw/],
  ])("leave what the running unit adds to be read by %s", (_, startMs, evidence) => {
    const testRun = testRunOf(job, cloudy(startMs, true));
    const found = calibrate(testRun, fit(testRun, { particles: 40, rounds: 2, lastRounds: 2 })!);
    const running = found.find(({ key }) => key === "running")!;
    const added = dcAdded(inverter, FULL_W) - dcAdded(inverter, FAN_W) + testRun.site.unit.fan;
    expect(Math.abs(running.value / (added / VOLTS) - 1)).toBeLessThan(0.1);
    expect(running.evidence).toMatch(evidence);
  });
});
