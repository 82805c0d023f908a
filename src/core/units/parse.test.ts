import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { gaugeAreaMm2 } from "./gauge";
import { AMERICAN, DIMENSIONS, METRIC, type Dimension } from "./dimension";
import { editableQuantity, formatDuration, formatNeedsHas, formatQuantity, type NeedsHas } from "./format";
import { parseQuantity } from "./parse";

const value = (text: string, dimension: Dimension, preferences = METRIC) => {
  const read = parseQuantity(text, dimension, preferences);
  if (!read.ok) throw new Error(read.message);
  return read.value;
};
const message = (text: string, dimension: Dimension, preferences = METRIC) => {
  const read = parseQuantity(text, dimension, preferences);
  return read.ok ? `understood as ${read.value}` : read.message;
};

describe("quantities as people write them", () => {
  it.each<[string, Dimension, number]>([
    ["14 A", "current", 14],
    ["14amps", "current", 14],
    ["350 mA", "current", 0.35],
    ["1.2kA", "current", 1200],
    ["1.6kW", "power", 1600],
    ["1,6 kW", "power", 1600],
    ["1600", "power", 1600],
    ["2 hp", "power", 1491.4],
    ["12,000 ".trim() + ".5 W", "power", 12000.5],
    ["3 kVA", "apparentPower", 3000],
    ["3000W", "apparentPower", 3000],
    ["12.8", "voltage", 12.8],
    ["450 mV", "voltage", 0.45],
    [".5 V", "voltage", 0.5],
    ["13500 BTU/h", "cooling", 13500 * 0.29307107],
    ["3.5", "cooling", 3500],
    ["3.5 kW", "cooling", 3500],
    ["1 ton", "cooling", 3516.8528],
    ["280 Ah", "charge", 280],
    ["5.4 mOhm", "resistance", 0.0054],
    ["5.4 mΩ", "resistance", 0.0054],
    ["200 µΩ", "resistance", 0.0002],
    ["35mm2", "area", 35],
    ["35 mm²", "area", 35],
    ["35", "area", 35],
    ["250 kcmil", "area", 126.67687],
    ["2/0", "area", gaugeAreaMm2(-1)],
    ["4/0 AWG", "area", gaugeAreaMm2(-3)],
    ["2 awg", "area", gaugeAreaMm2(2)],
    ["#6", "area", gaugeAreaMm2(6)],
    ["AWG 10", "area", gaugeAreaMm2(10)],
    ["00", "area", gaugeAreaMm2(-1)],
    ["200 cm2", "opening", 0.02],
    ["150", "opening", 0.015],
    ["30 sq in", "opening", 0.0193548],
    ["0.02 m²", "opening", 0.02],
    ["120 m3/h", "airflow", 120 / 3600],
    ["70 CFM", "airflow", 0.033036],
    ["12 lb", "mass", 5.443108],
    ["800 g", "mass", 0.8],
    ["€250", "money", 250],
    ["250 eur", "money", 250],
    ["12 ft", "length", 3.6576],
    ["12 ft 6 in", "length", 3.81],
    ["5'6\"", "length", 1.6764],
    ["150cm", "length", 1.5],
    ["1.8", "length", 1.8],
    ["74F", "temperature", 23.333333],
    ["24 °C", "temperature", 24],
    ["-5C", "temperature", -5],
    ["−5", "temperature", -5],
    ["300 K", "temperature", 26.85],
    ["1h20", "duration", 4800],
    ["1 h 20 min", "duration", 4800],
    ["1:20", "duration", 4800],
    ["90 min", "duration", 5400],
    ["0.35 s", "duration", 0.35],
    ["350ms", "duration", 0.35],
    ["2 d", "duration", 172800],
    ["20 %", "ratio", 0.2],
    ["20", "ratio", 0.2],
    ["0.2x", "ratio", 0.2],
    ["3", "count", 3],
    ["1.2", "number", 1.2],
  ])("%s as %s", (text, dimension, expected) => {
    expect(value(text, dimension)).toBeCloseTo(expected, 5);
  });

  it("takes the job's unit where none is written", () => {
    expect(value("95", "temperature", AMERICAN)).toBeCloseTo(35, 9);
    expect(value("10", "length", AMERICAN)).toBeCloseTo(3.048, 9);
    expect(value("2", "area", AMERICAN)).toBeCloseTo(gaugeAreaMm2(2), 9);
    expect(value("0", "area", AMERICAN)).toBeCloseTo(gaugeAreaMm2(0), 9);
  });
});

describe("what cannot be read gets a plain message", () => {
  it.each<[string, Dimension, RegExp]>([
    ["", "current", /Type a current, such as 14 A/],
    ["14 A", "power", /“14 A” is a current; this field takes a power/],
    ["35 C", "voltage", /is a temperature; this field takes a voltage/],
    ["14 parsecs", "current", /“parsecs” is not a known unit/],
    ["lots", "current", /“lots” is not a current/],
    ["1,600", "power", /two ways; type 1600 or 1\.600/],
    ["1.2.3", "power", /is not a number/],
    ["12 14", "current", /second number without a unit/],
    ["2 in 3 ft", "length", /two numbers; write one quantity/],
    ["20 C 30 C", "temperature", /two numbers/],
    ["2.5", "count", /whole number/],
    ["99 awg", "area", /AWG sizes run from 40/],
    ["1e999", "power", /./],
    ["NaN", "power", /is not a power/],
    ["Infinity", "power", /is not a power/],
    ["x".repeat(10_000), "power", /too long/],
  ])("%s for %s", (text, dimension, expected) => {
    expect(message(text, dimension)).toMatch(expected);
  });
  it("keeps its own message short whatever was typed", () => {
    expect(message("9".repeat(10_000), "power").length).toBeLessThan(80);
  });
});

const dimensions = fc.constantFrom(...(Object.keys(DIMENSIONS) as Dimension[]));
const preferences = fc.constantFrom(METRIC, AMERICAN);

describe("properties", () => {
  it("never throws and never gives what is not a finite number", () => {
    fc.assert(
      fc.property(
        fc.oneof(fc.string({ maxLength: 60 }), fc.stringMatching(/^[-+0-9.,eE/:#'" ]{0,12}[a-zA-ZµΩ°²%]{0,8}$/)),
        dimensions,
        preferences,
        (text, dimension, prefs) => {
          const read = parseQuantity(text, dimension, prefs);
          expect(read.ok ? Number.isFinite(read.value) : read.message.length > 0).toBe(true);
        },
      ),
      { numRuns: 3000 },
    );
  });
  it("what stands in an input for editing reads back as the same value", () => {
    fc.assert(
      fc.property(
        fc.double({ min: 0.001, max: 90_000, noNaN: true }),
        dimensions,
        preferences,
        (number, dimension, prefs) => {
          const kept = dimension === "count" ? Math.round(number) : number;
          const back = parseQuantity(editableQuantity(kept, dimension, prefs), dimension, prefs);
          expect(back.ok).toBe(true);
          // A cross-section within 1 % of a gauge is written as that gauge.
          const tolerance = dimension === "area" && prefs.cable === "awg" ? 0.0101 : 2e-5;
          if (back.ok)
            expect(Math.abs(back.value - kept)).toBeLessThanOrEqual(
              tolerance * Math.max(kept, dimension === "temperature" ? 300 : 0.1),
            );
        },
      ),
      { numRuns: 2000 },
    );
  });
});

describe("megohms", () => {
  it.each([
    ["200", 200],
    ["0.4 MΩ", 0.4],
    ["2 MOhm", 2],
    ["2 megohm", 2],
    ["500 kΩ", 0.5],
    ["1.5 GΩ", 1500],
  ])("insulation of %s is %f MΩ", (text, megohms) =>
    expect(parseQuantity(text, "insulation", METRIC)).toMatchObject({ ok: true, value: megohms }),
  );
  it("are refused of a cable, and never read as milliohms", () =>
    expect(parseQuantity("0.4 MΩ", "resistance", METRIC).ok).toBe(false));
});

describe("quantities as the sheet writes them", () => {
  it.each<[number, Dimension, string]>([
    [9562, "apparentPower", "9.56 kVA"],
    [999, "power", "999 W"],
    [0.3836, "voltage", "384 mV"],
    [12.84, "voltage", "12.8 V"],
    [9.436, "voltage", "9.44 V"],
    [117.8, "current", "118 A"],
    [5.94, "current", "5.9 A"],
    [0.00697, "resistance", "6.97 mΩ"],
    [67.43, "area", "67.4 mm²"],
    [35, "temperature", "35 °C"],
    [0.37, "ratio", "37 %"],
    [2, "count", "2"],
    [13500 * 0.29307107, "cooling", "3.96 kW"],
    [-0.00001, "temperature", "0 °C"],
    [NaN, "power", "–"],
    [1e-13, "ratio", "0 %"],
  ])("%f %s: %s", (number, dimension, expected) => {
    expect(formatQuantity(number, dimension, METRIC)).toBe(expected);
  });
  it.each([
    [0.35, "0.35 s"],
    [300, "5 min"],
    [4800, "1 h 20"],
    [28800, "8 h"],
    [52920, "14.7 h"],
    [400_000, "4.6 days"],
  ])("%f s: %s", (seconds, expected) => {
    expect(formatDuration(seconds)).toBe(expected);
  });
  it("writes a gauge, feet and Fahrenheit where the job is American", () => {
    expect(formatQuantity(gaugeAreaMm2(-1), "area", AMERICAN)).toBe("2/0 AWG");
    expect(formatQuantity(3.048, "length", AMERICAN)).toBe("10 ft");
    expect(formatQuantity(35, "temperature", AMERICAN)).toBe("95 °F");
    expect(formatQuantity(13500 * 0.29307107, "cooling", AMERICAN)).toBe("13500 BTU/h");
    expect(formatQuantity(3.785411784, "volume", AMERICAN)).toBe("1 gal");
  });
  it.each<[string, string | undefined]>([
    ["9000 btu/h", "BTU/h"],
    ["2.6 kW", "kW"],
    ["2.6", undefined],
  ])("%s was written in %s", (text, unit) => {
    expect(parseQuantity(text, "cooling", METRIC)).toMatchObject({ ok: true, ...(unit ? { unit } : {}) });
    if (!unit) expect(parseQuantity(text, "cooling", METRIC)).not.toHaveProperty("unit");
  });
  it.each<[NeedsHas, string]>([
    [{ need: 1.55, has: 0.384, form: "drops", dimension: "voltage" }, "drops 1.55 V, 0.384 V allowed"],
    [{ need: 5740, has: 3740, form: "draws", dimension: "power" }, "draws 5.74 kW, off at 3.74 kW"],
    [{ need: 1, has: 0, form: "there", dimension: "count" }, "missing"],
    [{ need: 1, has: 0, form: "there", word: "Tight", dimension: "count" }, "not stated"],
    [{ need: 1, has: 1, form: "there", dimension: "count" }, "in place"],
  ])("%j is said as what it is", (pair, words) => {
    expect(formatNeedsHas(pair, METRIC)).toBe(words);
  });
  it("has over three days where a run was not followed to its end", () => {
    const pair = { need: 39_600, has: 259_200, hasMore: true, dimension: "duration" as const };
    expect(formatNeedsHas(pair, METRIC)).toBe("needs 11 h, has over 3 days");
  });
  it.each<[number, number, Dimension, string]>([
    [1211, 999, "power", "needs 1.21 kW, has 0.999 kW"],
    [1.48, 0.384, "voltage", "needs 1.48 V, has 0.384 V"],
    [126, 200, "current", "needs 126 A, has 200 A"],
    [28800, 52920, "duration", "needs 8 h, has 14.7 h"],
    [0.2, 0.46, "ratio", "needs 20 %, has 46 %"],
    [6, 4, "count", "needs 6, has 4"],
  ])("needs %f, has %f of %s: %s", (a, b, dimension, expected) => {
    expect(formatNeedsHas({ need: a, has: b, dimension }, METRIC)).toBe(expected);
  });
});
