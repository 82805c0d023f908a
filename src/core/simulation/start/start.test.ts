import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { demoJob, q, jobOf } from "../../../../tests/jobs";
import { randomJob } from "../../../../tests/random-jobs";
import type { Job } from "../../document/schema";
import { assess } from "../../assessment/verdicts/assess";
import { keyOf } from "../../document/path";
import { measureNext } from "../../assessment/verdicts/measure-next";
import { readCapture } from "../../applications/start-aids/capture";
import { captureOfTable } from "../../applications/start-aids/capture-table";
import { startConditions } from "../../assessment/starts/start-conditions";
import { sizeCircuit } from "../../applications/sizing/size-circuit";
import { compareStartAids } from "../../applications/start-aids/start-aids";
import { smallestMargin } from "./start";
import { generatorSurge, startSupplies } from "../../assessment/starts/supplies";

const roof = { runningCurrent: q(6.2), lockedRotorCurrent: q(33) };
const failing = (): Job =>
  jobOf({ unit: roof, bank: { capacityAh: q(300), parallel: q(2) }, inverter: { rating: q(3000) } });
const two = (job: Job): Job => ({ ...job, units: [job.units[0]!, { ...job.units[0]!, id: "second" }] });

describe("a battery that cannot hold the inverter's volts at all", () => {
  it.each([0.01, 0.5])("fails the start by its volts, with a cut-off that waits %f s", (delay) => {
    const job = jobOf({
      unit: roof,
      bank: { capacityAh: q(100), resistance: q(0.3) },
      inverter: { rating: q(6000), cutOffVoltage: q(13.3), cutOffDelay: q(delay) },
    });
    const { start, verdicts } = assess(job);
    expect(start.own.allowed.power).toBe(0);
    expect(start.own.nearest.voltage!.need).toBeGreaterThan(0);
    expect(smallestMargin(start.own)).toBe(0);
    expect(verdicts.starts.word).toBe("Fails");
  });
});

describe("the same start on every source", () => {
  const at = (job: Job, key: string, which: "one" | "in-turn" | "together" = "one") =>
    startSupplies(job)!.rows.find((row) => row.key === key)!.cases[which];
  it("one outlet of 16 A starts one unit, and not two at the same moment", () => {
    const job = two(jobOf({ unit: roof }));
    expect(at(job, "shore-16").word).toBe("Holds");
    expect(at(job, "shore-16", "together").word).toBe("Fails");
  });
  it("an American 30 A inlet carries 24 A for hours (NEC 210.20)", () => {
    const running = (amps: number) =>
      at(jobOf({ mains: "120V60Hz", unit: { kind: "variable", runningCurrent: q(amps, "measured") } }), "shore-30");
    expect(running(23.9).margin).toBeCloseTo(24 / 23.9, 6);
    expect(running(24.1).word).toBe("Fails");
  });
  it("a soft starter makes do with a much smaller generator (common practice, no source)", () => {
    const needs = (startAid: "none" | "soft-starter") =>
      startSupplies(jobOf({ unit: { ...roof, startAid } }))!.smallestGenerator.one;
    expect(needs("soft-starter")).toBeLessThan(0.55 * needs("none"));
  });
  it("a conventional generator starts more than an electronic one of its rating", () => {
    expect(generatorSurge("conventional", 0.3)).toBeGreaterThan(generatorSurge("electronic", 0.3));
    expect(generatorSurge("conventional", 100)).toBe(1);
  });
  it("the smallest generator, entered, holds with its tenth to spare; 15 % less fails", () => {
    const job = jobOf({ unit: roof });
    const size = startSupplies(job)!.smallestGenerator.one;
    const entered = (share: number) =>
      at({ ...job, supplies: { ...job.supplies, generatorRating: q(size * share) } }, "generator").margin;
    expect(entered(1)).toBeCloseTo(1.1, 2);
    expect(entered(0.85)).toBeLessThan(1);
  });
  it("on the inverter alone agrees with the start as assessed", () => {
    fc.assert(
      fc.property(randomJob(false), (random) => {
        const job = { ...random, units: random.units.slice(0, 1) };
        const supplies = startSupplies(job);
        if (!supplies) {
          expect(job.units[0]!.kind).toBe("dc");
          return;
        }
        const own = smallestMargin(assess(job).start.own);
        const found = supplies.rows.find(({ key }) => key === "inverter")!.cases.one.margin;
        expect(found).toBeGreaterThanOrEqual(Math.min(98, own) * 0.98);
        expect(found).toBeLessThan(own * 1.02 + 1e-9);
      }),
      { numRuns: 60 },
    );
  });
});

describe("the ways a start may go", () => {
  const margins = (job: Job) => Object.fromEntries(startConditions(job).map(({ key, margin }) => [key, margin]));
  it("full is no worse than low, cold no better, together no better than in turn", () => {
    const m = margins(two(failing()));
    expect(m.full).toBeGreaterThanOrEqual(m.reserve!);
    expect(m.cold).toBeLessThanOrEqual(m.reserve!);
    expect(m.together).toBeLessThan(m.reserve!);
  });
  it("an unlearned soft starter is worse than a learned one, and a restart too soon worse still", () => {
    const m = margins(jobOf({ unit: { ...roof, startAid: "soft-starter", learned: true } }));
    expect(m.unlearned).toBeLessThan(m.learned!);
    expect(m.stalled).toBeLessThan(m.unlearned!);
  });
});

describe("start aids compared", () => {
  const results = compareStartAids(failing());
  const of = (key: string) => results.find((startAid) => startAid.key === key)!;
  it("offers all eight on a bare fixed-speed unit with thin cable", () => {
    const thin = { ...failing(), wiring: jobOf({ cable: { areaMm2: q(25), length: q(4) } }).wiring };
    expect(compareStartAids(thin).map(({ key }) => key)).toEqual([
      "soft-starter",
      "start-capacitor",
      "bigger-inverter",
      "transformer-inverter",
      "thicker-cable",
      "second-battery",
      "variable-unit",
      "generator",
    ]);
  });
  it("a soft starter turns the verdict, a capacitor helps less, and a variable-speed unit has no inrush", () => {
    expect(of("soft-starter")).toMatchObject({
      starts: { word: "Holds" },
      changes: expect.arrayContaining(["Starts"]),
    });
    expect(of("start-capacitor").gained).toBeLessThan(of("soft-starter").gained);
    expect(of("variable-unit").starts.margin).toBeGreaterThan(1.15);
  });
  it("the bigger inverter is the smallest on sale that starts with 15 % to spare", () => {
    const { job } = of("bigger-inverter");
    const inverter = (va: number) =>
      assess({ ...failing(), inverter: { ...job!.inverter, rating: q(va) } }).start.own.nearest.inverter!;
    const chosen = job!.inverter.rating!.value;
    expect(inverter(chosen).has / inverter(chosen).need).toBeGreaterThanOrEqual(1.15);
    expect(inverter(chosen - 500).has / inverter(chosen - 500).need).toBeLessThan(1.15);
  });
  it("offers no other inverter to a unit that starts straight from the battery", () => {
    const keys = compareStartAids(demoJob("6-levain")).map(({ key }) => key);
    expect(keys.filter((key) => key.endsWith("-inverter"))).toEqual([]);
    expect(keys).toContain("second-battery");
  });
  it.each<[string, (job: Job) => void, string]>([
    ["rests too short", (job) => (job.units[0]!.sinceStop = q(30)), "restart too soon"],
    [
      "a breaker too small",
      (job) => job.wiring.mains.forEach((part) => part.kind === "breaker" && (part.rating = q(2))),
      "breaker F3",
    ],
  ])("says that a generator is no help against %s", (_, harm, by) => {
    const job = structuredClone(failing());
    harm(job);
    expect(compareStartAids(job).find(({ key }) => key === "generator")!.starts).toMatchObject({ word: "Fails", by });
  });
  it("gives each its cost and mass, which the workshop's own replace", () => {
    for (const { cost, mass } of results) expect([cost > 0, mass > 0]).toEqual([true, true]);
    const own = compareStartAids({ ...failing(), startAids: { "soft-starter": { cost: q(199), mass: q(0.4) } } });
    expect(own[0]).toMatchObject({ key: "soft-starter", cost: 199, mass: 0.4 });
  });
  it("what it shows is what the system gets", () => {
    for (const { job, starts, carries } of results) {
      if (!job) continue;
      const { verdicts } = assess(job);
      expect([verdicts.starts.word, verdicts.carries.word]).toEqual([starts.word, carries.word]);
    }
  });
});

describe("choose for me", () => {
  const carried = (job: Job) => assess(job).verdicts.carries.checks;
  it("gives the smallest standard cable that meets drop, ampacity and withstand: one size less does not", () => {
    const job = jobOf({ unit: { runningCurrent: q(6) }, cable: { areaMm2: q(10), length: q(4) } });
    const choice = sizeCircuit(job, "wiring.main")!;
    expect(choice.met).toBe(true);
    const broken = (one: Job) =>
      carried(one).filter(({ part, margin }) => part?.startsWith("wiring.main") && margin < 1);
    expect(broken(choice.job)).toEqual([]);
    const sizes = [10, 16, 25, 35, 50, 70, 95, 120, 150];
    const less = sizes[sizes.indexOf(choice.areaMm2) - 1]!;
    const smaller = structuredClone(choice.job);
    smaller.wiring.main = smaller.wiring.main.map((part) =>
      part.kind === "cable" ? { ...part, areaMm2: q(less) } : part,
    );
    expect(broken(smaller).length).toBeGreaterThan(0);
    expect(choice.reasons.map(({ rule }) => rule)).toEqual(
      expect.arrayContaining([
        "Fuse at 125 % of the current",
        "Voltage drop, DC",
        "Cable withstands the short circuit",
      ]),
    );
  });
  it("clears the reading of the old path", () => {
    const job = jobOf({ cable: { areaMm2: q(10), length: q(3) } });
    job.wiring.measured = { current: q(60), bankVoltage: q(13), inverterVoltage: q(11) };
    expect(assess(sizeCircuit(job, "wiring.main")!.job).wiring.excess).toBeNull();
  });
  it("says when no standard size will do, and gives the nearest", () => {
    const job = jobOf({ unit: { runningCurrent: q(9) }, cable: { length: q(60) }, inverter: { rating: q(3000) } });
    expect(sizeCircuit(job, "wiring.main")).toMatchObject({ met: false });
  });
  it("takes a kind of fuse that breaks the battery's short circuit, and leaves one that does", () => {
    const job = jobOf({ unit: { runningCurrent: q(6) }, bank: { parallel: q(3) } });
    const kindsOf = (one: Job) => one.wiring.main.flatMap((part) => (part.kind === "fuse" ? part.fuseKind : []));
    const weak = structuredClone(job);
    weak.wiring.main = weak.wiring.main.map((part) =>
      part.kind === "fuse" ? { ...part, fuseKind: "bolted-strip" } : part,
    );
    expect(carried(weak).find(({ by }) => by === "dc-interrupting")!.word).toBe("Stop");
    const choice = sizeCircuit(weak, "wiring.main")!;
    expect(carried(choice.job).find(({ by }) => by === "dc-interrupting")!.word).not.toBe("Stop");
    expect(choice.reasons.map(({ rule }) => rule)).toContain("Interrupting rating");
    expect(kindsOf(sizeCircuit(job, "wiring.main")!.job)).toEqual(kindsOf(job));
  });
  it("does mains runs by breaker, and has nothing to say without a cable", () => {
    const job = jobOf({ unit: { runningCurrent: q(11) } });
    expect(sizeCircuit(job, "wiring.mains")!.rating).toBeGreaterThanOrEqual(13);
    expect(sizeCircuit({ ...job, wiring: { ...job.wiring, mains: [] } }, "wiring.mains")).toBeNull();
  });
});

describe("measure next", () => {
  it("ranks what turns the verdict first, then by how far it moves the margin", () => {
    const { starts, carries } = measureNext(failing());
    expect(starts.length).toBeGreaterThan(0);
    for (const list of [starts, carries]) {
      const order = list.map(({ turns, swing }) => (turns ? 1000 : 0) + swing);
      expect(order).toEqual([...order].sort((a, b) => b - a));
    }
  });
  it("names the locked-rotor current where it is only assumed, with its instrument, and no longer once it is measured", () => {
    const job = jobOf({
      unit: { runningCurrent: q(6.2) },
      inverter: { rating: q(3500), surge1: q(7000), surge2: q(5200), surge3: q(4200) },
      bank: { capacityAh: q(600) },
    });
    const locked = ({ starts }: ReturnType<typeof measureNext>) =>
      starts.find(({ path }) => path === "units.0.lockedRotorCurrent");
    expect(locked(measureNext(job))).toMatchObject({ measure: expect.stringMatching(/Clamp with inrush hold/) });
    const measured = { ...job, units: [{ ...job.units[0]!, lockedRotorCurrent: q(31, "measured") }] };
    expect(locked(measureNext(measured))).toBeUndefined();
  });
  it("never names a limit by rule, or what only a plate tells, of the wiring either", () => {
    // A fuse whose breaking capacity is the weakest of all: its data sheet tells it, no meter does.
    const byPlate = ["dropLimit", "branchDropLimit", "voltage", "interrupting", "circuits", "starterShortCircuit"];
    for (const file of ["1-folio", "2-marionette", "3-shearwater", "6-levain"]) {
      const { starts, carries } = measureNext(demoJob(file));
      for (const { path } of [...starts, ...carries]) expect(byPlate, path).not.toContain(keyOf(path));
    }
  });
  it("never names a value that was entered", () => {
    fc.assert(
      fc.property(randomJob(false), (job) => {
        const { values } = assess(job);
        const at = (path: string) =>
          path.split(".").reduce<unknown>((o, k) => (o as Record<string, unknown>)[k], values);
        const { starts, carries } = measureNext(job);
        for (const { path } of [...starts, ...carries]) expect(at(path)).toMatchObject({ origin: "assumed" });
      }),
      { numRuns: 12 },
    );
  });
});

describe("a captured start", () => {
  const shape = (t: number) => (t < 0.05 ? 0 : t < 0.33 ? 33 : t < 0.4 ? 33 - ((t - 0.33) / 0.07) * 26.8 : 6.2);
  const rms = (step: number) =>
    Array.from({ length: Math.round(1.2 / step) }, (_, i): [number, number] => [i * step, shape(i * step)]);
  it("as RMS gives plateau, start time and running current", () => {
    const read = readCapture(rms(0.002), 50);
    expect(read.ok).toBe(true);
    if (!read.ok) return;
    expect(read.capture.plateauCurrent).toBeCloseTo(33, 1);
    expect(read.capture.runningCurrent).toBeCloseTo(6.2, 1);
    expect(Math.abs(read.capture.startTime - 0.35)).toBeLessThan(0.02);
  });
  it.each([50, 60])("as the wave itself at %i Hz gives the same within 3 %%", (hertz) => {
    const wave = Array.from({ length: 12_000 }, (_, i): [number, number] => {
      const t = i * 1e-4;
      return [t, shape(t) * Math.SQRT2 * Math.sin(2 * Math.PI * hertz * t)];
    });
    const read = readCapture(wave, hertz);
    if (!read.ok) throw new Error(read.message);
    expect(read.capture.wave).toBe(true);
    expect(Math.abs(read.capture.plateauCurrent / 33 - 1)).toBeLessThan(0.03);
    expect(Math.abs(read.capture.runningCurrent / 6.2 - 1)).toBeLessThan(0.03);
    expect(Math.abs(read.capture.startTime - 0.35)).toBeLessThan(0.03);
  });
  it.each<[string, [number, number][], RegExp]>([
    ["too few samples", [[0, 1]], /at least 20/],
    ["no start in it", Array.from({ length: 100 }, (_, i) => [i * 0.01, 6]), /never rises/],
    ["cut off before it settles", rms(0.002).filter(([t]) => t < 0.36), /before the current has settled|never rises/],
    ["nothing flowing", Array.from({ length: 100 }, (_, i) => [i * 0.01, 0.01]), /hardly any current/],
  ])("is refused with the reason: %s", (_, samples, reason) => {
    expect(readCapture(samples, 50)).toMatchObject({ ok: false, message: expect.stringMatching(reason) });
  });
  it("never throws on anything", () => {
    fc.assert(
      fc.property(fc.array(fc.tuple(fc.double(), fc.double()), { maxLength: 200 }), (samples) => {
        const read = readCapture(samples, 50);
        if (read.ok)
          for (const value of [read.capture.plateauCurrent, read.capture.startTime, read.capture.runningCurrent])
            expect(Number.isFinite(value)).toBe(true);
      }),
      { numRuns: 200 },
    );
  });
  it("finds its columns by name, in ms and with decimal commas, and tells what it passed over", () => {
    const rows = rms(0.002).map(([t, a], i) => ({
      line: i + 2,
      cells: ["x", String(Math.round(t * 1000)), a.toFixed(2).replace(".", ",")],
    }));
    const report = captureOfTable(
      { header: ["Note", "Time (ms)", "Current (A)"], rows: [...rows, { line: 999, cells: ["end", "", ""] }] },
      50,
    );
    expect(report).toMatchObject({
      skippedCount: 1,
      skipped: [{ line: 999, why: "no time" }],
      columns: "Time (ms) and Current (A)",
    });
    expect(report.read).toMatchObject({ ok: true });
  });
});
