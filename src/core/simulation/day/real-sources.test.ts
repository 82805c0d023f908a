/* What the day's run asks of real sources: inverter-chargers, generators that start by themselves, protection boards, pumps. */
import { describe, expect, it } from "vitest";
import { q, jobOf } from "../../../../tests/jobs";
import { emptyBranch, emptyPart, emptySpan, type PlanSpan, type Job } from "../../document/schema";
import { assess } from "../../assessment/verdicts/assess";
import { assessDay } from "../../assessment/verdicts/day";
import { simulate, type Question } from "./simulate";

const NOON: Question = { days: 1, minuteOfDay: 720 };
const always = (kind: "shore" | "generator"): PlanSpan => emptySpan(kind, kind, 0, 1440);
const unitOn = { ...emptySpan("unit", "u", 720, 600), setPointC: q(22) } as PlanSpan;

/** A van whose unit runs from noon on, with the spans given beside it. */
function withSpans(job: Job, ...spans: PlanSpan[]): Job {
  return { ...job, plan: { ...job.plan, patterns: [{ id: "d", name: "Day", spans: [unitOn, ...spans] }] } };
}
const job: Job = {
  ...jobOf({ bank: { capacityAh: q(300) }, unit: { runningCurrent: q(6) }, inverter: { rating: q(3000) } }),
  place: { listed: "faro", timeZone: null },
};
const share = (one: Job, question: Question = NOON) => {
  const { run } = simulate(one, question);
  return run.stateOfCharge[run.steps - 1]!;
};

describe("an inverter-charger", () => {
  const onShore = (change: Partial<Job["inverter"]>) =>
    withSpans({ ...job, inverter: { ...job.inverter, combined: true, ...change } }, always("shore"));
  // 3 A at 230 V is 690 W; the unit takes twice that.
  const weak = { inletLimit: q(3), chargeCurrent: q(0.5 * 40) };
  it("takes from shore what its limit allows and adds the rest from the battery", () => {
    const { run } = simulate(onShore({ ...weak, assist: true }), { ...NOON, days: 0.05 });
    const shore = run.shorePower.slice(0, 60).reduce((a, b) => Math.max(a, b));
    expect(shore).toBeLessThanOrEqual(690 + 1e-3);
    expect(run.totals.fromStore).toBeGreaterThan(0);
  });
  it("that does not assist runs the unit from the battery alone: it sinks further", () => {
    const end = (assist: boolean) => simulate(onShore({ ...weak, assist }), { ...NOON, days: 0.1 }).run.totals.units;
    expect(end(true)).toBeGreaterThan(0);
    expect(share(onShore({ ...weak, assist: false }), { ...NOON, days: 0.1 })).not.toBe(
      share(onShore({ ...weak, assist: true }), { ...NOON, days: 0.1 }),
    );
  });
  it("charges below its limit, up to its own current", () => {
    const charged = onShore({ inletLimit: q(16), chargeCurrent: q(40) });
    expect(share(charged, { ...NOON, startSoc: 0.4 })).toBeGreaterThan(0.9);
  });
});

describe("a generator that starts by itself", () => {
  const auto = (change: Partial<Job["supplies"]> = {}) =>
    withSpans({
      ...job,
      supplies: {
        ...job.supplies,
        generatorAuto: true,
        generatorRating: q(3000),
        startAt: q(0.4),
        stopAt: q(0.7),
        ...change,
      },
      wiring: { ...job.wiring, branches: [{ ...emptyBranch("charger", "c"), current: q(60) }] },
    });
  it("keeps the battery at its level: it starts at one and stops at the other", () => {
    const { run } = simulate(auto(), { days: 3, minuteOfDay: 720 });
    expect(run.totals.secondsGenerator).toBeGreaterThan(0);
    expect(run.stateOfCharge.slice(0, run.steps).reduce((a, b) => Math.min(a, b))).toBeGreaterThan(0.38);
    const running = run.generatorPower.findIndex((watts) => watts > 0);
    expect(run.stateOfCharge[running - 1]!).toBeLessThanOrEqual(0.41);
  });
  it("burns less at part load than at full: 0.3 of its fuel at none (common practice, no source)", () => {
    const { totals } = simulate(auto({ fuelAtFull: q(1.6) }), { days: 3, minuteOfDay: 720 }).run;
    const litresAnHour = totals.fuelLitres / (totals.secondsGenerator / 3600);
    expect(litresAnHour).toBeGreaterThan(0.3 * 1.6);
    expect(litresAnHour).toBeLessThan(1.6);
  });
  it("is no part of what the battery lasts alone", () => {
    expect(simulate(auto(), { ...NOON, bankAlone: true }).run.totals.secondsGenerator).toBe(0);
  });
  it("has its hours and litres told by the day", () => {
    const { generator } = assessDay(auto(), { range: false });
    expect(generator.hoursADay).toBeGreaterThan(0);
    expect(generator.litresADay).toBeGreaterThan(0);
  });
  it("gives for hours less than its plate says: 0.9 of it unless entered", () => {
    const most = (continuous: number) => {
      const one = withSpans(
        {
          ...job,
          supplies: { ...job.supplies, generatorRating: q(1000), generatorContinuous: q(continuous) },
          wiring: { ...job.wiring, branches: [{ ...emptyBranch("charger", "c"), current: q(200) }] },
        },
        always("generator"),
      );
      return simulate(one, { ...NOON, startSoc: 0.3 }).run.generatorPower.reduce((a, b) => Math.max(a, b));
    };
    expect(most(0.8) / most(1)).toBeCloseTo(0.8, 3);
  });
});

describe("the battery's own limits in a run", () => {
  it("a BMS opens where the units ask for more: they stay off, and the run says so", () => {
    const { run } = simulate(withSpans({ ...job, bank: { ...job.bank, continuousCurrent: q(60) } }), NOON);
    expect(run.stop?.cause).toBe("protection");
    // Its fan still turns while it waits for the next try.
    expect(run.totals.secondsCompressor).toBe(0);
  });
  it("lead-acid has no board: it goes on", () => {
    const lead = { ...job.bank, chemistry: "agm" as const, continuousCurrent: q(60) };
    expect(simulate(withSpans({ ...job, bank: lead }), NOON).run.stop?.cause).not.toBe("protection");
  });
  const charging = (change: Partial<Job["bank"]>) =>
    withSpans(
      {
        ...job,
        bank: { ...job.bank, ...change },
        wiring: { ...job.wiring, branches: [{ ...emptyBranch("charger", "c"), current: q(200) }] },
      },
      always("shore"),
    );
  const filled = (change: Partial<Job["bank"]>) =>
    share(charging(change), { days: 0.05, minuteOfDay: 0, startSoc: 0.3 });
  it("it is charged with no more than it may take", () => {
    expect(filled({ chargeCurrent: q(30) })).toBeLessThan(filled({ chargeCurrent: q(140) }));
    // 30 A for 1.2 h into 300 Ah is an eighth.
    expect(filled({ chargeCurrent: q(30) }) - 0.3).toBeCloseTo((30 * 1.2 * 0.99) / 300, 2);
  });
  it.each([
    [20, 1],
    [15, 1],
    [7.5, 0.55],
    [50, 0.5],
    [56, 0],
    [-1, 0],
  ])("lithium at %f °C is charged at %f of its limit (common practice, no source)", (celsius, left) => {
    const { figures } = assess(charging({ temperatureC: q(celsius), highestChargeC: q(55), chargeCurrent: q(100) }));
    expect(figures["bank.chargeLimit"]!.value).toBeCloseTo(100 * left, 6);
  });
  it("resistance rises with age: half as much again at 80 % of a lithium battery's capacity", () => {
    const ohms = (health: number) => assess(jobOf({ bank: { condition: q(health) } })).values.bank.resistance.value;
    expect(ohms(0.8) / ohms(1)).toBeCloseTo(1.5, 6);
  });
});

describe("an isolator between unlike batteries", () => {
  const driving = { ...emptySpan("driving", "d", 0, 1440) } as PlanSpan;
  it("charges nothing in any run", () => {
    const engine = { ...emptyBranch("engine", "e"), coupling: "isolator" as const, current: q(50), far: [] };
    const on = (volts: number) =>
      simulate(
        withSpans(
          { ...job, bank: { ...job.bank, blockVoltage: q(volts) }, wiring: { ...job.wiring, branches: [engine] } },
          driving,
        ),
        { ...NOON, startSoc: 0.5 },
      ).run.totals.engine;
    expect(on(12.8)).toBeGreaterThan(0);
    expect(on(51.2)).toBe(0);
  });
});

describe("units beside the inverter", () => {
  it("a sea-water pump runs with its unit and is counted beside a plate, not beside battery amps", () => {
    const draw = (unit: Partial<Job["units"][number]>) =>
      assess(jobOf({ unit: { condenser: "sea", pumpPower: q(80), ...unit } })).figures["unit.0.running"]!.value -
      assess(jobOf({ unit: { condenser: "sea", pumpPower: q(0), ...unit } })).figures["unit.0.running"]!.value;
    expect(draw({ runningCurrent: q(4) })).toBeCloseTo(80, 6);
    expect(draw({ dcRunningCurrent: q(70, "measured") })).toBeCloseTo(0, 6);
  });
  const mixed = (own: boolean): Job => {
    const base = jobOf({ bank: { capacityAh: q(400) }, inverter: { rating: q(2000) } });
    const unit = {
      ...base.units[0]!,
      id: "dc",
      name: "Roof DC",
      kind: "dc" as const,
      ratedPower: q(600),
      cutOffVoltage: q(12.9),
    };
    return withSpans({
      ...base,
      units: [base.units[0]!, unit],
      wiring: { ...base.wiring, branches: own ? [{ ...emptyBranch("dc-unit", "b"), unitId: "dc" }] : [] },
    });
  };
  it("a DC unit on its own branch leaves the inverter's circuit to the inverter", () => {
    const along = (own: boolean) => assess(mixed(own)).figures["carries.pathPower"]!.value;
    expect(along(false) - along(true)).toBeGreaterThan(500);
    expect(assess(mixed(true)).figures["carries.bankCurrent"]!.value).toBeCloseTo(
      assess(mixed(false)).figures["carries.bankCurrent"]!.value,
      -1,
    );
  });
  it("and switches off at its own cut-off while the inverter goes on", () => {
    expect(simulate(mixed(true), NOON).run.stop?.cause).toBe("unit");
  });
});

describe("supply of two legs", () => {
  it("a 50 A inlet brings twice what one leg does to the run", () => {
    const at = (amps: number) => {
      const one = jobOf({ mains: "120V240V60Hz", inverter: { rating: q(6000) } });
      one.wiring.branches = [
        { ...emptyBranch("shore", "s"), current: q(amps) },
        { ...emptyBranch("charger", "c"), current: q(2000) },
      ];
      one.wiring.mains.unshift(emptyPart("changeover", "t"));
      one.bank = {
        ...one.bank,
        capacityAh: q(20_000),
        chargeCurrent: q(5000),
        continuousCurrent: q(5000),
        resistance: q(0.000001),
      };
      one.wiring.measured = {};
      const { run } = simulate(withSpans(one, always("shore")), { days: 0.05, minuteOfDay: 0, startSoc: 0.3 });
      return run.shorePower.reduce((a, b) => Math.max(a, b));
    };
    expect(at(50) / at(30)).toBeCloseTo(2 * (50 / 30), 2);
  });
});
