/* The coupled run: against the same equations in a solver package, its balances, and what it says in hard places. */
import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { odeRun } from "../../../../tests/ode";
import { randomJob } from "../../../../tests/random-jobs";
import { q, jobOf } from "../../../../tests/jobs";
import { openCircuitVoltage } from "../../models/battery/battery";
import { emptyController, emptyPanel, emptySpan, type PlanSpan, type Job } from "../../document/schema";
import { buildSystem } from "../../models/system/build";
import { generatedDays, readyDay } from "../../reference/weather/climate";
import { cutWeather, readWeather } from "../../reference/weather/hourly";
import { nearestPlace, ofMonth, PLACES } from "../../reference/weather/places";
import { clockFrom, isoOf, isTimeZone, localSecond, timeOfDay } from "../../units/clock";
import { mainUse, READY_PLANS, usualPattern } from "../../document/schedule";
import type { SimulationResult } from "./result";
import type { SimulationInput } from "./input";
import { inputOf, simulate, type Question } from "./simulate";

const NOON: Question = { days: 1, minuteOfDay: 720 };
const day = (spans: PlanSpan[]): Job["plan"] => ({
  start: null,
  days: 7,
  patterns: [{ id: "d", name: "Day", spans }],
  week: [],
});
const unitOn = (from: number, minutes: number, setPointC = 24): PlanSpan => ({
  ...(emptySpan("unit", "u", from, minutes) as Extract<PlanSpan, { kind: "unit" }>),
  setPointC: q(setPointC),
});
const panels = (power: number, count = 1): Job["sources"] => ({
  panels: [{ ...emptyPanel("p"), power: q(power), count: q(count) }],
  controllers: [],
  obstacles: [],
});
const at = (latitude: number, longitude: number, timeZone = "UTC"): Job["place"] => ({
  listed: null,
  timeZone,
  latitude: q(latitude),
  longitude: q(longitude),
});
function withDay(job: Job, parts: Partial<Pick<Job, "place" | "sources" | "plan" | "cabin" | "weather">>): Job {
  return { ...job, ...parts };
}
const lowest = (list: Float32Array, steps = list.length) => list.slice(0, steps).reduce((a, b) => Math.min(a, b));
const highest = (list: Float32Array, steps = list.length) => list.slice(0, steps).reduce((a, b) => Math.max(a, b));

/** Energy in less energy out over the sum of what moved, without the battery's own loss, which closes any account. */
function imbalance({ totals: t }: SimulationResult) {
  const into = t.solarUsed + t.engine + t.shore + t.generator + t.fromStore;
  const out = t.units + t.loads + t.inverterLoss + t.pathLoss + t.bankLoss + t.chargerLoss;
  const moved = t.solarUsed + t.engine + t.shore + t.generator + Math.abs(t.fromStore) + t.units + t.loads + 1;
  return Math.abs(into - out) / moved;
}

describe("the run against its equations in the package odex", () => {
  const job = withDay(jobOf({ bank: { capacityAh: q(600) }, unit: { thermostatBand: q(1.5), minimumOff: q(180) } }), {
    place: { listed: "faro", timeZone: null },
    plan: day([unitOn(720, 600)]),
    sources: panels(175, 2),
  });
  const aired = {
    ...job,
    units: [{ ...job.units[0]!, coolingPower: q(1500) }],
    cabin: { ...job.cabin, airChanges: q(30) },
  };
  const compare = (job: Job, question: Question) => {
    const input: SimulationInput = inputOf(job, question).input;
    const ours = simulate(job, question).run;
    return { ours, theirs: odeRun(input, 1e-4) };
  };
  it("without events: temperatures to 0.1 K, charge to a thousandth, at tight tolerance", () => {
    // Aired so well that the never-resting unit leaves the cabin's moisture short of saturation, which the equations lack.
    const { ours, theirs } = compare(aired, { days: 0.25, minuteOfDay: 720, neverResting: true, startSoc: 0.8 });
    for (let k = 9; k < ours.steps; k += 10) {
      expect(Math.abs(ours.cabinC[k]! - theirs.cabinC[k]!)).toBeLessThan(0.1);
      expect(Math.abs(ours.stateOfCharge[k]! - theirs.share[k]!)).toBeLessThan(0.001);
    }
  });
  it("with a thermostat: energy within 0.5 % and running time within one cycle over half a day", () => {
    const { ours, theirs } = compare(job, { days: 0.5, minuteOfDay: 720, startSoc: 0.8 });
    const joules = ours.totals.fromStore - ours.totals.bankLoss;
    expect(Math.abs(joules / theirs.joules - 1)).toBeLessThan(0.005);
    expect(Math.abs(ours.totals.secondsCompressor - theirs.secondsOn)).toBeLessThan(110);
  });
});

describe("balances, on random systems", () => {
  const runs = (check: (run: SimulationResult, job: Job) => void, wild: boolean, numRuns: number) =>
    fc.assert(
      fc.property(randomJob(wild), fc.integer({ min: 0, max: 1439 }), (job, minuteOfDay) => {
        check(simulate(job, { days: 2, minuteOfDay }).run, job);
      }),
      { numRuns },
    );
  it("energy closes to 0.1 %, with no loss below nothing", () => {
    runs(
      (run) => {
        expect(imbalance(run)).toBeLessThan(0.001);
        const { totals: t } = run;
        for (const loss of [t.inverterLoss, t.pathLoss, t.chargerLoss, t.solarLost, t.secondsMet])
          expect(loss).toBeGreaterThanOrEqual(0);
      },
      false,
      60,
    );
  });
  it("energy closes on a battery of far more resistance than its volts, charged hard", () => {
    // One volt behind an ohm: what its terminals come to is all but the charging's own making.
    const job = withDay(
      jobOf({
        bank: {
          chemistry: "agm",
          blockVoltage: q(1),
          capacityAh: q(64),
          resistance: q(1),
          chargeToVoltage: q(1000),
          startSoc: q(0),
        },
      }),
      { sources: panels(1000, 2) },
    );
    expect(imbalance(simulate(job, { days: 2, minuteOfDay: 5 }).run)).toBeLessThan(0.0001);
  });
  it("energy closes to 0.1 % whatever the schema lets in, and every number is one", () => {
    runs(
      (run) => {
        expect(imbalance(run)).toBeLessThan(0.001);
        for (const list of [run.stateOfCharge, run.cabinC, run.humidity, run.bankVolts, run.bankCurrent])
          expect(list.slice(0, run.steps).every(Number.isFinite)).toBe(true);
        expect(lowest(run.stateOfCharge, run.steps)).toBeGreaterThanOrEqual(0);
        expect(highest(run.stateOfCharge, run.steps)).toBeLessThanOrEqual(1);
      },
      true,
      60,
    );
  });
  it("what leaves the store is the charge that moved times the volts at rest", () => {
    runs(
      (run, job) => {
        const { bank } = buildSystem(job);
        if (run.steps < 2) return;
        // The store's own energy between first and last level, in two thousand slices.
        const [a, b] = [bank.startSoc, run.stateOfCharge[run.steps - 1]!];
        let joules = 0;
        // All that went in and out: a small battery on large loads is emptied and filled several times for nothing left over.
        let moved = 0;
        for (let k = 0; k < run.steps; k++) moved += Math.abs(run.bankCurrent[k]! * run.bankVolts[k]!) * run.stepS;
        for (let i = 0; i < 2000; i++) {
          const s = a + ((b - a) * (i + 0.5)) / 2000;
          joules += openCircuitVoltage(bank, s) * ((a - b) / 2000) * bank.capacityAh * 3600;
        }
        expect(Math.abs(run.totals.fromStore - joules)).toBeLessThan(0.0005 * moved + 2000);
      },
      false,
      30,
    );
  });
  it("heat closes to 0.5 %: what came in is what air and mass hold", () => {
    runs(
      (run) => {
        const { heatIn, heatStored, cooledSensible } = run.totals;
        expect(Math.abs(heatIn - cooledSensible - heatStored)).toBeLessThan(
          0.005 * (Math.abs(heatIn) + cooledSensible) + 2000,
        );
      },
      false,
      30,
    );
  });
});

describe("step of 60 s against 1 s", () => {
  it.each([
    ["fixed speed", "fixed"],
    ["variable speed", "variable"],
  ] as const)("%s: energy within 0.5 %, reserve within five minutes", (_, kind) => {
    const job = withDay(
      jobOf({ unit: { kind }, bank: { capacityAh: q(kind === "fixed" ? 400 : 150), reserve: q(0.7) } }),
      {
        plan: day([unitOn(720, 1200, 23)]),
        sources: panels(175, 2),
      },
    );
    const [coarse, fine] = [60, 1].map((stepS) => simulate(job, { ...NOON, stepS, noOverload: true }).run);
    expect(Math.abs(coarse!.totals.units / fine!.totals.units - 1)).toBeLessThan(0.005);
    expect(fine!.reserveAt).not.toBeNull();
    expect(Math.abs(coarse!.reserveAt! - fine!.reserveAt!)).toBeLessThan(300);
  });
});

describe("what makes it last", () => {
  const base = withDay(jobOf({ bank: { capacityAh: q(300), parallel: q(3) } }), { plan: day([unitOn(720, 900)]) });
  const drawn = (job: Job) => simulate(job, { ...NOON, noOverload: true }).run.totals.units;
  it.each<[string, (job: Job) => Job]>([
    ["a higher set point", (job) => ({ ...job, plan: day([unitOn(720, 900, 27)]) })],
    ["better insulation", (job) => ({ ...job, cabin: { ...job.cabin, insulation: "grade3" } })],
    ["an awning", (job) => ({ ...job, plan: day([unitOn(720, 900), emptySpan("shade", "a", 600, 600)]) })],
    ["a mild day", (job) => ({ ...job, weather: { ...job.weather, kind: "mild" } })],
  ])("%s draws less", (_, change) => {
    expect(drawn(change(base))).toBeLessThan(0.99 * drawn(base));
  });
  it.each<[string, (job: Job) => Job]>([
    ["a door open", (job) => ({ ...job, plan: day([unitOn(720, 900), emptySpan("open", "a", 780, 600)]) })],
    ["people", (job) => ({ ...job, plan: day([unitOn(720, 900), emptySpan("people", "a", 720, 900)]) })],
    ["throwing its air away", (job) => ({ ...job, units: [{ ...job.units[0]!, condenser: "single-duct" }] })],
    ["breathing its own heat", (job) => ({ ...job, units: [{ ...job.units[0]!, condenser: "boxed" }] })],
  ])("%s draws more", (_, change) => {
    expect(drawn(change(base))).toBeGreaterThan(1.01 * drawn(base));
  });
  it("a cold sea beats hot air at the condenser, and a fouled one costs about 1.5 % a kelvin", () => {
    const boat = (leaving?: number): Job =>
      withDay(
        {
          ...base,
          units: [
            { ...base.units[0]!, condenser: "sea", ...(leaving === undefined ? {} : { waterLeavingC: q(leaving) }) },
          ],
        },
        { place: { listed: "faro", timeZone: null, seaC: q(16) } },
      );
    const [clean, healthy, fouled] = [drawn(boat()), drawn(boat(28)), drawn(boat(38))];
    expect(healthy).toBe(clean);
    expect(fouled / clean).toBeGreaterThan(1.08);
    expect(fouled / clean).toBeLessThan(1.5);
    expect(clean).toBeLessThan(drawn(base));
  });
});

describe("sources in their order", () => {
  const base = withDay(jobOf({ bank: { capacityAh: q(300), parallel: q(3), startSoc: q(0.5) } }), { plan: day([]) });
  const totals = (job: Job) => simulate(job, NOON).run.totals;
  it("shore feeds the AC side past the battery and charges with what the inlet leaves", () => {
    const shore = {
      ...base,
      sources: { ...base.sources, chargerCurrent: q(50), inletCurrent: q(10) },
      plan: day([emptySpan("shore", "s", 720, 1380), unitOn(720, 1380, 20)]),
    };
    const t = totals(shore);
    expect(t.shore).toBeGreaterThan(t.units);
    expect(t.inverterLoss).toBeLessThan(0.1 * t.units);
    expect(t.fromStore).toBeLessThan(0);
  });
  it("a generator is derated by height and heat, and charges too", () => {
    const run = simulate(
      {
        ...base,
        sources: { ...base.sources, chargerCurrent: q(40) },
        plan: day([emptySpan("generator", "g", 720, 240)]),
      },
      NOON,
    ).run;
    expect(run.totals.generator).toBeGreaterThan(0);
    expect(run.stateOfCharge[239]!).toBeGreaterThan(0.53);
  });
  it("the road charges more than idling", () => {
    const driven = (idle: boolean) =>
      totals({
        ...base,
        sources: { ...base.sources, engineCurrent: q(60), alternatorCurrent: q(120) },
        plan: day([{ ...(emptySpan("driving", "d", 720, 120) as Extract<PlanSpan, { kind: "driving" }>), idle }]),
      }).engine;
    expect(driven(false)).toBeGreaterThan(2 * driven(true));
  });
  it("what a full battery cannot take is lost, and counted", () => {
    const t = totals({ ...base, bank: { ...base.bank, startSoc: q(1) }, sources: panels(400, 4) });
    expect(t.solarLost).toBeGreaterThan(0.5 * (t.solarUsed + t.solarLost));
  });
  it("a controller passes no more than its current", () => {
    const limited = (current: number) =>
      totals({
        ...base,
        sources: {
          ...panels(400, 4),
          controllers: [{ id: "c", name: "C", stringFuses: "unsaid", current: q(current) }],
        },
      }).solarUsed;
    expect(limited(10)).toBeLessThan(0.5 * limited(100));
  });
  it("panels under a tree for half the day lose its sun and no more", () => {
    const shaded = totals({
      ...base,
      sources: { ...panels(200), panels: [{ ...panels(200).panels[0]!, shadeByHour: Array<number>(12).fill(1) }] },
    });
    const open = totals({ ...base, sources: panels(200) });
    expect(shaded.solarUsed / open.solarUsed).toBeGreaterThan(0.4);
    expect(shaded.solarUsed / open.solarUsed).toBeLessThan(0.75);
  });
  it("nothing charges a lithium battery in frost", () => {
    const frozen = { ...base, bank: { ...base.bank, temperatureC: q(-4) }, sources: panels(400) };
    expect(totals(frozen).fromStore).toBeGreaterThan(0);
  });
});

describe("hard places", () => {
  const job = withDay(jobOf({ bank: { capacityAh: q(300) } }), {
    plan: day([unitOn(720, 600)]),
    sources: panels(200, 2),
  });
  const sun = (place: Job["place"], start: string) =>
    simulate({ ...job, place, plan: { ...job.plan, start } }, NOON).weather.global;
  it("polar night has no sun, polar day has it at midnight", () => {
    expect(Math.max(...sun(at(71, 25), "2026-12-21"))).toBe(0);
    const summer = sun(at(71, 25), "2026-06-21");
    expect(Math.min(...summer)).toBeGreaterThan(0);
  });
  it("at the pole itself every number is one", () => {
    for (const latitude of [90, -90]) {
      const { run } = simulate({ ...job, place: at(latitude, 0) }, NOON);
      expect(run.stateOfCharge.every(Number.isFinite)).toBe(true);
      expect(run.cabinC.every(Number.isFinite)).toBe(true);
    }
  });
  it("the southern half has its summer in January and its sun in the north", () => {
    const total = (start: string) => sun(at(-33, 0), start).reduce((a, b) => a + b);
    expect(total("2026-01-15")).toBeGreaterThan(1.5 * total("2026-07-15"));
    const { weather } = simulate({ ...job, place: at(-33, 0), plan: { ...job.plan, start: "2026-01-15" } }, NOON);
    const azimuth = (weather.track.azimuth[weather.steps - 1440]! * 180) / Math.PI;
    expect(Math.min(azimuth, 360 - azimuth)).toBeLessThan(30);
  });
  it("the equator has twelve hours of sun in any month", () => {
    for (const start of ["2026-03-20", "2026-06-20", "2026-12-20"]) {
      const lit = sun(at(0, 0), start).filter((value) => value > 0).length / 2 / 60;
      expect(Math.abs(lit - 12)).toBeLessThan(0.3);
    }
  });
  it("a leap day is a day", () => {
    const { clock } = simulate(
      { ...job, place: at(37, 0), plan: { ...job.plan, start: "2028-02-28" } },
      { days: 3, minuteOfDay: 720 },
    );
    expect(isoOf(clock, 86_400 * 2)).toBe("2028-02-29T12:00+00:00");
  });
  it.each([
    ["2026-03-28", 23, "2026-03-29T02:00+01:00"],
    ["2026-10-24", 25, "2026-10-25T01:00+00:00"],
  ])("a night of changing clocks from %s lasts %i hours on the plan's clock", (date, hours, after) => {
    const clock = clockFrom("Europe/Lisbon", date, 720, 2 * 86_400);
    const noon = Array.from({ length: 30 * 60 }, (_, m) => m * 60).find(
      (second) => second > 3600 && timeOfDay(clock, second) === "12:00",
    )!;
    expect(noon / 3600).toBe(hours);
    const changed = Array.from({ length: 24 * 60 }, (_, m) => m * 60).find(
      (second) => clock.offsets[Math.floor(second / 3600)] !== clock.offsets[0],
    )!;
    expect(isoOf(clock, changed)).toBe(after);
    const asked = simulate(
      { ...job, place: { listed: "faro", timeZone: null }, plan: { ...day([unitOn(22 * 60, 8 * 60)]), start: date } },
      NOON,
    );
    const minutes = asked.schedule.mode[0]!.slice(asked.warmUpSteps).filter((mode) => mode > 0).length;
    expect(minutes / 60).toBe(hours - 24 + 8);
  });
  it("no panels give no sun, no panels and no battery to speak of end the run soon with the reason", () => {
    expect(simulate({ ...job, sources: { ...job.sources, panels: [] } }, NOON).run.totals.solarUsed).toBe(0);
    const small = simulate(
      { ...job, bank: { ...job.bank, capacityAh: q(5) }, sources: { ...job.sources, panels: [] } },
      {
        ...NOON,
        noOverload: true,
      },
    ).run;
    expect(small.stop).not.toBeNull();
    expect(small.stop!.at).toBeLessThan(1800);
  });
  it("a set point out of reach runs without rest and counts what is missed", () => {
    const tent: Job = {
      ...job,
      cabin: { ...job.cabin, insulation: "bare", colour: "dark", airChanges: q(20) },
      plan: day([unitOn(720, 240, 16)]),
      bank: { ...job.bank, parallel: q(6) },
    };
    const { run } = simulate(tent, { ...NOON, noOverload: true });
    const asked = run.totals.secondsAsked;
    expect(run.totals.secondsMet).toBe(0);
    expect(run.totals.secondsCompressor / asked).toBeGreaterThan(0.98);
    expect(run.totals.degreeHoursMissed).toBeGreaterThan(8);
  });
  it("a unit that the inverter cannot carry does not start, and the run says so", () => {
    const { run } = simulate({ ...job, inverter: { ...job.inverter, rating: q(500) } }, NOON);
    expect(run.stop?.cause).toBe("overload");
    expect(run.totals.secondsCompressor).toBe(0);
  });
  it("a load beyond what the battery can push ends at once at its cut-off", () => {
    const weak: Job = {
      ...job,
      units: [{ ...job.units[0]!, runningCurrent: q(14) }],
      inverter: { ...job.inverter, rating: q(5000) },
      bank: { ...job.bank, chemistry: "agm", capacityAh: q(60), resistance: q(0.03) },
    };
    const { run } = simulate(weak, NOON);
    expect(["inverter", "bank"]).toContain(run.stop?.cause);
  });
});

describe("plan", () => {
  it.each(READY_PLANS.map(({ name, spans }) => [name, spans] as const))("%s has sound spans and cools", (_, spans) => {
    const list = spans(jobOf());
    for (const { from, minutes } of list) {
      expect(from).toBeGreaterThanOrEqual(0);
      expect(from).toBeLessThan(1440);
      expect(minutes).toBeGreaterThan(0);
      expect(minutes).toBeLessThanOrEqual(1440);
    }
    expect(mainUse({ id: "p", name: "p", spans: list })!.minutes).toBeGreaterThanOrEqual(120);
  });
  it.each<[string, PlanSpan[], number | null, number]>([
    ["one span", [unitOn(1260, 600)], 1260, 600],
    ["two that touch", [unitOn(1260, 120), unitOn(1380, 480)], 1260, 600],
    ["one that goes on past midnight", [unitOn(1320, 120), unitOn(0, 360)], 1320, 480],
    ["the longer of two", [unitOn(600, 60), unitOn(900, 120)], 900, 120],
    ["none", [emptySpan("people", "p", 0, 60)], null, 0],
  ])("main use of %s", (_, spans, from, minutes) => {
    expect(mainUse({ id: "p", name: "p", spans })).toEqual(from === null ? null : { from, minutes });
  });
  it("the typical day is an evening, or a siesta for short hours", () => {
    expect(mainUse(usualPattern(8 * 3600))).toEqual({ from: 1260, minutes: 480 });
    expect(mainUse(usualPattern(3 * 3600))).toEqual({ from: 720, minutes: 180 });
  });
  it("weekdays have the plan that is theirs", () => {
    const weekly: Job = {
      ...jobOf(),
      plan: {
        start: "2026-07-13", // A Monday.
        days: 7,
        patterns: [
          { id: "work", name: "Work", spans: [] },
          { id: "rest", name: "Rest", spans: [unitOn(780, 60)] },
        ],
        week: ["work", "work", "work", "work", "work", "rest", "rest"],
      },
    };
    const { schedule, warmUpSteps, clock } = simulate(weekly, { days: 7, minuteOfDay: 0 });
    const lit = Array.from(schedule.mode[0]!.slice(warmUpSteps)).flatMap((mode, i) => (mode > 0 ? [i] : []));
    expect([...new Set(lit.map((i) => isoOf(clock, 86_400 + i * 60).slice(0, 10)))]).toEqual([
      "2026-07-18",
      "2026-07-19",
    ]);
  });
});

describe("what a run is given", () => {
  const limited = (count: number): Job["sources"] => ({
    ...panels(200, count),
    panels: [{ ...panels(200, count).panels[0]!, controllerId: "c" }],
    controllers: [{ ...emptyController("c"), current: q(5) }],
  });
  const job: Job = { ...jobOf({ outdoorC: 35 }), sources: limited(1), plan: day([unitOn(780, 300)]) };
  const given = (changed: Job) => inputOf(changed, NOON).input;
  it("is worked out once while what it follows from stays the same", () => {
    const first = given(job);
    const { surroundings, solar } = given({ ...job, bank: { ...job.bank, capacityAh: q(300) } });
    expect(surroundings).toBe(first.surroundings);
    expect(solar).toBe(first.solar);
  });
  it.each<[string, Job, "surroundings" | "solar"]>([
    ["cabin", { ...job, cabin: { ...job.cabin, length: q(9) } }, "surroundings"],
    ["roof's shade by panels", { ...job, sources: limited(4) }, "surroundings"],
    ["panels", { ...job, sources: { ...limited(1), panels: panels(150).panels } }, "solar"],
    ["battery's volts", { ...job, bank: { ...job.bank, series: q(2) } }, "solar"],
    ["plan", { ...job, plan: day([unitOn(780, 300), emptySpan("shade", "s", 600, 600)]) }, "solar"],
    ["weather", { ...job, weather: { ...job.weather, highestC: q(30) } }, "surroundings"],
  ])("is another where the %s is another, as if nothing had been kept", (_, changed, lines) => {
    const first = given(job);
    const kept = given(changed)[lines];
    expect(kept).not.toEqual(first[lines]);
    // Asked in between for another system, it is made anew.
    given(job);
    expect(given(changed)[lines]).toEqual(kept);
  });
});

describe("weather and places", () => {
  const climate = { maxC: 30, minC: 20, dewPointC: 16, clearness: 0.65, spread: 2.5, wind: 3, seaC: 22 };
  it("a seed gives the same fortnight, another seed another", () => {
    expect(generatedDays(climate, 14, 5)).toEqual(generatedDays(climate, 14, 5));
    expect(generatedDays(climate, 14, 5)).not.toEqual(generatedDays(climate, 14, 6));
  });
  it("many days have the month's means, its spread and warm spells that last", () => {
    const days = generatedDays(climate, 6000, 3);
    const mean = (list: number[]) => list.reduce((a, b) => a + b) / list.length;
    const middles = days.map(({ maxC, minC }) => (maxC + minC) / 2);
    const m = mean(middles);
    const variance = mean(middles.map((t) => (t - m) ** 2));
    expect(Math.abs(m - 25)).toBeLessThan(0.3);
    expect(Math.abs(Math.sqrt(variance) - 2.5)).toBeLessThan(0.2);
    const next = mean(middles.slice(1).map((t, i) => (t - m) * (middles[i]! - m))) / variance;
    expect(Math.abs(next - 0.7)).toBeLessThan(0.05);
    expect(Math.abs(mean(days.map(({ clearness }) => clearness)) - 0.65)).toBeLessThan(0.03);
  });
  it("the typical day of a place has the month's maximum, minimum and sun", () => {
    const usual = readyDay(climate, "usual");
    const job = withDay(jobOf(), { place: { listed: "faro", timeZone: null } });
    expect(usual.maxC).toBeCloseTo(30, 6);
    const { weather } = simulate(job, { days: 1, minuteOfDay: 0, weather: "usual" });
    const { values } = buildSystem(job);
    const last = weather.outdoorC.slice(1440);
    expect(Math.abs(Math.max(...last) - values.place.maxC.value)).toBeLessThan(0.2);
    expect(Math.abs(Math.min(...last) - values.place.minC.value)).toBeLessThan(0.4);
    let [ground, above] = [0, 0];
    for (let i = 1440; i < 2880; i++) {
      ground += weather.global[i]!;
      above += weather.beamTop[i]! * Math.max(0, Math.sin(weather.track.altitude[i]!));
    }
    expect(Math.abs(ground / above - values.place.clearness.value)).toBeLessThan(0.02);
  });
  it("lists some 150 places, each sound, each in its zone's part of the day", () => {
    expect(PLACES.length).toBeGreaterThanOrEqual(140);
    expect(new Set(PLACES.map(({ id }) => id)).size).toBe(PLACES.length);
    for (const place of PLACES) {
      expect(isTimeZone(place.timeZone), place.name).toBe(true);
      const clock = clockFrom(place.timeZone, "2026-01-15", 720, 3600);
      const solar = ((clock.startMs / 3_600_000 + place.longitude / 15 + 48) % 24) - 12;
      expect(Math.abs(solar), place.name).toBeLessThan(3.3);
      for (const month of [1, 4, 7, 10]) {
        expect(ofMonth(place.maxC, month), place.name).toBeGreaterThan(ofMonth(place.minC, month));
        expect(ofMonth(place.minC, month) + 3, place.name).toBeGreaterThan(ofMonth(place.dewPointC, month));
      }
      expect(nearestPlace(place.latitude, place.longitude).id).toBe(place.id);
    }
  });
  it("reads a plain hourly CSV and cuts days from it", () => {
    const rows = Array.from({ length: 48 }, (_, h) => {
      const date = `2025-07-${String(10 + Math.floor(h / 24)).padStart(2, "0")}`;
      return `${date} ${String(h % 24).padStart(2, "0")}:00,${20 + (h % 24) / 2},50,${h % 24 > 6 ? 400 : 0}`;
    });
    const read = readWeather(["time,temperature,humidity,global", ...rows].join("\n"), "station");
    if (!read.ok) throw new Error(read.message);
    const cut = cutWeather(read.file, 7, 11, 1);
    expect(cut.hours).toHaveLength(24);
    expect(cut.hours[10]![0]).toBe(25);
    const job: Job = { ...jobOf(), weather: { kind: "file", seed: 1, file: cut }, place: at(37, 0) };
    const { weather } = simulate({ ...job, plan: { ...job.plan, start: "2026-07-11" } }, { days: 1, minuteOfDay: 0 });
    expect(weather.outdoorC[1440 + 10 * 60 + 30]!).toBeCloseTo(25, 6);
  });
  it("reads EPW by its columns", () => {
    const line = (hour: number) => {
      const cells = Array<string>(35).fill("0");
      [cells[0], cells[1], cells[2], cells[3]] = ["2005", "7", "1", String(hour)];
      [cells[6], cells[7], cells[13], cells[15], cells[21]] = ["31.5", "14.2", "810", "120", "3.4"];
      return cells.join(",");
    };
    const head = ["LOCATION,Town,,LAND,x,1,37.0,-8.0,0.0,20.0", ...Array<string>(7).fill("X")];
    const read = readWeather([...head, ...Array.from({ length: 24 }, (_, i) => line(i + 1))].join("\n"), "x.epw");
    if (!read.ok) throw new Error(read.message);
    expect(read.file).toMatchObject({ latitude: 37, longitude: -8, altitude: 20, offsetHours: 0 });
    expect(read.file.rows).toHaveLength(24);
    expect(read.file.rows[0]!.values).toEqual([31.5, 14.2, 810, 120, 3.4]);
  });
  it.each([
    ["", /heading|hour|time/i],
    ["a,b,c\n1,2,3", /./],
  ])("says why %j is no weather file", (text, message) => {
    const read = readWeather(text, "x.csv");
    expect(read.ok).toBe(false);
    if (!read.ok) expect(read.message).toMatch(message);
  });
  it("local time goes with the place", () => {
    expect(timeOfDay(clockFrom("Australia/Adelaide", "2026-01-15", 750, 3600), 0)).toBe("12:30");
    expect(localSecond(clockFrom("UTC", "1970-01-02", 0, 60), 5)).toBe(86_405);
  });
});

describe("a cabin temperature at switching on", () => {
  const evening: Job = {
    ...jobOf({ brief: { month: 7 } }),
    place: { listed: "faro", timeZone: null },
    plan: {
      ...jobOf().plan,
      startCabinC: q(38),
      patterns: [{ id: "d", name: "Day", spans: [{ id: "u", kind: "unit", from: 1200, minutes: 300, mode: "auto" }] }],
    },
  };
  it("belongs to switching on, and not to the noon that the day begins with", () => {
    const { run } = simulate(evening, { days: 1, minuteOfDay: 720 });
    const bare = simulate(
      { ...evening, plan: { ...evening.plan, startCabinC: undefined } },
      { days: 1, minuteOfDay: 720 },
    );
    expect(run.cabinC[60]).toBeCloseTo(bare.run.cabinC[60]!, 6);
    expect(run.cabinC[480]).toBeGreaterThan(30);
    expect(Math.max(...run.cabinC.slice(475, 485))).toBeGreaterThan(bare.run.cabinC[470]! + 3);
  });
});

it("a unit that never rests ices its coil in a cold cabin, which does not freeze", () => {
  const job: Job = {
    ...jobOf({ brief: { month: 3, loads: [] }, unit: { coolingPower: q(4000) }, bank: { parallel: q(20) } }),
    place: { listed: "london", timeZone: null },
    plan: day([unitOn(0, 1440, 16)]),
  };
  const { run } = simulate(job, { days: 1, minuteOfDay: 0, neverResting: true, noOverload: true });
  expect(lowest(run.outdoorC)).toBeLessThan(6);
  // Without ice it came to 2.6 °C and less.
  for (let k = 0; k < run.steps; k++) expect(run.cabinC[k]!).toBeGreaterThan(Math.min(4, run.outdoorC[k]! - 1));
  expect(run.totals.units).toBeGreaterThan(0);
});
