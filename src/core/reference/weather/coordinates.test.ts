import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { coordinatesInWords, parseCoordinates } from "./coordinates";

describe("coordinates", () => {
  it.each<[string, number, number]>([
    ["37.02, -7.93", 37.02, -7.93],
    ["37.02 −7.93", 37.02, -7.93],
    ["37.02N 7.93W", 37.02, -7.93],
    ["7.93 W, 37.02 N", 37.02, -7.93],
    ["37°01.2'N 7°55.8'W", 37.02, -7.93],
    ["33.87S 151.21E", -33.87, 151.21],
  ])("reads %s", (text, latitude, longitude) => {
    const read = parseCoordinates(text)!;
    expect(read.latitude).toBeCloseTo(latitude, 6);
    expect(read.longitude).toBeCloseTo(longitude, 6);
  });
  it.each(["Faro", "37.02", "91, 0", "0, 181", "37.02, -7.93, 4", ""])("reads nothing in %j", (text) => {
    expect(parseCoordinates(text)).toBeNull();
  });
  it("are read as they were written, to a hundredth of a degree", () => {
    fc.assert(
      fc.property(
        fc.double({ min: -90, max: 90, noNaN: true }),
        fc.double({ min: -180, max: 180, noNaN: true }),
        (a, b) => {
          const read = parseCoordinates(coordinatesInWords(a, b))!;
          expect(Math.abs(read.latitude - a)).toBeLessThan(0.0051);
          expect(Math.abs(read.longitude - b)).toBeLessThan(0.0051);
        },
      ),
    );
  });
});
