import { describe, expect, it } from "vitest";
import { secondRun } from "./second";

const runs = Array.from({ length: 20 }, (_, i) => secondRun(i + 1)).filter((run) => run !== null);
const meanOver = (line: Float64Array, from: number, to: number) =>
  line.subarray(from, to).reduce((sum, one) => sum + one, 0) / Math.max(1, to - from);

describe("runs of the second simulator", () => {
  it("are the same for the same seed", () => {
    expect(secondRun(runs[0]!.seed)).toEqual(runs[0]);
  });
  it("draw no more than a fifth over their plate, on days that are hotter than its rating point too", () => {
    for (const { job, readings } of runs) {
      const most = Math.max(...readings.values.ac_power_w);
      expect(most).toBeLessThan(1.25 * job.units[0]!.ratedPower!.value);
    }
  });
  it("count out of the battery what it had over its reserve, within the losses of its charge", () => {
    for (const { job, readings, kind, reserveH, truth } of runs) {
      if (kind.sunny) continue;
      const end = readings.timeMs.findIndex((ms) => ms - readings.timeMs[0]! > reserveH * 3_600_000);
      const last = end < 0 ? readings.timeMs.length : end;
      const hours = (readings.timeMs[last - 1]! - readings.timeMs[0]!) / 3_600_000;
      const out = -meanOver(readings.values.battery_current_a, 0, last) * hours;
      const held = truth.bankAh * (truth.startSoc - (job.bank.chemistry === "agm" ? 0.5 : 0.2));
      expect(out / held).toBeGreaterThan(0.9);
      expect(out / held).toBeLessThan(1.1);
    }
  });
  it("bring a cabin down that the unit is enough for, and no lower than its set point asks", () => {
    const cool = runs.map(({ job, readings }) => {
      const from = Math.floor(readings.timeMs.length / 2);
      return meanOver(readings.values.cabin_temp_c, from, readings.timeMs.length) - job.brief.setPointC!.value;
    });
    expect(Math.min(...cool)).toBeGreaterThan(-4);
    expect(cool.filter((over) => over < 2).length).toBeGreaterThan(cool.length / 2);
  });
});
