import { describe, expect, it } from "vitest";
import { demoJob } from "../../../../tests/jobs";
import { assessDay } from "../verdicts/day";

const DEMO = ["1-folio", "2-marionette", "3-shearwater", "4-skep", "5-lora", "6-levain"];

describe("where a full battery goes in the hours wanted", () => {
  const columns = DEMO.map((file) => [file, assessDay(demoJob(file), { range: false }).column] as const);
  it.each(columns)("of %s: its parts are the whole", (_, { full, segments }) => {
    const sum = segments.reduce((total, { energy }) => total + energy, 0);
    expect(sum / full).toBeCloseTo(1, 2);
  });
  it.each(columns)("of %s: no part is below nothing, and each shows its working", (_, { segments }) => {
    for (const { key, energy, figure } of segments) {
      expect(energy, key).toBeGreaterThanOrEqual(0);
      expect(figure.value, key).toBe(energy);
      expect(figure.terms.length, key).toBeGreaterThan(1);
    }
  });
  it.each(columns)("of %s: something is missing only where nothing is left above the reserve", (_, column) => {
    const left = column.segments.find(({ key }) => key === "left")!;
    if (column.missing > 0) expect(left.energy / column.full).toBeLessThan(0.02);
  });
});
