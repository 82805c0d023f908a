import { describe, expect, it } from "vitest";
import type { JobPath } from "./path";
import { q, jobOf } from "../../../tests/jobs";
import { FUSE_KINDS, interruptingAt, letThrough, nextOf, type FuseKind } from "../reference/conductors/fuse";
import { numberOfCell, usesDecimalComma } from "../units/cell-numbers";
import { compareJobs, contest, merge, putAt, valueAt } from "./compare";
import { emptyBranch, emptyPart, readJob, type Branch, type Part, type Job } from "./schema";
import { PART_FIELDS, type PartKind } from "./fields";
import { fieldAt, labelOfPath } from "./labels";
import { everyKnown, resolveJob } from "./resolve";
import { stageOfPath } from "./stage";

const KINDS = Object.keys(PART_FIELDS) as PartKind[];
const ROLES: Branch["role"][] = ["solar", "engine", "charger", "loads", "shore"];
const withMain = (main: Part[]): Job => ({ ...jobOf(), wiring: { ...jobOf().wiring, main } });

describe("parts of a run", () => {
  it.each(KINDS)("a new %s is a valid document, and every quantity that is not optional is assumed", (kind) => {
    const job = withMain([emptyPart(kind, "p")]);
    expect(readJob(job)).toMatchObject({ ok: true });
    const values = resolveJob(job).wiring.main[0]!;
    const optional = new Set(["ampacity"]);
    for (const key of Object.keys(PART_FIELDS[kind])) {
      const known = values[key as keyof typeof values];
      if (optional.has(key)) expect(known).toBeUndefined();
      else expect(known, key).toMatchObject({ origin: "assumed", entered: false, why: expect.stringMatching(/./) });
    }
  });
  it.each(ROLES)("a new %s run is a valid document with parts of its own", (role) => {
    const job = { ...jobOf(), wiring: { ...jobOf().wiring, branches: [emptyBranch(role, "b")] } };
    expect(readJob(job)).toMatchObject({ ok: true });
    expect(resolveJob(job).wiring.branches[0]!.current.value).toBeGreaterThan(0);
  });
  it("a part with a quantity of another kind is refused with its path", () => {
    const job = withMain([{ ...emptyPart("fuse", "p"), length: q(2) } as unknown as Part]);
    expect(readJob(job)).toMatchObject({
      ok: false,
      faults: [{ path: "wiring.main.0", message: expect.stringMatching(/length/) }],
    });
  });
  it("an assumed cable is the smallest that its fuse protects, and follows the fuse", () => {
    const area = (rating: number) => resolveJob(jobOf({ fuse: { rating: q(rating) } })).wiring.main[3]!.areaMm2!.value;
    expect(area(100)).toBeLessThan(area(200));
    expect(area(200)).toBeLessThan(area(300));
  });
  it("an assumed mains breaker carries the inverter, and its cable is never under the least of the rules", () => {
    const { mains } = resolveJob(jobOf({ unit: { coolingPower: q(4000) }, inverter: { rating: q(800) } })).wiring;
    // The unit's start asks for more than the 6 A that 800 VA at 230 V would.
    expect(mains[1]!.rating!.value).toBe(10);
    expect(mains[2]!.areaMm2!.value).toBe(1.5);
  });
});

describe("fuses and breakers by kind", () => {
  it.each<[FuseKind, number, number]>([
    ["terminal", 12.8, 10_000],
    ["terminal", 25.6, 5_000],
    ["terminal", 51.2, 2_000],
    ["bolted-strip", 12, 2_000],
    ["class-t", 51.2, 20_000],
    ["hrc", 400, 50_000],
  ])("a %s fuse on %f V breaks %i A", (kind, volts, amps) => expect(interruptingAt(kind, volts)).toBe(amps));
  it("the higher the volts, the less it breaks", () => {
    for (const { interrupting } of Object.values(FUSE_KINDS))
      interrupting.slice(1).forEach(([, amps], i) => expect(amps).toBeLessThan(interrupting[i]![1]));
  });
  it("a breaker lets more through than a fuse at a large fault, never less", () => {
    for (const fault of [300, 1000, 5000, 20_000])
      expect(letThrough(100, fault, "breaker")).toBeGreaterThanOrEqual(letThrough(100, fault, "class-t"));
  });
  it.each([
    [7, 10],
    [16, 16],
    [99, 63],
  ])("the next mains breaker for %i A is %i A", (amps, rating) => expect(nextOf([6, 10, 16, 63], amps)).toBe(rating));
});

describe("paths into runs", () => {
  const job = { ...jobOf(), wiring: { ...jobOf().wiring, branches: [emptyBranch("solar", "b")] } };
  it.each<[JobPath, string]>([
    ["wiring.main.3.areaMm2", "Battery to inverter, Cable: Cable size"],
    ["wiring.main.4.resistance", "Terminations: Each termination"],
    ["wiring.branches.0.parts.0.rating", "Solar controller, Fuse: Rating"],
    ["wiring.branches.0.current", "Solar controller: Max current"],
    ["wiring.links.paths.1.length", "Battery 2: Link length, one way"],
    ["wiring.measured.lugC", "Hottest termination"],
    ["supplies.altitude", "Altitude"],
    ["startAids.soft-starter.cost", "Cost"],
    ["wiring.links.paths", "Link lengths"],
  ])("%s: %s", (path, label) => expect(labelOfPath(job, path)).toBe(label));
  it("what stands behind an inverter that is not there takes no part in it", () => {
    const direct = jobOf({ unit: { kind: "dc" } });
    expect(labelOfPath(direct, "wiring.main.3.areaMm2")).toBe("Cable: Cable size");
  });
  it("a part whose name no other run has is said by it alone", () => {
    const named = structuredClone(job);
    named.wiring.main[3]!.name = "Starter lead";
    expect(labelOfPath(named, "wiring.main.3.areaMm2")).toBe("Starter lead: Cable size");
  });
  it.each<JobPath>(["wiring.main.0.kind", "wiring.links.layout", "notation.currency", "units.0.shelf"])(
    "%s is no quantity",
    (path) => expect(fieldAt(path)).toBeUndefined(),
  );
  it.each<[JobPath, string]>([
    ["units.0.startTime", "unit"],
    ["inverter.rating", "start"],
    ["supplies.altitude", "start"],
    ["wiring.measured.current", "wiring"],
    ["bank.reserve", "bank"],
    ["weather.highestC", "brief"],
  ])("%s is entered on the stage %s", (path, stage) => expect(stageOfPath(path)).toBe(stage));
  it("every resolved quantity has a field at its own path", () => {
    for (const { path } of everyKnown(resolveJob(job))) expect(fieldAt(path), path).toBeDefined();
  });
});

describe("writing and comparing where lists are", () => {
  it("makes the groups and rows that are not there yet, and none when it clears", () => {
    const job = jobOf();
    putAt(job, "wiring.links.paths.2.length", q(0.4));
    expect(job.wiring.links.paths).toEqual([{}, {}, { length: q(0.4) }]);
    putAt(job, "startAids.generator.cost", q(900));
    expect(job.startAids.generator).toEqual({ cost: q(900) });
    putAt(job, "startAids.soft-starter.mass", undefined);
    expect(job.startAids["soft-starter"]).toBeUndefined();
    expect(readJob(job)).toMatchObject({ ok: true });
  });
  it("compares parts one by one while they are the same ones, the list whole when they are not", () => {
    const base = jobOf();
    const typed = structuredClone(base);
    putAt(typed, "wiring.main.3.length", q(2));
    expect(compareJobs(base, typed).map(({ path }) => path)).toEqual(["wiring.main.3.length"]);
    const added = structuredClone(base);
    added.wiring.main.push(emptyPart("busbar", "new"));
    expect(compareJobs(base, added).map(({ path }) => path)).toEqual(["wiring.main"]);
    const moved = structuredClone(base);
    moved.wiring.main.reverse();
    expect(compareJobs(base, moved).map(({ path }) => path)).toEqual(["wiring.main"]);
  });
  it("merges a part typed here with a run added there", () => {
    const base = jobOf();
    const [mine, theirs] = [structuredClone(base), structuredClone(base)];
    putAt(mine, "wiring.main.3.length", q(2));
    theirs.wiring.branches.push(emptyBranch("solar", "s"));
    const contests = contest(base, theirs, mine);
    expect(contests.map(({ path, both }) => [path, both])).toEqual([
      ["wiring.branches", false],
      ["wiring.main.3.length", false],
    ]);
    const merged = merge(theirs, contests, (path) => (path.startsWith("wiring.main") ? "mine" : "theirs"));
    expect(valueAt(merged, "wiring.main.3.length")).toEqual(q(2));
    expect(merged.wiring.branches).toHaveLength(1);
  });
  it("takes a captured start as one thing", () => {
    const [base, caught] = [jobOf(), jobOf()];
    caught.units[0]!.capture = [
      [0, 30],
      [0.3, 6],
    ];
    expect(compareJobs(base, caught).map(({ path }) => path)).toEqual(["units.0.capture"]);
  });
});

describe("numbers in tables", () => {
  it.each<[string[], boolean]>([
    [["1,5", "2"], true],
    [["1.5", "2,5"], false],
    [["1", "2"], false],
    [["a,b"], false],
  ])("%j: decimal commas %s", (cells, comma) => expect(usesDecimalComma(cells)).toBe(comma));
  it.each<[string, boolean, number | null]>([
    ["1,5", true, 1.5],
    ["1,5", false, null],
    [" -2.5e-3 ", false, -0.0025],
    ["1,234,567", true, null],
    ["", false, null],
    ["0x10", false, null],
    ["Infinity", false, null],
    ["1e999", false, null],
  ])("%j with comma %s is %s", (cell, comma, value) => expect(numberOfCell(cell, comma)).toBe(value));
});
