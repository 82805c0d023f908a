/*
 * Facts of the trade, by the core: common practice, no source. Numbers follow the list of facts the project keeps;
 * each system is described as the fact says and left at typical values otherwise.
 */
import { describe, expect, it } from "vitest";
import { assess } from "@/core/assessment/verdicts/assess";
import type { Job } from "@/core/document/schema";
import { HOUR, q, jobOf } from "../jobs";

const within = (value: number, low: number, high: number) => {
  expect(value).toBeGreaterThanOrEqual(low);
  expect(value).toBeLessThanOrEqual(high);
};
const hoursOf = (job: Parameters<typeof assess>[0], mode: "fan" | "low" | "measured" | "full") =>
  assess(job).hours.find((h) => h.mode === mode)!;
import type { RuleId } from "@/core/assessment/judge/rule-ids";
const checkOf = (job: Parameters<typeof assess>[0], verdict: "starts" | "carries", by: RuleId) =>
  assess(job).verdicts[verdict].checks.find((c) => c.by === by)!;

describe("fact 1: locked rotor is four to six times running, a soft starter takes off half to three quarters", () => {
  it("assumes a locked-rotor current in that span", () => {
    const { values } = assess(jobOf({ unit: { runningCurrent: q(10) } }));
    within(values.units[0]!.lockedRotorCurrent.value, 40, 60);
  });
  it("assumes a reduction in that span, and the start's peak follows it", () => {
    const { values, start } = assess(jobOf({ unit: { runningCurrent: q(10), startAid: "soft-starter" } }));
    const left = start.own.shape.peakCurrent / values.units[0]!.lockedRotorCurrent.value;
    within(1 - left, 0.5, 0.75);
  });
});

describe("fact 2: three-ton outdoor unit on 230 V, 111.5 A bare, 34 A soft-started, 13.5 A running", () => {
  const unit = {
    runningCurrent: q(13.5, "measured"),
    lockedRotorCurrent: q(111.5, "measured"),
    startAid: "soft-starter" as const,
  };
  it("comes within a fifth of the clamped peak at the typical reduction", () => {
    within(assess(jobOf({ unit })).start.own.shape.peakCurrent, 34 * 0.8, 34 * 1.2);
  });
  it("holds the bare peak at the clamped current", () => {
    const { start } = assess(jobOf({ unit: { ...unit, startAid: "none" } }));
    expect(start.own.shape.peakCurrent).toBeCloseTo(111.5, 6);
    expect(start.own.peakApparent).toBeCloseTo(111.5 * 230, 0);
  });
});

describe("fact 3: 3.5-ton unit, 72 to 75 A bare, 24.1 and 24.4 A unlearned, 16.6 A learned", () => {
  const unit = (learned: boolean) => ({
    runningCurrent: q(12.5, "measured"),
    lockedRotorCurrent: q(73.5, "measured"),
    startAid: "soft-starter" as const,
    learned,
    softReduction: q(1 - 16.6 / 73.5),
  });
  it("lets an unlearned start through as the clamp showed", () => {
    within(assess(jobOf({ unit: unit(false) })).start.own.shape.peakCurrent, 24.1 * 0.97, 24.4 * 1.03);
  });
  it("gives the learned peak after that", () => {
    expect(assess(jobOf({ unit: unit(true) })).start.own.shape.peakCurrent).toBeCloseTo(16.6, 6);
  });
});

describe("fact 4: roof unit of 13,500 BTU/h adding 73 A at 12 V to a 6 A base load", () => {
  const job = (rating: number, plate: Partial<Job["units"][number]> = {}) =>
    jobOf({
      mains: "120V60Hz",
      outdoorC: 35,
      brief: {
        loads: [{ id: "base", name: "base", side: "dc", leg: "L1", atStart: true, power: q(6 * 12.8) }],
      },
      unit: { coolingPower: q(13_500 * 0.29307107), dcRunningCurrent: q(73, "measured"), ...plate },
      inverter: { rating: q(rating) },
      // Ample behind the inverter, so that its own surge is what is judged.
      bank: { capacityAh: q(280), parallel: q(3) },
    });
  it("needs at least the 2,800 W that were seen, with nothing but its capacity known: its running draw says nothing of it", () => {
    expect(assess(job(3500)).start.own.peakReal).toBeGreaterThanOrEqual(2800);
    expect(checkOf(job(1500), "starts", "start-inverter").word).toBe("Fails");
  });
  // Locked-rotor amps of such a unit: five times the 7.5 A that its plate states where it draws 73 A at the battery.
  const plate = { lockedRotorCurrent: q(5 * 7.5) };
  it("needs 2,800 to 3,000 W to start by its plate, within a tenth", () => {
    within(assess(job(3500, plate)).start.own.peakReal, 2800 * 0.9, 3000 * 1.1);
  });
  it.each([
    [1500, "Fails"],
    [3500, "Holds"],
    [4000, "Holds"],
  ])("an inverter of %i W %s without a soft starter, by its plate", (rating, word) => {
    expect(checkOf(job(rating, plate), "starts", "start-inverter").word).toBe(word);
  });
  it("takes 365 Ah in five hours over the base load, within a tenth", () => {
    const mean = hoursOf(job(3500), "full").meanCurrent;
    within((mean - 6) * 5, 365 * 0.9, 365 * 1.1);
  });
  it("asks 73 Ah more battery for each further hour, within a tenth", () => {
    const usable = (ah: number) =>
      hoursOf({ ...job(3500), bank: { ...job(3500).bank, capacityAh: q(ah), parallel: q(1), reserve: q(0) } }, "full")
        .toReserve / HOUR;
    const perHour = 400 / (usable(800) - usable(400));
    within(perHour - 6, 73 * 0.9, 73 * 1.1);
  });
});

describe("fact 5: roof heat pump of 15,000 BTU/h, soft-started, about 110 A at 12 V", () => {
  const job = (average: number, reserve: number) =>
    jobOf({
      mains: "120V60Hz",
      unit: {
        coolingPower: q(15_000 * 0.29307107),
        dcRunningCurrent: q(110, "measured"),
        dcAverageCurrent: q(average, "measured"),
        startAid: "soft-starter",
        // On automatic its fan rests with the compressor; else the third would be less.
        fanBetween: false,
      },
      bank: { capacityAh: q(100), parallel: q(4), reserve: q(reserve) },
    });
  it("runs at 1,300 to 1,400 W from the battery", () => {
    within(110 * 12.8, 1300, 1420);
    within(assess(job(40, 0.8)).figures["carries.pathPower"]!.value, 1300, 1450);
  });
  it("from 100 to 80 % in two hours means a compressor on little more than a third of the time", () => {
    const { figures } = assess(job(40, 0.8));
    within(figures["unit.0.duty"]!.value, 1 / 3, 0.42);
    within(hoursOf(job(40, 0.8), "measured").toReserve / HOUR, 1.7, 2.1);
  });
  it("the hot afternoon's average would not have lasted a second day", () => {
    // Half of 400 Ah and 34 A of sun went in four and a half hours from noon.
    const average = 200 / 4.5 + 34;
    within(hoursOf(job(average, 0.2), "measured").toReserve / HOUR, 3, 5);
  });
});

describe("fact 6: mains amps to 12 V amps is about ten to one at 120 V, twenty to one at 230 V", () => {
  it.each([
    ["120V60Hz", 14, 10],
    ["230V50Hz", 7, 20],
  ] as const)("%s: %f A", (mains, amps, ratio) => {
    const { figures } = assess(
      jobOf({ mains, unit: { runningCurrent: q(amps) }, bank: { capacityAh: q(600) }, cable: { areaMm2: q(120) } }),
    );
    within(figures["carries.current"]!.value / amps, ratio * 0.9, ratio * 1.1);
  });
});

describe("fact 7: a 14 A roof unit", () => {
  const job = (outdoorC: number) =>
    jobOf({
      mains: "120V60Hz",
      outdoorC,
      unit: { runningCurrent: q(14) },
      bank: { capacityAh: q(600) },
    });
  const amps = (outdoorC: number) => assess(job(outdoorC)).figures["unit.0.apparent"]!.value / 120;
  it("takes about 1 A more for each 10 °F above 95 °F", () => {
    within(amps(35 + 50 / 9) - amps(35), 0.8, 1.2);
  });
  it("goes up to about 17 A in desert heat (50 °C)", () => {
    within(amps(50), 16, 17.5);
  });
  it("takes about 120 A at 12 V in a cool room (24 °C)", () => {
    within(assess(job(24)).figures["carries.current"]!.value, 108, 132);
  });
  it("its fan, 2.5 to 3 A at 120 V and a motor's power factor of 0.65, takes about 20 A at 12 V", () => {
    const fan = assess({ ...job(35), units: [{ ...job(35).units[0]!, fanPower: q(2.75 * 120 * 0.65) }] });
    within(fan.hours.find((h) => h.mode === "fan")!.meanCurrent, 18, 22);
  });
});

describe("fact 8: 200 A from a 280 Ah battery", () => {
  const job = (parallel: number, limit: number) =>
    jobOf({
      unit: { kind: "dc", coolingPower: q(4000), dcRunningCurrent: q(200, "measured"), dutyCycle: q(1) },
      bank: { capacityAh: q(280), parallel: q(parallel), continuousCurrent: q(limit), reserve: q(0.1) },
    });
  it("is about an hour and a half", () => {
    within(hoursOf(job(1, 200), "full").toCutOff / HOUR, 1.3, 1.6);
  });
  it("two batteries: about three hours, twice the one", () => {
    const [one, two] = [hoursOf(job(1, 200), "full").toReserve, hoursOf(job(2, 200), "full").toReserve];
    within(two / one, 1.95, 2.15);
    within(two / HOUR, 2.4, 3.2);
  });
  it("a battery limited to 100 A cannot run it at all, whatever its energy", () => {
    expect(checkOf(job(1, 100), "carries", "bms-discharge").word).toBe("Fails");
    expect(
      checkOf({ ...job(1, 100), bank: { ...job(1, 100).bank, capacityAh: q(2000) } }, "carries", "bms-discharge").word,
    ).toBe("Fails");
  });
});

describe("fact 11: 360 Ah of lead-acid, 7 h at 20 A but 1 h 21 min at 70 A", () => {
  const hours = (amps: number, peukert: number) =>
    hoursOf(
      jobOf({
        unit: { kind: "dc", dcRunningCurrent: q(amps, "measured"), runningCurrent: q(amps) },
        // 142 Ah left at 1 A: the monitor's own count of what remains.
        bank: {
          chemistry: "agm",
          capacityAh: q(360),
          startSoc: q(142 / 360),
          reserve: q(0),
          stopVoltage: q(9),
          peukert: q(peukert),
        },
      }),
      "full",
    ).toCutOff / HOUR;
  it("the time left falls by more than the current rises", () => {
    expect(hours(20, 1.2) / hours(70, 1.2)).toBeGreaterThan(3.5 * 1.15);
  });
  it("with the exponent of a tired battery, 1.3, as the monitor's ratio of 5.2 within a tenth", () => {
    within(hours(20, 1.3) / hours(70, 1.3), 5.19 * 0.9, 5.19 * 1.1);
  });
  it("and 20 A lasts the seven hours within a tenth", () => {
    within(hours(20, 1.2), 6.3, 7.7);
  });
});

describe("fact 12: the wiring between battery and inverter", () => {
  it("half a volt at 200 A is a good installation: two metres of 70 mm2 with its fuse and lugs", () => {
    const { figures } = assess(jobOf({ cable: { areaMm2: q(70), length: q(2) }, fuse: { rating: q(300) } }));
    within(figures["wiring.main.resistance"]!.value * 200, 0.35, 0.6);
  });
  it("an inverter that faults at 13.7 V on the battery with a 1,500 W heater has a path problem", () => {
    const heater = (areaMm2: number, length: number) =>
      checkOf(
        jobOf({
          brief: {
            loads: [{ id: "heater", name: "fan heater", side: "mains", leg: "L1", atStart: true, power: q(1500) }],
          },
          unit: { kind: "variable", runningCurrent: q(0.1), fanPower: q(1) },
          // Charged until 13.7 V at the posts under that load, and hardly any resistance of its own.
          bank: { capacityAh: q(400), startSoc: q(1), reserve: q(0.95), resistance: q(0.0001) },
          cable: { areaMm2: q(areaMm2), length: q(length) },
        }),
        "carries",
        "bank-voltage",
      );
    expect(heater(70, 1.5).word).toBe("Holds");
    expect(heater(10, 4.5).word).toBe("Fails");
    expect(heater(10, 4.5).name).toBe("voltage at the inverter");
  });
});
