import { describe, expect, it } from "vitest";
import { lostToStarts, runningShare, startsOf } from "./cycling";

describe("what starts cost a cycling unit", () => {
  // Three starts an hour at half load are 12 an hour over x (1 - x): C_d is their lag, AHRI 210/240 (from memory).
  const standard = 12 / 3600;
  it.each([
    [75, 0.25],
    [60, 0.2],
    [30, 0.1],
  ])("a lag of %d s is a C_d of %f", (lagS, cd) => expect(lostToStarts(standard, lagS)).toBeCloseTo(cd, 3));
  it("is a part-load factor of 0.875 at a run share of a half and C_d 0.25", () => {
    // Check value of the trade's papers, AHRI 210/240 (older default; memory).
    expect(runningShare(0.5 * 0.875, 0.25)).toBeCloseTo(0.5, 12);
  });
  it.each([0, 0.1, 0.5, 0.9])("gives back the cooling that a share of running leaves, losing %f", (lost) => {
    for (let x = 0; x <= 1.001; x += 0.05) {
      const s = runningShare(x, lost);
      expect(s - lost * s * (1 - s)).toBeCloseTo(Math.min(1, x), 9);
      expect(s).toBeGreaterThanOrEqual(Math.min(1, x) - 1e-12);
    }
  });
  it("comes the oftener the narrower the band and the lighter the cabin, and never within the minimum rest", () => {
    const usual = startsOf({ band: 1.5, minimumOff: 0, lagS: 0 }, 12, 1200);
    // Half a band of a line: at half load the air moves by half of the swing in its time constant.
    expect(startsOf({ band: 0.01, minimumOff: 0, lagS: 0 }, 12, 1200)).toBeCloseTo(2 / ((2 * 1200 * 0.01) / 12), 6);
    expect(startsOf({ band: 1, minimumOff: 0, lagS: 0 }, 12, 1200)).toBeGreaterThan(usual);
    expect(startsOf({ band: 1.5, minimumOff: 0, lagS: 0 }, 12, 600)).toBeCloseTo(2 * usual, 9);
    expect(startsOf({ band: 1.5, minimumOff: 600, lagS: 0 }, 12, 1200)).toBeCloseTo(2 / 600, 12);
    // A sensor behind by a lag makes the band wider by what the air moves in it, down and up.
    expect(startsOf({ band: 1, minimumOff: 0, lagS: 50 }, 12, 1200)).toBeCloseTo(
      startsOf({ band: 1.5, minimumOff: 0, lagS: 0 }, 12, 1200),
      12,
    );
    // What cannot cross its band does not cycle.
    expect(startsOf({ band: 3, minimumOff: 180, lagS: 0 }, 2.9, 1200)).toBe(0);
  });
});
