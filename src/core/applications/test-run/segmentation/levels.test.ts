import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { levelOf, percentile } from "./levels";

describe("a level", () => {
  it("leaves out the outer twentieth on either side", () => {
    const values = [...Array.from({ length: 38 }, () => 50), -1e6, 1e6];
    expect(levelOf(values)).toEqual({ value: 50, spread: 0, count: 40 });
  });
  it("is none of nothing, and the one of one", () => {
    expect(levelOf([])).toBeNull();
    expect(levelOf([7])).toEqual({ value: 7, spread: 0, count: 1 });
  });
  it("lies within its values whatever their order", () => {
    fc.assert(
      fc.property(fc.array(fc.double({ min: -1e4, max: 1e4, noNaN: true }), { minLength: 1 }), (values) => {
        const { value } = levelOf(values)!;
        expect(value).toBeGreaterThanOrEqual(Math.min(...values) - 1e-9);
        expect(value).toBeLessThanOrEqual(Math.max(...values) + 1e-9);
        expect(levelOf([...values].reverse())!.value).toBeCloseTo(value, 6);
      }),
    );
  });
  it.each([
    [0, 1],
    [0.5, 3],
    [1, 5],
    [7, 5],
  ])("at the share %f of one to five is %d", (share, value) => {
    expect(percentile([1, 2, 3, 4, 5], share)).toBe(value);
  });
});
