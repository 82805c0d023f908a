import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { cases } from "../../../../tests/cases";
import { demoJob, jobOf, q } from "../../../../tests/jobs";
import { randomJob } from "../../../../tests/random-jobs";
import { breaker, cable, edit, part, withBranch } from "../../../../tests/systems";
import { assess } from "../../assessment/verdicts/assess";
import { readJob, type Job, type StepDone } from "../../document/schema";
import { protectiveArea } from "../../reference/standards/protective-conductor";
import { gaugeAreaMm2 } from "../../units/gauge";
import { passes } from "./commissioning";
import { handoverOf, handoverSource } from "./document";
import { inspectionProgress, inspectionSheet } from "./inspection";

const benchOf = (job: Job) => ({ job, assessment: assess(job) });
const pointsOf = (job: Job) => inspectionSheet(benchOf(job));
const keysOf = (job: Job) => pointsOf(job).map(({ key }) => key.replace("inspect:", ""));
const kind = (cabin: Job["cabin"]["kind"]) => (job: Job) => edit(job, (copy) => void (copy.cabin.kind = cabin));
const shore = (rest: Parameters<typeof jobOf>[0] = {}) =>
  withBranch("shore", { parts: [part("inlet"), part("rcd", {}, "r"), breaker(16), cable(2.5)] }, jobOf(rest));

describe("the inspection sheet", () => {
  it.each<[string, Job, there: string[], gone: string[]]>([
    ["a boat on shore power", kind("boat")(shore()), ["galvanic", "bonding", "ignition", "inlet"], ["battery-vent"]],
    ["a van", kind("van")(jobOf()), ["gas", "battery-apart", "bms"], ["galvanic", "bonding", "inlet", "cells"]],
    ["a room", kind("room")(jobOf()), ["alarms"], ["gas"]],
    ["lead-acid", jobOf({ bank: { chemistry: "agm" } }), ["battery-vent"], ["battery-apart", "bms"]],
    ["bare cells", jobOf({ bank: { build: "cells" } }), ["cells"], []],
    ["receptacles in the US", jobOf({ mains: "120V60Hz" }), ["receptacles"], ["loop:shore"]],
    ["a European inlet", shore(), ["loop:shore", "earth:shore", "insulation:shore", "polarity:shore"], ["receptacles"]],
    ["an American inlet", shore({ mains: "120V60Hz" }), ["earth:shore"], ["loop:shore"]],
    ["a DC unit without an inverter", jobOf({ unit: { kind: "dc" } }), ["fixing"], ["listing", "earth:mains"]],
  ])("of %s has its points and no others", (_, job, there, gone) => {
    const keys = keysOf(job);
    for (const key of there) expect(keys).toContain(key);
    for (const key of gone) expect(keys).not.toContain(key);
  });
  it("asks each residual device for its time and its current, each DC joint for what it loses and its heat", () => {
    const keys = keysOf(shore());
    expect(keys).toEqual(expect.arrayContaining(["trip-time:shore:r", "trip-current:shore:r"]));
    for (const { kind: what, id } of shore().wiring.main)
      if (what !== "cable")
        expect(keys).toEqual(expect.arrayContaining([`millivolts:main:${id}`, `joint-heat:main:${id}`]));
  });
  it("has each point once, with a finite limit, and is stored by the document, on any system", () =>
    fc.assert(
      fc.property(randomJob(false), (job) => {
        const points = pointsOf(job);
        expect(new Set(points.map(({ key }) => key)).size).toBe(points.length);
        for (const { target, how } of points) {
          expect(how).toMatch(/[.]$/);
          for (const value of [target?.value, target?.low, target?.high])
            if (value !== null && value !== undefined) expect(Number.isFinite(value)).toBe(true);
        }
        const copy = edit(job, (one) => {
          one.handover.steps = points.map(({ key }) => answer(key, { instrument: "Tester" }));
        });
        expect(readJob(JSON.parse(JSON.stringify(copy))).ok).toBe(true);
      }),
      { numRuns: cases(20, 150) },
    ));
});

const answer = (step: string, rest: Partial<StepDone> = {}): StepDone => ({
  step,
  fields: [],
  passed: true,
  reason: "",
  by: "TK",
  at: null,
  ...rest,
});

describe("limits of the tests", () => {
  const valued = (job: Job, key: string, value: number) =>
    passes(
      pointsOf(job).find((one) => one.key === `inspect:${key}`)!,
      [value],
    );
  it.each<[string, string, right: number, wrong: number]>([
    ["earth continuity, AS/NZS 3000: 0.5 Ω", "earth:shore", 0.5, 0.6],
    ["insulation, IEC 60364-6 table 6A: 1 MΩ", "insulation:shore", 1, 0.9],
    ["loop of 16 A type C at 230 V: 0.8 × 230 ÷ 160, IEC 60364-4-41", "loop:shore", 1.14, 1.16],
    ["trip time, IEC 61008-1: 0.3 s", "trip-time:shore:r", 0.3, 0.31],
    ["trip current, half of 30 mA to 30 mA", "trip-current:shore:r", 0.03, 0.031],
    ["trip current, no less than half", "trip-current:shore:r", 0.015, 0.014],
    ["a joint at 70 °C", "joint-heat:main:fuse", 70, 71],
  ])("%s", (_, key, right, wrong) => {
    const job = shore({ fuse: { id: "fuse" } });
    expect([valued(job, key, right), valued(job, key, wrong)]).toEqual([true, false]);
  });
  it("a class A device opens between 4 and 6 mA (UL 943)", () => {
    const job = jobOf({ mains: "120V60Hz" });
    const { id } = job.wiring.mains.find((one) => one.kind === "rcd")!;
    expect([0.0039, 0.004, 0.006, 0.0061].map((amps) => valued(job, `trip-current:mains:${id}`, amps))).toEqual([
      false,
      true,
      true,
      false,
    ]);
  });
  it("millivolts of a part are its resistance times the full current, by Ohm, and half as much again", () => {
    const job = jobOf({ fuse: { id: "fuse", resistance: q(0.0005) } });
    const amps = assess(job).currents["wiring.main"]!;
    expect(valued(job, "millivolts:main:fuse", 1.5 * 0.0005 * amps + 0.0019)).toBe(true);
    expect(valued(job, "millivolts:main:fuse", 1.5 * 0.0005 * amps + 0.0021)).toBe(false);
  });
});

describe("protective conductors", () => {
  // IEC 60364-5-54 table 54.2; NEC table 250.122, from memory.
  it.each([
    ["eu-road", 16, 2.5, 2.5],
    ["eu-boat", 63, 16, 16],
    ["au-nz", 80, 25, 16],
    ["eu-road", 160, 70, 35],
    ["us-road", 15, gaugeAreaMm2(12), gaugeAreaMm2(14)],
    ["us-road", 20, gaugeAreaMm2(12), gaugeAreaMm2(12)],
    ["us-boat", 30, gaugeAreaMm2(10), gaugeAreaMm2(10)],
    ["us-road", 50, gaugeAreaMm2(6), gaugeAreaMm2(10)],
    ["us-road", 100, gaugeAreaMm2(3), gaugeAreaMm2(8)],
  ] as const)("%s, %i A before %f mm²: %f mm²", (rules, deviceA, lineMm2, area) =>
    expect(protectiveArea(rules, { deviceA, lineMm2 })).toBeCloseTo(area, 6),
  );
});

describe("answers", () => {
  const job = demoJob("6-levain");
  const points = pointsOf(job);
  const [first] = points;
  it("that a point does not apply counts with its reason only", () => {
    const gone = answer(first!.key, { passed: null, notApplicable: true });
    expect(inspectionProgress(points, [gone]).answered).toBe(0);
    expect(inspectionProgress(points, [{ ...gone, reason: "Nothing of it on board" }]).answered).toBe(1);
  });
  it("stand in the document with their limit, instrument, who and why; one that is not right is a fault", () => {
    const tested = points.find(({ key }) => key.startsWith("inspect:insulation"))!;
    const copy = edit(job, (one) => {
      one.handover.steps = [
        answer(tested.key, { fields: [2], instrument: "Insulation tester 4" }),
        answer(first!.key, { passed: false, reason: "too thin" }),
      ];
    });
    const { sections } = handoverOf(handoverSource(copy), { revision: 1, date: "2026-07-01" });
    const said = (key: string) => JSON.stringify(sections.find((one) => one.key === key)?.blocks ?? []);
    for (const words of ["2 MΩ", "1 MΩ and more", "Insulation tester 4, TK", "not right", "too thin"])
      expect(said("inspection")).toContain(words);
    expect(said("state")).toContain(`Not right at the inspection: ${first!.title}`);
  });
});
