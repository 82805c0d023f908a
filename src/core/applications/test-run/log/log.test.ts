import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { isSignalK, readLog, writeLog } from "@/csv/log";
import { AMERICAN, METRIC } from "@/core/units/dimension";
import { joinReadings, packReadings, unpackReadings } from "./packed";
import { notYetIn, emptyReadings, firstMinutes, fromList, type Column, type Reading } from "./readings";
import { repair } from "./repair";
import { joinDeltas, readDelta } from "./signalk";
import { learning, startPeaks, type Learning } from "../segmentation/starts";
import { thinned } from "./thin";
import { parseField, parseTyped } from "./typed";
import { parseWhatIf } from "../inference/what-if";

const T0 = Date.UTC(2026, 7, 14, 12);
const list = (...amps: number[]): Reading[] =>
  amps.map((a, i) => ({ timeMs: T0 + i * 60_000, values: { battery_current_a: -a } }));

describe("repair", () => {
  const said = (readings: Reading[]) => {
    const { readings: out, repairs } = repair(fromList(readings));
    return { out, repairs: Object.fromEntries(repairs.map(({ what, count }) => [what, count])) };
  };
  it("sorts what is out of order and lets the later reading of one moment win", () => {
    const [a, b, c] = list(1, 2, 3) as [Reading, Reading, Reading];
    const again = { timeMs: b.timeMs, values: { battery_current_a: -9 } };
    const { out, repairs } = said([b, a, c, again]);
    expect([...out.values.battery_current_a]).toEqual([-1, -9, -3]);
    expect(repairs).toEqual({ unordered: 2, repeated: 1 });
  });
  it("drops readings without a current, values no system has, and lone spikes", () => {
    const readings: Reading[] = Array.from({ length: 9 }, (_, i) => ({
      timeMs: T0 + i * 60_000,
      values: { battery_current_a: i === 3 ? 9000 : -5, battery_voltage_v: i === 5 ? 26 : 13 },
    }));
    readings.push({ timeMs: T0 + 600_000, values: { battery_voltage_v: 13 } });
    const { out, repairs } = said(readings);
    expect(out.timeMs).toHaveLength(8);
    expect(repairs).toMatchObject({ "no-current": 1, "out-of-range": 1, spike: 1 });
    expect([...out.values.battery_voltage_v].filter(Number.isNaN)).toHaveLength(1);
  });
  it("takes back a clock that jumped back an hour while it logged", () => {
    const readings = list(...Array.from({ length: 40 }, () => 5));
    for (let i = 20; i < 40; i++) readings[i]!.timeMs -= 3_600_000;
    const { out, repairs } = said(readings);
    expect(repairs["clock-jump"]).toBe(20);
    expect(out.timeMs[39]! - out.timeMs[0]!).toBe(39 * 60_000);
  });
  it("tells of gaps and leaves them", () => {
    const readings = list(...Array.from({ length: 30 }, () => 5)).filter((_, i) => i < 10 || i > 20);
    expect(said(readings).repairs).toEqual({ gap: 1 });
  });
  it("leaves a sound log as it is", () => {
    const sound = fromList(list(5, 6, 7, 8));
    const { readings, repairs } = repair(sound);
    expect(repairs).toEqual([]);
    expect(readings).toEqual(sound);
  });
});

describe("a reading typed in one line", () => {
  it.each<[string, object, string | null]>([
    ["41.6 26.1", { battery_current_a: -41.6, battery_voltage_v: 26.1 }, null],
    ["41,6 26,1 72", { battery_current_a: -41.6, battery_voltage_v: 26.1, soc_pct: 72 }, null],
    ["+5 A", { battery_current_a: 5 }, null],
    ["26.1 V 41 A", { battery_voltage_v: 26.1, battery_current_a: -41 }, null],
    ["41 350 W sun 900 W mains", { battery_current_a: -41, solar_power_w: 350, ac_power_w: 900 }, null],
    ["41 23.4 in 33 out", { battery_current_a: -41, cabin_temp_c: 23.4, outdoor_temp_c: 33 }, null],
    ["72 % - door open", { soc_pct: 72 }, "door open"],
    ["77 F in", { cabin_temp_c: 25 }, null],
    ["0", { battery_current_a: 0 }, null],
  ])("%s", (text, values, note) => expect(parseTyped(text)).toEqual({ ok: true, values, note, timeMs: null }));
  // 14 August 2026, a Friday, 13:00 in Lisbon.
  const AT = { nowMs: T0, timeZone: "Europe/Lisbon" };
  it.each<[string, string, object]>([
    ["12:10 47 13.05", "2026-08-14T11:10:00Z", { battery_current_a: -47, battery_voltage_v: 13.05 }],
    ["yesterday 23:40 38", "2026-08-13T22:40:00Z", { battery_current_a: -38 }],
    ["23:40 38", "2026-08-13T22:40:00Z", { battery_current_a: -38 }],
    ["Wed 07:15 38", "2026-08-12T06:15:00Z", { battery_current_a: -38 }],
    ["Fri 21:00 38", "2026-08-07T20:00:00Z", { battery_current_a: -38 }],
    ["2026-08-01 21:05:30 41 72 %", "2026-08-01T20:05:30Z", { battery_current_a: -41, soc_pct: 72 }],
    ["13:03 41", "2026-08-14T12:03:00Z", { battery_current_a: -41 }],
  ])("with its time: %s", (text, moment, values) =>
    expect(parseTyped(text, false, AT)).toEqual({ ok: true, values, note: null, timeMs: Date.parse(moment) }),
  );
  it.each(["25:10 47", "today 19:30 47", "2026-09-01 12:00 47", "2026-13-01 12:00 47"])(
    "with a time that cannot be is refused: %s",
    (text) => expect(parseTyped(text, false, AT).ok).toBe(false),
  );
  it("with a time and a note alone is a note of that time", () => {
    expect(parseTyped("12:10 - set 24", false, AT)).toEqual({
      ok: true,
      values: {},
      note: "set 24",
      timeMs: Date.parse("2026-08-14T11:10:00Z"),
    });
  });
  it.each(["", "hello", "41 26.1 72 5", "9000 A", "400 C in"])("refuses %j in words", (text) => {
    const typed = parseTyped(text);
    expect(typed.ok).toBe(false);
    expect(!typed.ok && typed.message.length).toBeGreaterThan(5);
  });
  it("never throws", () => {
    fc.assert(fc.property(fc.string(), (text) => void parseTyped(text, true)));
  });
});

describe("what changes for the rest of a run", () => {
  // Noon UTC is one in the afternoon at Lisbon in August.
  const at = { startMs: T0, nowMs: T0 + 3_600_000, timeZone: "Europe/Lisbon" };
  it.each<[string, object]>([
    ["as it is", {}],
    ["set 24", { setC: 24 }],
    ["set point to 75 F", { setC: expect.closeTo(23.89, 2) as number }],
    ["+2", { setShift: 2 }],
    ["low fan", { fan: "low" }],
    ["off at midnight", { offFromS: 11 * 3600 }],
    ["off", { offFromS: 3600 }],
    ["fan only at 23:30, +1", { fanFromS: 10.5 * 3600, setShift: 1 }],
  ])("%s", (text, whatIf) => expect(parseWhatIf(text, at)).toEqual({ ok: true, whatIf }));
  it.each(["dance", "set 90", "off at teatime"])("refuses %s", (text) => expect(parseWhatIf(text, at).ok).toBe(false));
});

describe("a log file", () => {
  it("is written in the project's own format and read back the same", () => {
    const log = fromList([
      { timeMs: T0, values: { battery_current_a: -41.6, cabin_temp_c: 24.5 }, note: "start" },
      { timeMs: T0 + 10_000, values: { battery_current_a: 3 } },
    ]);
    const text = writeLog(log, () => 3600);
    expect(text).toBe(
      "time,battery_current_a,cabin_temp_c,note\n2026-08-14T13:00:00+01:00,-41.6,24.5,start\n2026-08-14T13:00:10+01:00,3,,\n",
    );
    const read = readLog(text, "UTC");
    expect(read.ok && read.log.readings).toEqual(log);
  });
  it("hands a spreadsheet no formula", () => {
    const notes = ["=1+1", "+cmd|' /C calc'!A0", "-2+3", "@sum(a1)", "\t=x"];
    const log = fromList(notes.map((note, i) => ({ timeMs: T0 + i * 1000, values: { battery_current_a: -1 }, note })));
    for (const line of writeLog(log, () => 0)
      .trim()
      .split("\n")
      .slice(1)) {
      const note = line.split(",").slice(2).join(",").replace(/^"/, "");
      expect(note).toMatch(/^'/);
    }
  });
  it.each<[string, string, RegExp]>([
    ["nothing", "", /empty/],
    ["zero bytes", "time,a\u0000\n", /not text/],
    ["one column", "hello\nworld\n", /no table/],
    ["no readings", "time,battery_current_a\nnever,5\n", /No row holds a reading/],
    ["a quotation that never closes", 'time,battery_current_a\n"2026-08-14T13:00Z,5\n', /never closes|No row/],
    ["a web page", "<!doctype html><html><body>hi</body></html>", /no table|No row/],
    ["JSON of something else", '{"a":1,\n"b":2}', /no table|No row|never closes/],
  ])("of %s is refused in words", (_, text, words) => {
    const read = readLog(text, "UTC");
    expect(read.ok).toBe(false);
    expect(!read.ok && read.message).toMatch(words);
  });
  it("passes over a logger's preamble and counts rows that hold nothing", () => {
    const text =
      "Logger 7\nSerial;123\n\nTime;Current (A)\n2026-08-14 13:00;-5,5\n2026-08-14 13:01;-6,5\nend of log;\n";
    const read = readLog(text, "UTC");
    expect(read.ok && [...read.log.readings.values.battery_current_a]).toEqual([-5.5, -6.5]);
    expect(read.ok && read.log.refused).toMatchObject({ count: 1, first: [{ line: 6 }] });
  });
  it("of any bytes is read or refused, never a throw", () => {
    fc.assert(
      fc.property(fc.string({ unit: "binary", maxLength: 400 }), (text) => void readLog(text, "UTC")),
      { numRuns: 300 },
    );
  });
});

describe("packed readings", () => {
  it("come back the same to a float's seven digits, and join", () => {
    const log = fromList([...list(41.6, 8.25), { timeMs: T0 + 9e5, values: { soc_pct: 50 }, note: "n" }]);
    const back = unpackReadings(packReadings(log))!;
    expect(back.notes).toEqual(log.notes);
    expect([...back.timeMs]).toEqual([...log.timeMs]);
    back.values.battery_current_a.forEach((value, i) => {
      if (!Number.isNaN(value)) expect(value).toBeCloseTo(log.values.battery_current_a[i]!, 4);
    });
    expect(joinReadings([back, back]).notes.map(({ at }) => at)).toEqual([2, 5]);
  });
  it("are told apart from readings that they do not hold yet", () => {
    const back = unpackReadings(packReadings(fromList(list(41.6, 8.25))))!;
    const [first] = list(41.6);
    const corrected = { ...first!, values: { battery_current_a: -42 } };
    const later = { ...first!, timeMs: first!.timeMs + 1 };
    expect(notYetIn(back, [first!, corrected, later])).toEqual([corrected, later]);
  });
  it("that were cut or tampered with are refused", () => {
    const bytes = packReadings(fromList(list(1, 2, 3)));
    expect(unpackReadings(bytes.subarray(0, bytes.length - 1))).toBeNull();
    const wrong = bytes.slice();
    wrong[0] = 200;
    expect(unpackReadings(wrong)).toBeNull();
    fc.assert(fc.property(fc.uint8Array({ maxLength: 200 }), (any) => void unpackReadings(any)));
  });
});

// Signal K specification 1.7, delta format: SI units, values by path (from memory).
describe("Signal K deltas", () => {
  const delta = (path: string, value: unknown, seconds = 0) => ({
    context: "vessels.self",
    updates: [{ timestamp: new Date(T0 + seconds * 1000).toISOString(), values: [{ path, value }] }],
  });
  it.each<[string, number, object]>([
    ["electrical.batteries.house.current", -41.5, { battery_current_a: -41.5 }],
    ["electrical.batteries.house.voltage", 13.1, { battery_voltage_v: 13.1 }],
    ["electrical.batteries.house.capacity.stateOfCharge", 0.72, { soc_pct: 72 }],
    ["environment.outside.temperature", 303.15, { outdoor_temp_c: 30 }],
    ["environment.inside.saloon.temperature", 297.15, { cabin_temp_c: 24 }],
    ["electrical.solar.roof.panelPower", 350, { solar_power_w: 350 }],
  ])("%s", (path, value, values) => expect(readDelta(delta(path, value))).toEqual([{ timeMs: T0, values }]));
  it("are joined into whole readings, slow values riding with the next current", () => {
    const parts = [
      delta("electrical.batteries.a.current", -40),
      delta("electrical.batteries.a.voltage", 13, 0.4),
      delta("environment.outside.temperature", 300.15, 5),
      delta("electrical.batteries.a.current", -41, 10),
    ].flatMap((one) => readDelta(one)!);
    expect(joinDeltas(parts)).toEqual([
      { timeMs: T0, values: { battery_current_a: -40, battery_voltage_v: 13 } },
      { timeMs: T0 + 10_000, values: { outdoor_temp_c: 27, battery_current_a: -41 } },
    ]);
  });
  it("as lines of a log are read, with lines that are none counted", () => {
    const text = [
      JSON.stringify({ self: "x" }),
      JSON.stringify(delta("electrical.batteries.a.current", -40)),
      "{broken",
    ].join("\n");
    expect(isSignalK(text)).toBe(true);
    const read = readLog(text, "UTC");
    expect(read.ok && read.log.kind).toBe("signal-k");
    expect(read.ok && read.log.refused.count).toBe(1);
  });
  it.each([null, 5, "x", {}, { updates: 3 }, { updates: [null, { values: "a" }, { values: [null, { path: 1 }] }] }])(
    "%j is no delta of a system's",
    (message) => expect(readDelta(message) ?? []).toEqual([]),
  );
});

describe("a reading typed into a field of its own", () => {
  it.each<[Column, string, number]>([
    ["battery_current_a", "41,6", -41.6],
    ["battery_current_a", "41.6 A", -41.6],
    ["battery_current_a", "-5", 5],
    ["battery_current_a", "−5", 5],
    ["battery_current_a", "0", 0],
    ["battery_voltage_v", "13.1 V", 13.1],
    ["soc_pct", "72", 72],
    ["soc_pct", "72 %", 72],
    ["solar_power_w", "1.2 kW", 1200],
    ["cabin_temp_c", "23.5", 23.5],
    ["cabin_temp_c", "77 F", 25],
  ])("%s: %j is %f", (column, text, value) => {
    const read = parseField(column, text, METRIC);
    expect(read.ok && read.value).toBeCloseTo(value, 6);
  });
  it("takes a bare temperature in the job's own degrees", () => {
    expect(parseField("cabin_temp_c", "77", AMERICAN)).toMatchObject({
      ok: true,
      value: expect.closeTo(25, 6) as number,
    });
  });
  it.each<[Column, string, RegExp]>([
    ["battery_voltage_v", "abc", /is not a voltage/],
    ["battery_voltage_v", "13.1 A", /./],
    ["soc_pct", "160", /outside what such a system can read/],
    ["cabin_temp_c", "300", /outside what such a system can read/],
  ])("%s: %j is refused in words", (column, text, words) => {
    const read = parseField(column, text, METRIC);
    expect(!read.ok && read.message).toMatch(words);
  });
});

describe("starts typed from a clamp", () => {
  const notes = (...texts: string[]) => ({
    timeMs: Float64Array.from(texts, (_, i) => T0 + i * 60_000),
    notes: texts.map((text, at) => ({ at, text })),
  });
  it("are found in the notes, in order", () => {
    const peaks = startPeaks(notes("start 1: clamp peak 38.2 A", "door open", "Inrush 30,5 A"));
    expect(peaks.map(({ attempt, peakA }) => [attempt, peakA])).toEqual([
      [1, 38.2],
      [2, 30.5],
    ]);
  });
  // A soft starter learns over about five starts: 24 A on the first, 16.6 A after (fact 3 of the trade; common practice, no source).
  it.each<[number[], Learning | null]>([
    [[24.1, 24.4, 21, 18, 16.6], { is: "learning" }],
    [[30, 30.5, 29.8], { is: "level", starts: 1 }],
    [[24.1, 24.4, 21, 18, 16.6, 16.5, 16.8], { is: "level", starts: 5 }],
    [[24.1, 21, 18, 16.6, 16.5, 16.8, 17, 16.4], { is: "level", starts: 4 }],
    [[30, 33, 36], { is: "rising" }],
    [[16.5, 16.6, 16.4, 19.5], { is: "rising" }],
    [[30, 20], null],
    [[30, 20, 31], null],
  ])("%j is %o", (peaks, says) =>
    expect(learning(startPeaks(notes(...peaks.map((a, i) => `start ${i + 1} peak ${a} A`))))).toEqual(says),
  );
});

describe("a long log", () => {
  it("is thinned to even means that hold its charge and its ends", () => {
    const count = 50_000;
    const log = emptyReadings(count);
    for (let i = 0; i < count; i++) {
      log.timeMs[i] = T0 + i * 1000;
      log.values.battery_current_a[i] = -(i % 600 < 300 ? 60 : 8);
    }
    const thin = thinned(log, 2000);
    expect(thin.timeMs.length).toBeLessThanOrEqual(2001);
    const mean = thin.values.battery_current_a.reduce((sum, a) => sum + a, 0) / thin.timeMs.length;
    expect(mean).toBeCloseTo(-34, 0);
    expect(thinned(log, count)).toBe(log);
  });
  it("is cut by its minutes whatever the order it came in", () => {
    const log = fromList([...list(1, 2, 3, 4)].reverse());
    expect(firstMinutes(log, 1, T0).timeMs).toHaveLength(2);
  });
});
