/*
 * Facts of the trade that give a draw or a time, each with what its sentence tells and typical values otherwise: common
 * practice, no source. How far each lies off what is said stands in docs/method.md.
 */
import { describe, expect, it } from "vitest";
import { assess } from "@/core/assessment/verdicts/assess";
import { emptySpan, type Job, type PlanSpan } from "@/core/document/schema";
import { resolveJob } from "@/core/document/resolve";
import { desert, HOUR, jobOf, meanOf, q } from "../jobs";
import { BTU, heatPump, MOTORHOME, panels, plan, run } from "./field";

const US = "120V60Hz";
const July = { month: 7, loads: [] };
const full = (job: Job) => assess(job).hours.find(({ mode }) => mode === "full")!;
const figure = (job: Job, key: string) => assess(job).figures[key]!.value;

/** A roof unit of 13,500 BTU/h that adds 73 A at 12 V, on so many amp-hours, all of them to be used. */
const adds73 = (capacityAh: number) =>
  jobOf({
    mains: US,
    outdoorC: 35,
    brief: { loads: [] },
    unit: { coolingPower: q(13_500 * BTU), dcRunningCurrent: q(73, "measured"), measuredAtC: q(35) },
    inverter: { rating: q(3500) },
    bank: { capacityAh: q(capacityAh), reserve: q(0) },
  });

/** A h that it took out of a full battery by so many minutes. */
const takenOf400 = (job: Job, hour: number, minutes: number) =>
  400 * (1 - run(job, hour, minutes / 1440 + 0.01).stateOfCharge[minutes - 1]!);
const hotNoon = heatPump({ place: desert(36, 22), plan: plan(12, 5, 23), sources: panels(740) });

/** A unit of 14 A on a 120 V supply, at so many degC outdoors. */
const of14A = (outdoorC: number) =>
  jobOf({ mains: US, outdoorC, unit: { runningCurrent: q(14) }, bank: { capacityAh: q(600) } });

/** A load of 200 A on so many batteries of 280 Ah, a little left in them. */
const hoursAt200A = (parallel: number) =>
  full(
    jobOf({
      unit: { kind: "dc", coolingPower: q(4000), dcRunningCurrent: q(200, "measured"), dutyCycle: q(1) },
      bank: { capacityAh: q(280), parallel: q(parallel), continuousCurrent: q(200), reserve: q(0.1) },
    }),
  ).toReserve / HOUR;

/** Mean A at 12 V of a variable roof unit of 13,500 BTU/h, set cold at noon in the heat. */
const variableAmps = (mode: "auto" | "low" | "fan", from: number, to: number) => {
  const job: Job = {
    ...jobOf({ unit: { kind: "variable", coolingPower: q(13_500 * BTU) }, bank: { parallel: q(3) }, brief: July }),
    place: desert(36, 22),
    plan: plan(12, 5, 16, mode),
  };
  return meanOf(run(job, 12, 0.2).bankCurrent, from, to);
};

/** Hours that a monitor of 142 Ah left in a lead-acid battery of 360 Ah shows at so many amps. */
const leadHours = (amps: number) =>
  full(
    jobOf({
      unit: { kind: "dc", dcRunningCurrent: q(amps, "measured"), runningCurrent: q(amps) },
      bank: {
        ...{ chemistry: "agm", capacityAh: q(360), startSoc: q(142 / 360), reserve: q(0) },
        ...{ stopVoltage: q(9), peukert: q(1.3) },
      },
    }),
  ).toCutOff / HOUR;

/** A roof unit of 13,500 BTU/h in a motorhome in the sun, switched on at noon. */
const held = run(
  {
    ...jobOf({ mains: US, brief: July, unit: { coolingPower: q(13_500 * BTU) }, bank: { parallel: q(30) } }),
    cabin: MOTORHOME,
    place: desert(36, 22),
    plan: plan(12, 8, 23),
  },
  12,
  0.33,
);
/** Minutes of each run of a compressor that began and ended within some hours: it rests three minutes between two. */
function runsOf(compressor: Float32Array, from: number, to: number): number[] {
  const out: number[] = [];
  let minutes = 0;
  for (let k = from; k < to; k++) {
    if (compressor[k]! === 0 && minutes > 0) out.push(minutes);
    minutes = compressor[k]! === 0 ? 0 : minutes + compressor[k]!;
  }
  return out.slice(1);
}
const meanRun = (from: number, to: number) => {
  const runs = runsOf(held.compressor, from, to);
  return runs.reduce((sum, one) => sum + one, 0) / runs.length;
};

/** W h of a unit in a van from ten in the evening to seven, at 22 °C, with 24 °C at dawn. */
function nightWh(unit: Partial<Job["units"][number]>): number {
  const asleep: PlanSpan = { ...emptySpan("people", "p", 1320, 540), asleep: true } as PlanSpan;
  const cool = { ...emptySpan("unit", "u", 1320, 540), mode: "auto", setPointC: q(22) } as PlanSpan;
  const job: Job = {
    ...jobOf({ brief: July, unit, bank: { parallel: q(8) } }),
    cabin: { ...MOTORHOME, kind: "van" },
    place: desert(34, 24, 16),
    plan: { start: null, days: 7, week: [], patterns: [{ id: "d", name: "Day", spans: [cool, asleep] }] },
  };
  return meanOf(run(job, 22, 0.375).units, 0, 540) * 9;
}

/** W of a lived-in van's fridge, fans, lights and chargers by night (common practice, no source). */
const LIVED_IN_W = 80;
/** Hours from nine in the evening to the reserve of a lived-in van with an open cab and a window unit of 5,000 BTU/h on 400 Ah. */
function livedInVanHours(): number {
  const people: PlanSpan = emptySpan("people", "p", 1260, 720);
  const cool = { ...emptySpan("unit", "u", 1260, 720), mode: "auto", setPointC: q(20) } as PlanSpan;
  const job: Job = {
    ...jobOf({
      mains: US,
      brief: {
        month: 7,
        loads: [{ id: "house", name: "house", side: "dc", leg: "L1", atStart: true, power: q(LIVED_IN_W) }],
      },
      unit: { coolingPower: q(5000 * BTU) },
      bank: { capacityAh: q(400) },
    }),
    cabin: { ...MOTORHOME, kind: "van", insulation: "lined", glazing: "single", cab: "open", airChanges: q(2) },
    place: desert(38, 29, 20),
    plan: { start: null, days: 7, week: [], patterns: [{ id: "d", name: "Day", spans: [cool, people] }] },
  };
  const record = run(job, 21, 1);
  return record.stateOfCharge.findIndex((share) => share <= 0.2) / 60;
}

const plateOf = (btu: number, unit: Partial<Job["units"][number]>, mains: Job["brief"]["mains"]) =>
  resolveJob(jobOf({ brief: { mains }, unit: { ...unit, coolingPower: q(btu * BTU) } })).units[0]!;

/** What is said, least and most, and what comes out. */
const FACTS: [string, number, number, () => number][] = [
  ["73 A for five hours: 365 Ah", 365, 365, () => full(adds73(400)).meanCurrent * 5],
  [
    "each further hour of 73 A: 73 Ah more battery",
    73,
    73,
    () => 400 / ((full(adds73(800)).toReserve - full(adds73(400)).toReserve) / HOUR),
  ],
  [
    "a heat pump of 110 A: 80 of 400 Ah in two mild evening hours",
    80,
    80,
    () => takenOf400(heatPump({ place: desert(30, 16), plan: { ...plan(19, 3, 23), startCabinC: q(27) } }), 19, 120),
  ],
  ["the same from a hot noon with 34 A of sun: 96 Ah by two", 96, 96, () => takenOf400(hotNoon, 12, 120)],
  ["and 200 Ah by half past four", 200, 200, () => takenOf400(hotNoon, 12, 270)],
  ["14 A at 120 V: 140 A at 12 V", 140, 140, () => figure(of14A(35), "carries.current")],
  [
    "7 A at 230 V: 140 A at 12 V",
    140,
    140,
    () =>
      figure(jobOf({ outdoorC: 35, unit: { runningCurrent: q(7) }, bank: { capacityAh: q(600) } }), "carries.current"),
  ],
  ["a 14 A unit in desert heat: up to 17 A", 17, 17, () => figure(of14A(50), "unit.0.apparent") / 120],
  ["a 14 A unit in a cool room: 120 A at 12 V", 120, 120, () => figure(of14A(24), "carries.current")],
  ["200 A from 280 Ah: an hour and a half", 1.5, 1.5, () => hoursAt200A(1)],
  ["200 A from two of them: three hours", 3, 3, () => hoursAt200A(2)],
  ["a variable roof unit on its lowest fan: 50 A", 50, 50, () => variableAmps("low", 60, 240)],
  ["the same on high: 100 A", 100, 100, () => variableAmps("auto", 10, 25)],
  ["and on its fan alone: 4 to 6 A", 4, 6, () => variableAmps("fan", 60, 240)],
  ["142 Ah of lead-acid at 20 A: 7 h", 7, 7, () => leadHours(20)],
  ["142 Ah of lead-acid at 70 A: 1 h 21 min", 1.35, 1.35, () => leadHours(70)],
  ["a motorhome's pull-down: 20 to 40 minutes", 20, 40, () => held.cabinC.findIndex((celsius) => celsius <= 23.5)],
  ["a roof unit's runs in a motorhome held at noon: 10 to 40 minutes", 10, 40, () => meanRun(60, 240)],
  [
    "a DC roof unit of 7,000 BTU/h over a warm night: 90 to 160 Ah",
    90,
    160,
    () => nightWh({ kind: "dc", coolingPower: q(7000 * BTU) }) / 13,
  ],
  [
    "a variable split of 9,000 BTU/h over it: 1.0 to 2.0 kWh",
    1000,
    2000,
    () => nightWh({ kind: "variable", condenser: "split", coolingPower: q(9000 * BTU) }),
  ],
  ["a lived-in van on a hot night, 5,000 BTU/h on 400 Ah: 6 h", 6, 6, livedInVanHours],
  ["5,000 BTU/h window unit: 440 to 480 W", 440, 480, () => plateOf(5000, {}, US).ratedPower.value],
  ["13,500 BTU/h roof unit: 12 to 13 A at 120 V", 12, 13, () => plateOf(13_500, {}, US).runningCurrent.value],
  [
    "9,000 BTU/h wall split: 650 to 850 W",
    650,
    850,
    () => plateOf(9000, { kind: "variable", condenser: "split" }, "230V50Hz").ratedPower.value,
  ],
];

describe("facts that give a draw or a time", () => {
  const off = FACTS.map(([name, least, most, found]) => {
    const value = found();
    return { name, value, off: value < least ? value / least - 1 : value > most ? value / most - 1 : 0 };
  });
  it.each(off)("$name: within 35 %", ({ off: share }) => expect(Math.abs(share)).toBeLessThan(0.35));
  it("and at least sixteen of them within 15 %", () => {
    expect(off.filter(({ off: share }) => Math.abs(share) <= 0.15).length).toBeGreaterThanOrEqual(16);
  });
  if (process.env.TELL) console.table(off);
});
