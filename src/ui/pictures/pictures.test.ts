/* The shapes that the day's pictures are drawn with. */
import { describe, expect, it } from "vitest";
import type { DayRecord } from "@/core/simulation/day/record";
import { area, bars, extent, polyline } from "./day-shape";
import { laidOut, overlap } from "./roof-plan";

const same = (value: number) => value;
const line = (...values: number[]) => Float32Array.from(values);

describe("a record's line", () => {
  it("goes through every step where there is room", () => {
    expect(polyline(line(1, 2, 3), [0, 3], 10, same, same)).toBe("M0.5,1L1.5,2L2.5,3");
  });
  it("goes through means where there are more steps than points", () => {
    expect(polyline(line(1, 3, 5, 7), [0, 4], 2, same, same)).toBe("M1,2L3,6");
  });
  it("is broken where there is no value", () => {
    expect(polyline(line(1, NaN, 3), [0, 3], 10, same, same)).toBe("M0.5,1ZM2.5,3Z");
  });
  it("closed down to its base is a shape", () => {
    const scales = { x: same, y: same, base: 9 };
    expect(area(line(1, 2), [0, 2], 10, scales)).toBe("M0.5,1L1.5,2L1.5,9L0.5,9Z");
    expect(area(line(NaN), [0, 1], 10, scales)).toBe("");
  });
  it("has its lowest and highest, gaps passed over, and something where there is nothing", () => {
    expect(extent([line(3, NaN, 5), line(-1)], [0, 3])).toEqual([-1, 5]);
    expect(extent([line(NaN)], [0, 1])).toEqual([0, 1]);
  });
});

describe("compressor runs as strokes", () => {
  const strokes = (compressor: number[], points = 100) =>
    bars({ compressor: line(...compressor) } as DayRecord, [0, compressor.length], points, same);
  it("one for each run, rests between them bare", () => {
    expect(strokes([0, 1, 1, 0, 0, 1])).toEqual([
      { x: 1, width: 2, share: 1 },
      { x: 5, width: 1, share: 1 },
    ]);
  });
  it("apart where it runs at another speed", () => {
    expect(strokes([0.5, 0.5, 1])).toHaveLength(2);
  });
  it("as shares of the time where steps are many", () => {
    expect(strokes([1, 0, 1, 0], 2)).toEqual([{ x: 0, width: 4, share: 0.5 }]);
  });
});

describe("panels on a roof", () => {
  it("lie side by side as far as the roof is wide, then behind", () => {
    expect(laidOut(3, 1.5, 0.7, 0.2, 0.1, 1.6).map(({ x, y }) => [x, y])).toEqual([
      [0.2, 0.1],
      [0.2, 0.7999999999999999],
      [1.7, 0.1],
    ]);
  });
  it("too wide for the roof lie one behind the other all the same", () => {
    expect(laidOut(2, 1, 3, 0, 0, 2).map(({ x }) => x)).toEqual([0, 1]);
  });
  it.each([
    ["apart", { x: 0, y: 0, length: 1, width: 1 }, { x: 2, y: 0, length: 1, width: 1 }, false],
    ["touching", { x: 0, y: 0, length: 1, width: 1 }, { x: 1, y: 0, length: 1, width: 1 }, false],
    ["over each other", { x: 0, y: 0, length: 1, width: 1 }, { x: 0.5, y: 0.5, length: 1, width: 1 }, true],
  ])("%s: %s", (_, a, b, expected) => {
    expect(overlap(a, b)).toBe(expected);
  });
});
