import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { randomJob } from "../../../../tests/random-jobs";
import { q, jobOf } from "../../../../tests/jobs";
import { READINGS, benchOf } from "../fault-finding/readings";
import { emptyBranch, emptyPanel, emptyJob, type Job } from "../../document/schema";
import { PARTS, passes, progressOf, runSheet } from "./commissioning";

const sheetOf = (job: Job) => runSheet(benchOf(job));
const keysOf = (job: Job) => sheetOf(job).map(({ key }) => key);
const stepOf = (job: Job, key: string) => sheetOf(job).find((step) => step.key === key)!;
function whole(): Job {
  const job = jobOf({
    unit: { runningCurrent: q(6), lockedRotorCurrent: q(30), startAid: "soft-starter" },
    bank: { capacityAh: q(200), parallel: q(2) },
    cable: { areaMm2: q(50), length: q(2) },
  });
  job.sources.panels = [{ ...emptyPanel("p", "Panel"), power: q(400) }];
  job.wiring.branches = [emptyBranch("engine", "e"), emptyBranch("charger", "c")];
  return job;
}

describe("the run sheet", () => {
  it("begins with isolating and proving dead, before anything is touched, measured under load or charged", () => {
    const keys = keysOf(whole());
    expect(keys.indexOf("isolated")).toBeLessThan(keys.indexOf("dead"));
    for (const later of ["discharged", "earths", "bank-volts", "leakage", "learned", "peak", "path", "solarBest"])
      expect([later, keys.indexOf("dead") < keys.indexOf(later)]).toEqual([later, true]);
    expect(keys.indexOf("earths")).toBeLessThan(keys.indexOf("leakage"));
    expect(keys.indexOf("learned")).toBeLessThan(keys.indexOf("peak"));
    expect(keys.at(-1)).toBe("alarms");
  });
  it("goes through the parts of the work in one order, every step once, on any system", () =>
    fc.assert(
      fc.property(randomJob(false), (job) => {
        const steps = sheetOf(job);
        const order = steps.map(({ part }) => (PARTS as readonly string[]).indexOf(part));
        expect(order).toEqual([...order].sort((a, b) => a - b));
        expect(new Set(steps.map(({ key }) => key)).size).toBe(steps.length);
        for (const { target } of steps) {
          if (!target) continue;
          expect(Number.isFinite(target.value)).toBe(true);
          // What is expected passes.
          expect(target.low === null || target.value >= target.low).toBe(true);
          expect(target.high === null || target.value <= target.high).toBe(true);
        }
      }),
      { numRuns: 60 },
    ));
  it.each<[string, (job: Job) => void, string[], string[]]>([
    [
      "without panels, engine and charger",
      (job) => ((job.sources.panels = []), (job.wiring.branches = [])),
      ["path"],
      ["solarBest", "engineAmps", "engine-stops", "charger-apart"],
    ],
    ["with one battery", (job) => (job.bank.parallel = q(1)), ["path"], ["share"]],
    [
      "with a variable-speed unit",
      (job) => (job.units[0] = { ...job.units[0]!, kind: "variable", startAid: "none" }),
      ["running"],
      ["learned", "peak", "discharged"],
    ],
    ["afloat", (job) => (job.units[0]!.condenser = "sea"), ["water-out"], ["intakeRise"]],
    [
      "on battery DC",
      (job) => (job.units = [{ ...job.units[0]!, kind: "dc", startAid: "none" }]),
      ["bank-volts"],
      ["leakage", "change-over", "bond", "cutOff"],
    ],
  ])("%s has the steps of its parts and no others", (_, change, there, missing) => {
    const job = whole();
    change(job);
    const keys = keysOf(job);
    for (const key of there) expect(keys).toContain(key);
    for (const key of missing) expect(keys).not.toContain(key);
  });
  it("expects what the core works out: path, peak, running amps, capacity", () => {
    const job = whole();
    const { assessment } = benchOf(job);
    expect(stepOf(job, "path").target!.value).toBe(assessment.wiring.main.resistance);
    expect(stepOf(job, "running").target!.value).toBe(6);
    expect(stepOf(job, "peak").target!.value).toBeCloseTo(
      30 * (1 - assessment.values.units[0]!.softReduction.value),
      9,
    );
    expect(stepOf(job, "monitorSetting").target!.value).toBe(400);
  });
  // IEC 61008-1: 300 ms at the rated residual current (from memory).
  it("fails an RCD or GFCI slower than 300 ms", () => {
    const step = stepOf(whole(), "leakage");
    expect([passes(step, [0.29]), passes(step, [0.31])]).toEqual([true, false]);
  });
  // Common practice, no source: water leaving at 40 °C is fine, from 43 °C the unit is losing.
  it("passes cooling water at 40 °C and fails it at 44 °C", () => {
    const job = whole();
    job.units[0]!.condenser = "sea";
    const step = stepOf(job, "water-out");
    expect([passes(step, [40]), passes(step, [44])]).toEqual([true, false]);
  });
  it("judges two voltages and a current by the wiring that they make", () => {
    const job = whole();
    const step = stepOf(job, "path");
    const ohm = step.target!.value;
    expect(passes(step, [13.2, 13.2 - 100 * ohm, 100])).toBe(true);
    expect(passes(step, [13.2, 13.2 - 250 * ohm, 100])).toBe(false);
    expect(passes(step, [13.2, null, 100])).toBeNull();
    expect(passes(stepOf(job, "as-drawn"), [])).toBeNull();
  });
  it("leads each failing measurement to the fault finding by a reading that is there", () => {
    for (const { reading, symptom } of sheetOf(whole()))
      if (reading) expect([Object.hasOwn(READINGS, reading), symptom !== null]).toEqual([true, true]);
  });
  it("counts what passed, what did not and what is open; a step the system no longer has counts no more", () => {
    const steps = sheetOf(emptyJob("Count"));
    const one = (step: string, passed: boolean | null) => ({ step, fields: [], passed, reason: "", by: "", at: null });
    const done = [one(steps[0]!.key, true), one(steps[1]!.key, false), one(steps[2]!.key, null), one("gone", true)];
    expect(progressOf(steps, done)).toEqual({ steps: steps.length, passed: 1, failed: 1, open: steps.length - 2 });
  });
});
