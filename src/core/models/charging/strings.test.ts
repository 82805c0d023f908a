/* What a shadow on the roof takes from a string, by the volts that are left of it (common practice, no source). */
import { describe, expect, it } from "vitest";
import { shadeFactor } from "./strings";

describe("a string with a tenth of one panel's light shaded", () => {
  it("that passes the battery's volts without the shaded group loses about twice the light", () => {
    // Three 36-cell panels in series: 50 V at work, 41 V with a group bypassed, on a 12 V battery.
    expect(shadeFactor(0.1, 3, 23, 14.4)).toBeCloseTo(0.8, 6);
  });
  it("that would fall under the battery's volts passes no more than diffuse light gives", () => {
    // One 36-cell panel on a 12 V battery: 8 V are left of 16.6.
    expect(shadeFactor(0.5, 1, 23, 14.4)).toBeCloseTo(0.25, 6);
  });
  it.each([
    [2, 23, 14.4, true],
    [2, 23, 28.8, false],
    [3, 23, 28.8, true],
    [1, 49, 28.8, false],
    [2, 49, 60, false],
    [3, 49, 57.6, true],
  ])("of %i panels of %s V, for %s V: keeps its other groups: %s", (series, openVoltage, charge, keeps) => {
    // All of its light in shade: a string that keeps its groups would keep none of this; one that does not is at its diffuse quarter.
    const [little, much] = [
      shadeFactor(0.02, series, openVoltage, charge),
      shadeFactor(0.2, series, openVoltage, charge),
    ];
    expect(much).toBeLessThanOrEqual(little);
    if (keeps) expect(much).toBeCloseTo(0.6, 6);
    else expect(much).toBeLessThan(0.6);
  });
});
