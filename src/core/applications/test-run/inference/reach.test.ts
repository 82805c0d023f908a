/* What must be set to last until a time: held against trying every setting. */
import { describe, expect, it } from "vitest";
import { testRunVan } from "../../../../../tests/jobs";
import { fromList } from "../log/readings";
import { makeSimulator } from "../simulator/simulator";
import { ahead } from "./forecast";
import { fit, testRunOf } from "./test-run";
import { reachUntil } from "./reach";
import { untilSecond } from "./what-if";

const T0 = Date.UTC(2026, 6, 14, 20);
const job = testRunVan({}, 21);
const { readings } = makeSimulator(job, { seed: 3, faults: [], every: 30 }, T0);
const log = fromList(
  readings.filter(({ timeMs }) => timeMs <= T0 + 5_400_000).map(({ timeMs, values }) => ({ timeMs, values })),
);
const testRun = testRunOf(job, log);
const population = fit(testRun, { particles: 120 })!;
const lastS = testRun.log.lastS;
const hours = ahead(testRun, population).hoursToReserve;

describe("a wished time", () => {
  it("that is reached as it is set asks for nothing", () => {
    const reach = reachUntil(testRun, population, lastS + 3600 * 0.8 * hours.p10!);
    expect(reach.way).toBe(reach.asItIs);
    expect(reach.asItIs.chance).toBeGreaterThanOrEqual(0.9);
  });
  it("a little later is reached by the least that the cabin is warmer: half a degree less is not enough", () => {
    const untilS = lastS + 3600 * (hours.p50! + 0.2);
    const { way, asItIs } = reachUntil(testRun, population, untilS);
    expect(asItIs.chance).toBeLessThan(0.9);
    expect(way!.chance).toBeGreaterThanOrEqual(0.9);
    // As good as the best of every set point by the half degree on its own.
    const left = (untilS - lastS) / 3600;
    const reached = Array.from({ length: 16 }, (_, i) => 21.5 + i / 2).filter((setC) => {
      const { reserveHours } = ahead(testRun, population, { whatIf: { setC }, toReserve: true });
      return reserveHours.filter((one) => one >= left).length >= 0.9 * reserveHours.length;
    });
    if (way!.setC !== null && way!.fan === null && way!.offFromS === null) expect(way!.setC).toBe(reached[0]);
    expect(way!.warmerKh).toBeLessThan(8 * left);
  });
  it("far off says how far the best gets", () => {
    const { way, nearest } = reachUntil(testRun, population, lastS + 40 * 3600);
    expect(way).toBeNull();
    expect(nearest!.chance).toBeLessThan(0.9);
  });
  it("is the next of its kind, in the job's local time", () => {
    const at = { startMs: T0, nowMs: T0 + 5_400_000, timeZone: "Europe/Lisbon" };
    expect(untilSecond("07:00", at)).toBe(10 * 3600);
    expect(untilSecond("soon", at)).toBeNull();
  });
});
