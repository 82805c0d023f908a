/* Recovers: what the days settle at, and the energy a day that is missing, tested by adding it as panels. */
import { describe, expect, it } from "vitest";
import { q, jobOf } from "../../../../tests/jobs";
import { emptyPanel, emptySpan, type PlanSpan, type Job } from "../../document/schema";
import { simulate } from "../../simulation/day/simulate";
import { cases } from "../../../../tests/cases";
import { seeded } from "../../units/random";
import { buildSystem } from "../../models/system/build";
import { assessDay } from "../verdicts/day";
import { missingEnergy, periodOf, questionOfDays, settledOf } from "./settled";

const cool = (from: number, minutes: number): PlanSpan => emptySpan("unit", "u", from, minutes);

interface Parts {
  place?: string;
  month?: number;
  amount: number;
  parallel?: number;
  panels?: number;
  from?: number;
  minutes?: number;
  reserve?: number;
  start?: number;
  chemistry?: Job["bank"]["chemistry"];
  watts?: number;
}
function system(parts: Parts): Job {
  const { place = "seville", month = 7, amount, parallel = 1, panels = 0, from = 1260, minutes = 480 } = parts;
  const job = jobOf({
    brief: { month },
    unit: { kind: "variable", ratedPower: q(parts.watts ?? 600) },
    bank: {
      chemistry: parts.chemistry ?? "lfp",
      capacityAh: q(amount),
      parallel: q(parallel),
      reserve: q(parts.reserve ?? 0.2),
      startSoc: q(parts.start ?? 1),
      // Nothing but energy is to decide.
      continuousCurrent: q(2000),
      chargeCurrent: q(2000),
      stopVoltage: q(9),
    },
    inverter: { cutOffVoltage: q(9) },
  });
  return {
    ...job,
    place: { listed: place, timeZone: null },
    sources: {
      ...job.sources,
      acceptance: q(3),
      panels: panels > 0 ? [{ ...emptyPanel("p"), power: q(panels) }] : [],
      controllers: [],
    },
    plan: { ...job.plan, patterns: [{ id: "d", name: "Night", spans: [cool(from, minutes)] }] },
  };
}

/** A portable panel: it shades no roof, so that it brings energy and nothing else. */
const extra = (watts: number) => ({ ...emptyPanel("extra"), mount: "portable" as const, power: q(watts) });

/** The same with panels that give `wh` a day before any is curtailed. */
function withPanels(job: Job, wh: number): Job {
  const one: Job = { ...job, sources: { ...job.sources, panels: [...job.sources.panels, extra(1000)] } };
  const { run } = simulate(one, questionOfDays(one, 14));
  const before = simulate(job, questionOfDays(job, 14)).run.totals;
  const perKilowatt = (run.totals.solarUsed + run.totals.solarLost - before.solarUsed - before.solarLost) / 14 / 3600;
  return {
    ...job,
    sources: {
      ...job.sources,
      panels: [...job.sources.panels, extra((1000 * wh) / perKilowatt)],
    },
  };
}

/** Jobs of all sizes of battery, drawn with one seed. */
function randomJobs(count: number): { name: string; job: Job }[] {
  const random = seeded(17);
  const between = (low: number, high: number) => low + (high - low) * random.even();
  const pick = <T>(...list: T[]): T => list[Math.min(list.length - 1, Math.floor(random.even() * list.length))]!;
  const jobs: { name: string; job: Job }[] = [];
  while (jobs.length < count) {
    const parts: Parts = {
      place: pick("faro", "seville", "corfu", "quartzsite", "guanacaste", "athens"),
      month: pick(5, 6, 7, 8, 9),
      amount: Math.round(between(150, 400)),
      parallel: pick(1, 2, 4, 8, 16),
      panels: pick(0, 100, 300),
      from: pick(720, 1140, 1260),
      minutes: pick(300, 480, 660),
      reserve: pick(0.1, 0.2, 0.5),
      start: pick(1, 0.9),
      chemistry: pick("lfp", "lfp", "agm"),
      watts: Math.round(between(400, 1200)),
    };
    const job = system(parts);
    // Those that hold as they are, and those that one night empties, miss nothing that panels could give.
    const missing = missingEnergy(job, buildSystem(job));
    if (missing === null || missing < 50) continue;
    jobs.push({ name: JSON.stringify(parts), job });
  }
  return jobs;
}

describe("the energy missing a day", () => {
  const jobs = randomJobs(cases(10, 50));
  it.each(jobs.map(({ name }, i) => [name, i] as const))(
    "added to %s turns Recovers to Holds within 5 percent, and a tenth less does not",
    (_, i) => {
      const { job } = jobs[i]!;
      const { missing, verdicts } = assessDay(job, { range: false });
      expect(verdicts.recovers.word).toBe("Fails");
      expect(assessDay(withPanels(job, 1.05 * missing!), { range: false }).verdicts.recovers.word).not.toBe("Fails");
      expect(assessDay(withPanels(job, 0.9 * missing!), { range: false }).verdicts.recovers.word).toBe("Fails");
    },
  );
  it("does not hang on the size of the battery: what is drawn a day must come in", () => {
    const of = (parallel: number) => {
      const job = system({ amount: 300, parallel });
      return missingEnergy(job, buildSystem(job))!;
    };
    const [small, large] = [of(2), of(12)];
    expect(large / small).toBeGreaterThan(0.9);
    expect(large / small).toBeLessThan(1.1);
  });
  it("is none where nothing is missing", () => {
    const job = system({ amount: 400, panels: 3000 });
    expect(missingEnergy(job, buildSystem(job))).toBe(0);
  });
  it("is not to be had where one night empties a full battery", () => {
    const job = system({ amount: 20, watts: 1200, minutes: 660 });
    expect(missingEnergy(job, buildSystem(job))).toBeNull();
    const { words, verdicts } = assessDay(job, { range: false });
    expect(verdicts.recovers.word).toBe("Fails");
    expect(words.recovers.long).toContain("too small for one night");
  });
});

describe("what the days settle at", () => {
  it("no longer changes from day to day", () => {
    const job = system({ amount: 400, parallel: 2, panels: 900 });
    const built = buildSystem(job);
    const { sustained, noon } = settledOf(built, { days: 1 });
    expect(sustained).toBe(true);
    const { run } = simulate(job, { ...questionOfDays(job, 5), startSoc: noon }, built);
    expect(run.stateOfCharge[run.steps - 1]!).toBeCloseTo(noon, 1);
  });
  it("is the same from a full battery as from a lower one", () => {
    const lowest = (start: number) =>
      assessDay(system({ amount: 400, parallel: 4, panels: 900, start }), { range: false }).trend.lowest;
    expect(lowest(1) - lowest(0.8)).toBeLessThan(0.12);
  });
  it.each([
    ["mild", 1],
    ["own", 1],
    ["generated", null],
    ["file", null],
  ] as const)("%s days repeat after %s", (kind, days) => {
    expect(periodOf(buildSystem(system({ amount: 200 })), kind)).toBe(days);
  });
  it("a plan of different weekdays repeats after a week", () => {
    const job = system({ amount: 400, parallel: 4 });
    const other = { id: "e", name: "Off", spans: [] };
    const weekly: Job = {
      ...job,
      plan: { ...job.plan, patterns: [...job.plan.patterns, other], week: ["d", "d", "d", "d", "e", "e", "e"] },
    };
    expect(periodOf(buildSystem(weekly), "usual")).toBe(7);
    const { missing } = assessDay(weekly, { range: false });
    const daily = assessDay(job, { range: false }).missing!;
    // Four nights of seven are cooled: the other three miss nothing.
    expect(missing! / daily).toBeGreaterThan(0.4);
    expect(missing! / daily).toBeLessThan(0.8);
  });
});
