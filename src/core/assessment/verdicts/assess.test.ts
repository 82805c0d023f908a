import fc from "fast-check";
import { readFileSync, readdirSync } from "node:fs";
import { describe, expect, it } from "vitest";
import { cases } from "../../../../tests/cases";
import { q, jobOf } from "../../../../tests/jobs";
import { randomJob } from "../../../../tests/random-jobs";
import { METRIC } from "../../units/dimension";
import { gaugeAreaMm2 } from "../../units/gauge";
import { readJob, readJobText, type Job } from "../../document/schema";
import type { Quantity } from "../../units/known";
import type { RuleId } from "../judge/rule-ids";
import { gravestFirst } from "../judge/judge";
import { smallestMargin } from "../../simulation/start/start";
import { assess } from "./assess";
import { assessDay } from "./day";
import { noticesShown } from "../../../../tests/notices";
import { assessmentAsJson, assessmentAsText } from "./report";
import { summaryOf, summarySchema } from "./summary";

/** Every number anywhere in a value, with its path. */
function* numbersIn(value: unknown, path = ""): Generator<[string, number]> {
  if (typeof value === "number") yield [path, value];
  else if (ArrayBuffer.isView(value)) for (const number of value as unknown as Iterable<number>) yield [path, number];
  else if (value && typeof value === "object")
    for (const [key, inner] of Object.entries(value)) yield* numbersIn(inner, `${path}.${key}`);
}

describe("any valid document", () => {
  it.each([
    ["plausible", false, cases(60, 250)],
    ["wild", true, cases(100, 500)],
  ] as const)("%s: assessed without a throw, a NaN or an infinity", (_, wild, numRuns) => {
    fc.assert(
      fc.property(randomJob(wild), (job) => {
        expect(readJob(job)).toMatchObject({ ok: true });
        const bad = [...numbersIn(assess(job))].filter(([, number]) => !Number.isFinite(number));
        expect(bad).toEqual([]);
      }),
      { numRuns },
    );
  });

  it("names the weakest link: no check is graver, or nearer to failing, than the one that decides", () => {
    fc.assert(
      fc.property(randomJob(false), (job) => {
        for (const { word, decides, checks } of Object.values(assess(job).verdicts)) {
          expect(word).toBe(decides.word);
          const failing = checks.filter((one) => one.margin < 1);
          if (failing.length > 0) expect(decides.margin).toBeLessThan(1);
          if (failing.some((one) => one.word === "Stop")) expect(word).toBe("Stop");
          expect([...checks].sort(gravestFirst)[0]).toBe(decides);
        }
      }),
      { numRuns: cases(40, 150) },
    );
  });

  it("shows the working behind every check, and each leads to figures that exist", () => {
    fc.assert(
      fc.property(randomJob(true), (job) => {
        const { figures, verdicts, hours } = assess(job);
        const shown = [
          ...Object.values(verdicts).flatMap(({ checks }) => checks.flatMap((one) => [one.demand.key, one.limit.key])),
          ...hours.flatMap((h) => [h.reserveFigure.key, h.cutOffFigure.key]),
        ];
        for (const key of shown) expect(figures[key], key).toBeDefined();
        for (const { terms } of Object.values(figures))
          for (const { figure } of terms) if (figure) expect(figures[figure], figure).toBeDefined();
      }),
      { numRuns: cases(25, 100) },
    );
  });
});

describe("monotone where physics is", () => {
  const scaled = (quantity: Quantity | undefined, typical: number, factor: number): Quantity => ({
    value: (quantity?.value ?? typical) * factor,
    origin: "plate",
  });
  const reserveHours = (job: Job) => assess(job).hours.map((h) => h.toReserve);

  it("more resistance never helps a start", () => {
    fc.assert(
      fc.property(randomJob(false), fc.double({ min: 1, max: 20, noNaN: true }), (random, factor) => {
        // Amps read at the battery stand for fewer watts behind more resistance, so the demand would change too.
        const plain = (unit: Job["units"][number]) => ({
          ...unit,
          dcRunningCurrent: undefined,
          dcLowCurrent: undefined,
          dcFanCurrent: undefined,
          dcAverageCurrent: undefined,
        });
        const job: Job = { ...random, units: random.units.map(plain) };
        const { wiring, bank } = assess(job).values;
        const with_ = (by: number): Job => ({
          ...job,
          wiring: {
            ...job.wiring,
            measured: {},
            // In a chain more resistance in the batteries evens their sharing, which does help.
            links: { layout: "busbars" as const, fuses: "unsaid", paths: [] },
            main: job.wiring.main.map((part, i) =>
              part.kind === "cable"
                ? { ...part, length: scaled(part.length, wiring.main[i]!.length!.value, by) }
                : part,
            ),
          },
          bank: { ...job.bank, resistance: scaled(job.bank.resistance, bank.resistance.value, by) },
        });
        const margin = (by: number) => smallestMargin(assess(with_(by)).start.own);
        expect(margin(factor)).toBeLessThanOrEqual(margin(1) * (1 + 1e-9));
      }),
      { numRuns: cases(40, 150) },
    );
  });

  it("more amp-hours never shorten a run", () => {
    fc.assert(
      fc.property(randomJob(false), fc.double({ min: 1, max: 10, noNaN: true }), (job, factor) => {
        const base = job.bank.capacityAh?.value ?? 200;
        const hours = (ah: number) =>
          reserveHours({ ...job, bank: { ...job.bank, capacityAh: q(ah), resistance: q(0.004) } });
        const [less, more] = [hours(base), hours(base * factor)];
        less.forEach((h, i) => expect(more[i]).toBeGreaterThanOrEqual(h * (1 - 1e-9)));
      }),
      { numRuns: cases(40, 150) },
    );
  });

  it("a lower reserve never shortens a run", () => {
    fc.assert(
      fc.property(
        randomJob(false),
        fc.double({ min: 0, max: 0.9, noNaN: true }),
        fc.double({ min: 0, max: 1, noNaN: true }),
        (job, reserve, share) => {
          const hours = (r: number) => reserveHours({ ...job, bank: { ...job.bank, reserve: q(r) } });
          const [high, low] = [hours(reserve), hours(reserve * share)];
          high.forEach((h, i) => expect(low[i]).toBeGreaterThanOrEqual(h * (1 - 1e-9)));
        },
      ),
      { numRuns: cases(40, 150) },
    );
  });

  it("more load never lengthens a run", () => {
    fc.assert(
      fc.property(randomJob(false), fc.double({ min: 1, max: 2000, noNaN: true }), (job, watts) => {
        const loaded = {
          ...job,
          brief: {
            ...job.brief,
            loads: [
              ...job.brief.loads,
              { id: "more", name: "more", side: "dc" as const, leg: "L1" as const, atStart: false, power: q(watts) },
            ],
          },
        };
        const [without, with_] = [reserveHours(job), reserveHours(loaded)];
        without.forEach((h, i) => expect(with_[i]).toBeLessThanOrEqual(h * (1 + 1e-9)));
      }),
      { numRuns: cases(40, 150) },
    );
  });
});

describe("a start", () => {
  const starting = { runningCurrent: q(6), lockedRotorCurrent: q(33) };
  const checkOf = (job: Job, by: RuleId) => assess(job).verdicts.starts.checks.find((one) => one.by === by)!;

  it("restarted too soon fails by that", () => {
    const job = jobOf({
      unit: { ...starting, sinceStop: q(60), startAid: "soft-starter" },
      bank: { capacityAh: q(600) },
      inverter: { rating: q(6000) },
    });
    const { starts } = assess(job).verdicts;
    expect(starts.decides.name).toBe("restart too soon");
    expect(starts.word).toBe("Fails");
  });
  it("of a variable-speed unit has no inrush", () => {
    const { start } = assess(jobOf({ unit: { kind: "variable", runningCurrent: q(6, "measured") } }));
    expect(start.own.peakApparent).toBeLessThanOrEqual(6 * 230 + 1);
    expect(start.softStarter).toBeNull();
  });
  it("with a start capacitor is shorter and hardly lower", () => {
    const { start } = assess(jobOf({ unit: { ...starting, startAid: "start-capacitor" } }));
    expect(start.own.shape.settles).toBeCloseTo(start.bare!.shape.settles / 2, 9);
    expect(start.own.shape.peakCurrent / start.bare!.shape.peakCurrent).toBeGreaterThan(0.9);
  });
  it("of two units at once asks for both peaks; in turn for one peak over the other running", () => {
    const two = (startOrder: "in-turn" | "together"): Job => {
      const job = jobOf({ unit: starting, inverter: { startOrder } });
      return { ...job, units: [job.units[0]!, { ...job.units[0]!, id: "second" }] };
    };
    const [turn, together] = [
      assess(two("in-turn")).start.own.peakApparent,
      assess(two("together")).start.own.peakApparent,
    ];
    expect(together / turn).toBeGreaterThan(1.6);
    expect(turn).toBeGreaterThan(33 * 230 + 6 * 230 * 0.9);
  });
  it("counts a load that may be on, and not one that is kept off", () => {
    const kettle = (atStart: boolean) =>
      checkOf(
        jobOf({
          unit: starting,
          brief: { loads: [{ id: "k", name: "kettle", side: "mains", leg: "L1", atStart, power: q(2000) }] },
        }),
        "start-inverter",
      ).need;
    expect(kettle(true) - kettle(false)).toBeCloseTo(2000, 6);
  });
  it("under a cut-off with a delay longer than the start gets through on volts", () => {
    const thin = (cutOffDelay: number) =>
      checkOf(
        jobOf({
          unit: starting,
          bank: { capacityAh: q(400) },
          cable: { areaMm2: q(25), length: q(4) },
          inverter: { cutOffDelay: q(cutOffDelay) },
        }),
        "start-voltage",
      );
    expect(thin(0).word).toBe("Fails");
    expect(thin(2).word).not.toBe("Fails");
  });
  it("past what the battery can give is a verdict of collapse, not an error", () => {
    const { verdicts, start } = assess(
      jobOf({ unit: { ...starting, lockedRotorCurrent: q(400) }, bank: { capacityAh: q(50) } }),
    );
    expect(start.own.peak.collapsed).toBe(true);
    expect(verdicts.starts.word).toBe("Fails");
    expect(verdicts.starts.checks.find(({ by }) => by === "start-voltage")!.remark).toContain("collapses");
  });
  it("at the reserve is harder than as charged", () => {
    const { start } = assess(jobOf({ unit: starting }));
    expect(start.ladders.map(({ title }) => title)).toEqual(["at the reserve", "as charged", "reserve, at 0 °C"]);
    expect(start.ladders[0]!.end).toBeLessThan(start.ladders[1]!.end);
    expect(start.ladders[2]!.end).toBeLessThan(start.ladders[0]!.end);
  });
  it("the ladder's rungs add up from rest to the inverter", () => {
    const [ladder] = assess(jobOf({ unit: starting })).start.ladders;
    const lost = ladder!.rungs.reduce((sum, { drop }) => sum + drop, 0);
    expect(ladder!.rest - lost).toBeCloseTo(ladder!.end, 9);
  });
});

describe("carries: stops", () => {
  it.each<[string, Parameters<typeof jobOf>[0], string]>([
    ["no fuse at the battery", { fuse: null }, "no fuse at the battery"],
    [
      "a fuse larger than its cable may carry",
      { cable: { areaMm2: q(25) }, fuse: { rating: q(300) } },
      "cable W1 behind class T fuse F1",
    ],
    [
      "a fuse that cannot break the short circuit",
      { fuse: { interrupting: q(500) } },
      "class T fuse F1 interrupting rating",
    ],
    ["a fuse for fewer volts than the battery", { fuse: { voltage: q(12) } }, "class T fuse F1 voltage rating"],
  ])("%s", (_, parts, name) => {
    const { carries } = assess(jobOf(parts)).verdicts;
    expect(carries.word).toBe("Stop");
    expect(carries.decides.name).toBe(name);
  });
});

describe("batteries of any kind", () => {
  it.each<[string, Partial<Job["bank"]>, number, number]>([
    ["12 V of four LFP cells", { build: "cells" }, 12.8, 1],
    ["24 V of two LFP batteries", { series: q(2) }, 25.6, 1],
    [
      "36 V of ten NMC cells charged to 4.0 V each",
      { chemistry: "nmc", build: "cells", blockVoltage: q(3.6), series: q(10), chargeToVoltage: q(40) },
      36,
      0.84,
    ],
    ["72 V of twenty NMC cells", { chemistry: "nmc", build: "cells", blockVoltage: q(3.6), series: q(20) }, 72, 0.973],
    ["96 V of thirty LFP cells", { build: "cells", series: q(30) }, 96, 1],
    ["48 V of four AGM blocks", { chemistry: "agm", series: q(4) }, 48, 1],
  ])("%s", (_, bank, nominal, start) => {
    const { values, hours, verdicts } = assess(
      jobOf({ bank: { capacityAh: q(100), ...bank }, unit: { kind: "variable", runningCurrent: q(2) } }),
    );
    expect(values.bank.blockVoltage.value * values.bank.series.value).toBeCloseTo(nominal, 6);
    expect(values.bank.startSoc.value).toBeCloseTo(start, 2);
    expect(hours.every(({ toReserve }) => toReserve > 0)).toBe(true);
    expect(verdicts.carries.checks.find(({ by }) => by === "bank-voltage")!.word).toBe("Holds");
  });
  it("doubling the volts about halves the current along the wiring", () => {
    const current = (series: number) =>
      assess(jobOf({ bank: { series: q(series), capacityAh: q(300) }, unit: { runningCurrent: q(6) } })).figures[
        "carries.current"
      ]!.value;
    expect(current(1) / current(2)).toBeCloseTo(2, 0);
  });
  it("cold takes capacity and raises the cells' resistance", () => {
    const at = (temperatureC: number) => assess(jobOf({ bank: { temperatureC: q(temperatureC) } })).figures;
    expect(at(0)["bank.capacity"]!.value / at(25)["bank.capacity"]!.value).toBeCloseTo(0.9, 9);
    expect(at(0)["bank.resistance"]!.value / at(25)["bank.resistance"]!.value).toBeCloseTo(1.5, 9);
  });
});

describe("what is entered wins over what is assumed, and what hangs on it follows", () => {
  it("locked-rotor current follows the running current until it is entered itself", () => {
    const { values } = assess(jobOf({ unit: { runningCurrent: q(8) } }));
    expect(values.units[0]!.lockedRotorCurrent).toMatchObject({ value: 40, origin: "assumed", entered: false });
  });
  it("measured battery amps decide what leaves the battery", () => {
    const { hours } = assess(
      jobOf({ unit: { runningCurrent: q(6), dcRunningCurrent: q(60, "measured") }, bank: { capacityAh: q(300) } }),
    );
    const idle = 24 / 13;
    expect(hours.find(({ mode }) => mode === "full")!.meanCurrent).toBeCloseTo(60 + idle, -1);
  });
  it("a system whose units run on battery DC needs no inverter", () => {
    const { verdicts } = assess(jobOf({ unit: { kind: "dc", runningCurrent: q(40) } }));
    expect(verdicts.starts.checks.some(({ by }) => by === "start-inverter")).toBe(false);
    expect(verdicts.carries.checks.some(({ by }) => by === "inverter-continuous")).toBe(false);
  });
  it("the units a job is written in change no verdict", () => {
    const job = jobOf({ mains: "120V60Hz", cable: { areaMm2: q(gaugeAreaMm2(-1)) } });
    const other: Job = { ...job, notation: METRIC };
    expect(summaryOf(other)).toEqual(summaryOf(job));
  });
});

describe("remarks", () => {
  const texts = (job: Job) =>
    noticesShown(job)
      .map(({ text }) => text)
      .join("\n");
  it.each<[string, Job, RegExp]>([
    ["modified sine", jobOf({ inverter: { waveform: "modified" } }), /Modified-sine/],
    ["frost", jobOf({ bank: { temperatureC: q(-3) } }), /must not be charged/],
    ["an unlearned soft starter", jobOf({ unit: { startAid: "soft-starter", learned: false } }), /has not learned/],
    [
      "a value outside its range",
      jobOf({ unit: { startTime: q(3) } }),
      /Start time 3 s is outside the usual 0.15 s to 0.6 s/,
    ],
    ["charged part of the way", jobOf({ bank: { chemistry: "nmc", chargeToVoltage: q(56) } }), /begins at 8\d %/],
  ])("%s", (_, job, expected) => expect(texts(job)).toMatch(expected));
  it("the cautions are always there", () => {
    expect(texts(jobOf())).toMatch(/lethal charge[\s\S]*Never bypass protection/);
  });
});

describe("the demo's jobs", () => {
  const folder = new URL("../../../../db/demo/", import.meta.url);
  const jobs = readdirSync(folder).map((file) => readJobText(readFileSync(new URL(file, folder), "utf8")));
  it("are six valid documents", () => {
    expect(jobs.map((read) => read.ok)).toEqual([true, true, true, true, true, true]);
  });
  it("show every word between them", () => {
    const words = jobs.flatMap((read) =>
      read.ok ? Object.values(assess(read.job).verdicts).map(({ word }) => word) : [],
    );
    expect(new Set(words)).toEqual(new Set(["Holds", "Tight", "Fails", "Stop"]));
  });
  it("give a summary that the list can store and a report that can be read", () => {
    for (const read of jobs) {
      if (!read.ok) continue;
      const [assessment, day] = [assess(read.job), assessDay(read.job)];
      expect(summarySchema.safeParse(JSON.parse(JSON.stringify(summaryOf(read.job)))).success).toBe(true);
      expect(assessmentAsText(read.job, assessment, day)).toMatch(
        /Starts [\s\S]+Hand method[\s\S]+Working[\s\S]+Source:/,
      );
      expect(JSON.parse(JSON.stringify(assessmentAsJson(read.job, assessment, day)))).toHaveProperty(
        "verdicts.starts.word",
      );
    }
  });
  it("a summary that a revision was kept with before there was a third form is read as what it said", () => {
    const line = { word: "Fails", need: 1.55, has: 0.384, dimension: "voltage", decides: "voltage drop, cable W1" };
    const kept = { starts: line, carries: { ...line, drop: true }, lasts: line, recovers: line };
    const { starts, carries } = summarySchema.parse(kept);
    expect([starts.form, carries.form]).toEqual(["needs", "drops"]);
  });
});
