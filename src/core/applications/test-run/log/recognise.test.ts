import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { numberOf, recognise, rowReader, timeOf, type Meaning } from "./recognise";

const ZONE = "Europe/Lisbon";

describe("a header", () => {
  // Wordings as loggers, monitors and people write them: common practice, no source.
  it.each<[string, Meaning]>([
    ["time", "time"],
    ["Timestamp", "time"],
    ["Date/Time (UTC)", "time"],
    ["battery_current_a", "battery_current_a"],
    ["Battery Current (A)", "battery_current_a"],
    ["Current [mA]", "battery_current_a"],
    ["Amps", "battery_current_a"],
    ["Strom", "battery_current_a"],
    ["Shunt current", "battery_current_a"],
    ["Battery voltage", "battery_voltage_v"],
    ["Volts", "battery_voltage_v"],
    ["V", "battery_voltage_v"],
    ["State of charge %", "soc_pct"],
    ["SoC", "soc_pct"],
    ["Battery level", "soc_pct"],
    ["PV power", "solar_power_w"],
    ["Solar W", "solar_power_w"],
    ["MPPT current", "solar_current_a"],
    ["AC power (W)", "ac_power_w"],
    ["Inverter power", "ac_power_w"],
    ["Inside temp (°F)", "cabin_temp_c"],
    ["Cabin temperature", "cabin_temp_c"],
    ["Ambient °C", "outdoor_temp_c"],
    ["Outside Temp", "outdoor_temp_c"],
    ["Battery power", "battery_power_w"],
    ["Remarks", "note"],
    ["Cell 3 voltage", "none"],
    ["Load current", "none"],
    ["Firmware", "none"],
  ])("%s is %s", (header, meaning) => {
    const { mapping } = recognise({ header: ["x", header], rows: [], separator: "," }, ZONE);
    expect(mapping.columns[1]!.meaning).toBe(meaning);
  });
  it("gives the first of two columns of one meaning the word", () => {
    const { mapping } = recognise(
      { header: ["time", "Battery current", "Battery current 2"], rows: [], separator: "," },
      ZONE,
    );
    expect(mapping.columns.map(({ meaning }) => meaning)).toEqual(["time", "battery_current_a", "none"]);
  });
});

describe("a number", () => {
  it.each<[string, boolean, number]>([
    ["12.5", false, 12.5],
    ["-41,6", true, -41.6],
    ["1.234,5", true, 1234.5],
    ["1,234.5", false, 1234.5],
    ["1 234", false, 1234],
    ["−3.2", false, -3.2],
    ["13.2V", false, 13.2],
    ["72 %", false, 72],
    ["1e2", false, 100],
    ["", false, NaN],
    ["n/a", false, NaN],
    ["--", false, NaN],
  ])("%s, decimal comma %s, is %d", (text, comma, value) => expect(numberOf(text, comma)).toEqual(value));
});

describe("a time", () => {
  const at = (iso: string) => Date.parse(iso);
  // Lisbon is an hour ahead of UTC in summer (EU summer time, tz database).
  it.each<[string, Parameters<typeof timeOf>[1]["time"], number]>([
    ["2026-08-14T13:05:00+01:00", "iso", at("2026-08-14T12:05:00Z")],
    ["2026-08-14 13:05", "local", at("2026-08-14T12:05:00Z")],
    ["2026-01-14 13:05:30.5", "local", at("2026-01-14T13:05:30.500Z")],
    ["14/08/2026 13:05:10", "day-first", at("2026-08-14T12:05:10Z")],
    ["8/14/26 1:05 pm", "month-first", at("2026-08-14T12:05:00Z")],
    ["1786709100", "unix-s", 1_786_709_100_000],
    ["1786709100123", "unix-ms", 1_786_709_100_123],
    ["90", "elapsed-min", 5_400_000],
    ["1:30:15", "elapsed-clock", 5_415_000],
    ["2026-13-40T25:99Z", "iso", NaN],
    ["yesterday", "iso", NaN],
  ])("%s as %s", (text, time, ms) =>
    expect(timeOf(text, { time, timeZone: ZONE, startMs: 0, decimalComma: false })).toEqual(ms),
  );
  it.each<[string[], string]>([
    [["2026-08-14T13:05:00Z"], "iso"],
    [["2026-08-14 13:05:00"], "local"],
    [["14/08/2026 13:05", "15/08/2026 13:05"], "day-first"],
    [["08/14/2026 13:05"], "month-first"],
    [["1786709100"], "unix-s"],
    [["1786709100000"], "unix-ms"],
    [["0", "60"], "elapsed-s"],
    [["0:00:10", "0:00:20"], "elapsed-clock"],
  ])("%j is recognised as %s", (times, kind) => {
    const table = { header: ["time", "battery_current_a"], rows: times.map((t) => [t, "-5"]), separator: "," };
    expect(recognise(table, ZONE).mapping.time).toBe(kind);
  });
  it("asks where day and month could be either", () => {
    const { doubts } = recognise(
      { header: ["Date", "Amps"], rows: [["03/04/2026 10:00", "-5"]], separator: "," },
      ZONE,
    );
    expect(doubts.join(" ")).toMatch(/day first/);
  });
});

describe("the way the current counts", () => {
  const rows = (sign: number, withCharge: boolean, withVolts: boolean) =>
    Array.from({ length: 40 }, (_, i) => {
      const out = i % 8 < 4 ? 60 : 8;
      return [
        `2026-08-14T13:${String(i).padStart(2, "0")}:00Z`,
        String(sign * out),
        withVolts ? String(13.3 - out * 0.004) : "",
        withCharge ? String(95 - i * 0.4) : "",
      ];
    });
  const header = ["When", "Current", "Voltage", "SOC"];
  it.each<[string, number, boolean, boolean, 1 | -1, string]>([
    ["discharge negative, charge beside it", -1, true, true, 1, "charge"],
    ["discharge positive, charge beside it", 1, true, true, -1, "charge"],
    ["discharge positive, volts beside it", 1, false, true, -1, "volts"],
    ["discharge negative, volts beside it", -1, false, true, 1, "volts"],
    ["discharge positive, alone", 1, false, false, -1, "mean"],
  ])("%s", (_, given, charge, volts, sign, from) => {
    const understood = recognise({ header, rows: rows(given, charge, volts), separator: "," }, ZONE);
    expect(understood.mapping.sign).toBe(sign);
    expect(understood.signFrom).toBe(from);
    expect(understood.doubts.some((doubt) => /certain/.test(doubt))).toBe(from === "mean");
  });
  it("is the project's own in its own format, whatever the data", () => {
    const understood = recognise(
      { header: ["time", "battery_current_a"], rows: [["2026-08-14T13:00:00Z", "40"]], separator: "," },
      ZONE,
    );
    expect(understood.signFrom).toBe("format");
    expect(understood.mapping.sign).toBe(1);
  });
});

describe("a row", () => {
  it("becomes a reading in the log's units: kilowatts, milliamps, Fahrenheit, a share of one", () => {
    const header = ["Time", "Current (mA)", "Volts", "SOC", "PV power (kW)", "Inside (°F)", "Note"];
    const cells = ["2026-08-14T13:00:00Z", "-41600", "13.1", "0.72", "0.35", "77", "door open"];
    const { mapping } = recognise({ header, rows: [cells], separator: "," }, ZONE);
    const read = rowReader(mapping).read(cells);
    expect(read).toEqual({
      ok: true,
      reading: {
        timeMs: Date.UTC(2026, 7, 14, 13),
        values: {
          battery_current_a: -41.6,
          battery_voltage_v: 13.1,
          soc_pct: 72,
          solar_power_w: 350,
          cabin_temp_c: expect.closeTo(25, 9) as number,
        },
        note: "door open",
      },
    });
  });
  it("takes the current from battery watts, and solar watts from solar amps, by the volts beside them", () => {
    const header = ["time", "Battery power", "Volts", "PV current"];
    const { mapping } = recognise({ header, rows: [], separator: "," }, ZONE);
    const read = rowReader(mapping).read(["2026-08-14T13:00:00Z", "-520", "13", "10"]);
    expect(read.ok && read.reading.values).toEqual({
      battery_voltage_v: 13,
      battery_current_a: -40,
      solar_power_w: 130,
    });
  });
  it("without a time, or of one that no system was there at, is refused", () => {
    const { mapping } = recognise({ header: ["time", "battery_current_a"], rows: [], separator: "," }, ZONE);
    const reader = rowReader({ ...mapping, time: "iso" });
    expect(reader.read(["", "5"]).ok).toBe(false);
    expect(reader.read(["1066-10-14T09:00Z", "5"]).ok).toBe(false);
    expect(reader.read(["2026-08-14T13:00Z", "no"]).ok).toBe(false);
  });
  it("of any text neither throws nor yields a value outside of what a system has", () => {
    fc.assert(
      fc.property(
        fc.array(fc.string(), { maxLength: 9 }),
        fc.array(fc.array(fc.oneof(fc.string(), fc.double().map(String)), { maxLength: 9 }), { maxLength: 6 }),
        (header, rows) => {
          const { mapping } = recognise({ header, rows, separator: ";" }, ZONE);
          const reader = rowReader(mapping);
          for (const row of rows) {
            const read = reader.read(row);
            if (read.ok)
              for (const value of Object.values(read.reading.values)) expect(Number.isFinite(value)).toBe(true);
          }
        },
      ),
      { numRuns: 300 },
    );
  });
});
