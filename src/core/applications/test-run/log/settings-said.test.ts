/* Notes say how the unit was set: what is understood of them, and what is only listed. */
import { describe, expect, it } from "vitest";
import { fromList } from "./readings";
import { noteOfSetting, SAID_MODES, settingOf, settingsFile, settingsSaid, type SaidMode } from "./settings-said";

describe("a note", () => {
  it.each<[string, number | null, SaidMode | null]>([
    ["set 24", 24, null],
    ["Set to 22.5 C", 22.5, null],
    ["set point 21", 21, null],
    ["setpoint: 75F", 23.89, null],
    ["thermostat at 22", 22, null],
    ["turned down to 75", 23.89, null],
    ["turned it up to 26 °C", 26, null],
    ["lowered to 68", 20, null],
    ["low fan", null, "low"],
    ["fan on low", null, "low"],
    ["fan speed low", null, "low"],
    ["mode: low fan", null, "low"],
    ["high fan", null, "auto"],
    ["fan medium", null, "medium"],
    ["fan only", null, "fan"],
    ["just the fan", null, "fan"],
    ["off", null, "off"],
    ["AC off", null, "off"],
    ["switched off", null, "off"],
    ["turned it back on", null, "on"],
    ["a/c on", null, "on"],
    ["auto", null, "auto"],
    ["mode: auto", null, "auto"],
    ["set 24; low fan", 24, "low"],
    ["door open, set to 23 and fan to low", 23, "low"],
  ])("“%s” is understood", (note, setC, mode) => {
    expect(settingOf(note)).toEqual({ setC, mode, unclear: false });
  });
  it.each([
    "door open",
    "start 3: clamp peak 38 A",
    "lights off",
    "fridge off",
    "generator on",
    "cabin down to 24",
    "temp 31",
    "two people, curtains shut",
    "roof fan on",
    "sunset 21:04",
    "41 A at 72 %",
    "low battery alarm",
  ])("“%s” sets nothing and is not listed", (note) => {
    expect(settingOf(note)).toEqual({ setC: null, mode: null, unclear: false });
  });
  it.each(["set to 45", "thermostat acting up", "set it lower", "fan noisy", "mode eco"])(
    "“%s” speaks of a setting and is listed, never guessed",
    (note) => {
      expect(settingOf(note)).toEqual({ setC: null, mode: null, unclear: true });
    },
  );
  it.each(["C", "F"] as const)("that a button writes is read as what was pressed, in °%s", (unit) => {
    for (const mode of [null, ...SAID_MODES])
      for (const setC of [null, 20, 22.5, 26]) {
        if (mode === null && setC === null) continue;
        const read = settingOf(noteOfSetting(setC, mode, unit));
        expect(read.mode).toBe(mode);
        if (setC === null) expect(read.setC).toBeNull();
        else expect(Math.abs(read.setC! - setC)).toBeLessThan(unit === "F" ? 0.3 : 1e-9);
      }
  });
});

describe("the settings of a log", () => {
  const log = fromList([
    { timeMs: 3000, values: { battery_current_a: -4 }, note: "off" },
    { timeMs: 1000, values: {}, note: "set 21" },
    { timeMs: 2000, values: {}, note: "set it lower" },
  ]);
  it("come in order of time, those without a reading too, beside what was not understood", () => {
    expect(settingsSaid(log)).toEqual({
      settings: [
        { timeMs: 1000, setC: 21, mode: null, text: "set 21" },
        { timeMs: 3000, setC: null, mode: "off", text: "off" },
      ],
      unclear: [{ timeMs: 2000, text: "set it lower" }],
      leftOut: [],
    });
  });
  it("leave out what somebody left out", () => {
    const { settings, leftOut } = settingsSaid(log, [3000]);
    expect(settings).toHaveLength(1);
    expect(leftOut).toEqual([{ timeMs: 3000, text: "off" }]);
  });
});

describe("a file of settings", () => {
  it("is read line by line, local times in the job's zone, and says which line is no setting", () => {
    const { settings, faults } = settingsFile(
      "time,setting\n2026-07-01 21:10,set 24\n2026-07-01T22:00:00+02:00,low fan\nnoon,off\n2026-07-01 23:00,warmer\n",
      "Europe/Lisbon",
    );
    expect(settings.map(({ timeMs, setC, mode }) => [new Date(timeMs).toISOString(), setC, mode])).toEqual([
      ["2026-07-01T20:00:00.000Z", null, "low"],
      ["2026-07-01T20:10:00.000Z", 24, null],
    ]);
    expect(faults.map(({ line }) => line)).toEqual([4, 5]);
  });
});
