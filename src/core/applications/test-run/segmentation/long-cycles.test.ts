/* Windows hold whole cycles, however long: logs of one duty cycle and draw give the same next half hour. */
import { describe, expect, it } from "vitest";
import { q, testRunVan } from "../../../../../tests/jobs";
import { ahead } from "../inference/forecast";
import { fit, testRunOf } from "../inference/test-run";
import { fromList, type Reading } from "../log/readings";
import type { Job } from "../../../document/schema";

const van = testRunVan();
/** A battery that six hours do not empty, so that the unit alone decides. */
const job: Job = { ...van, bank: { ...van.bank, parallel: q(9) } };
const [PULL_DOWN_MIN, ENDS_AT] = [30, Date.UTC(2026, 6, 15, 4)];
const [AMPS_ON, AMPS_OFF, VOLTS] = [62, 6, 12.9];

/** Some six hours of whole cycles of `onMin` minutes of running after a pull-down, outdoors and cabin steady; a reading every 30 s. */
function cycling(duty: number, onMin: number, endsMin = 0): Reading[] {
  const offMin = (onMin * (1 - duty)) / duty;
  const cycle = onMin + offMin;
  const end = PULL_DOWN_MIN + Math.max(1, Math.round(360 / cycle)) * cycle - endsMin;
  return Array.from({ length: 2 * end + 1 }, (_, i) => {
    const minute = i / 2;
    const running = minute < PULL_DOWN_MIN || (minute - PULL_DOWN_MIN) % cycle >= offMin;
    return {
      timeMs: ENDS_AT - (end - minute) * 60_000,
      values: {
        battery_current_a: running ? -AMPS_ON : -AMPS_OFF,
        battery_voltage_v: VOLTS,
        outdoor_temp_c: 29,
        cabin_temp_c: 23,
      },
    };
  });
}

/** W that the forecast of a log draws over its next half hour. */
function nextHalfHour(log: Reading[]): number {
  const testRun = testRunOf(job, fromList(log));
  const { draw } = ahead(testRun, fit(testRun, { particles: 150 })!).means;
  const steps = Math.round(1800 / testRun.site.stepS);
  return draw.slice(0, steps).reduce((sum, watts) => sum + watts, 0) / steps;
}

describe.each([
  [0.3, [3, 6, 12, 24, 40, 60]],
  [0.5, [3, 6, 12, 24, 40, 60, 90]],
  [0.75, [3, 6, 12, 24, 40, 60, 90]],
])("a duty cycle of %s", (duty, runs) => {
  it("gives the same next half hour within 5 %, and what was drawn so far within a tenth, whatever the length of its runs", () => {
    const watts = runs.map((onMin) => nextHalfHour(cycling(duty, onMin)));
    const middle = [...watts].sort((a, b) => a - b)[runs.length >> 1]!;
    for (const one of watts) expect(Math.abs(one / middle - 1), String(watts)).toBeLessThan(0.05);
    const mean = VOLTS * (AMPS_OFF + (AMPS_ON - AMPS_OFF) * duty);
    expect(Math.abs(middle / mean - 1), String(middle)).toBeLessThan(0.1);
  });
});

it("a log that ends in the midst of a long run says the same as one that ends with it, within a tenth", () => {
  const [whole, within] = [0, 15].map((endsMin) => nextHalfHour(cycling(0.6, 30, endsMin)));
  expect(Math.abs(within! / whole! - 1), String([whole, within])).toBeLessThan(0.1);
});
