import { describe, expect, it } from "vitest";
import type { JobPath } from "./path";
import { asVersion7, q, jobOf } from "../../../tests/jobs";
import { compareJobs, contest, merge, putAt, valueAt } from "./compare";
import { emptyJob, readJob, readJobText, jobJsonSchema, type Job } from "./schema";
import { fieldAt, labelOfPath } from "./labels";

describe("reading a job file", () => {
  it("takes back what it gave", () => {
    const job = jobOf({ unit: { runningCurrent: q(6, "measured") }, brief: { place: "Olhão", month: 6 } });
    expect(readJobText(JSON.stringify(job))).toEqual({ ok: true, job });
  });
  const broken = (change: (job: Record<string, never>) => unknown) => {
    const job = structuredClone(emptyJob("x")) as unknown as Record<string, never>;
    return change(job) ?? job;
  };
  it.each<[string, unknown, string, RegExp]>([
    ["nothing", null, "", /expected object/],
    ["another format", broken((job) => putAt(job, "format", "other")), "format", /chillbank-document/],
    ["a version to come", broken((job) => putAt(job, "version", 9)), "version", /reads version 8/],
    ["a name of blanks", broken((job) => putAt(job, "name", "  ")), "name", /needs a name/],
    [
      "text for a number",
      broken((job) => putAt(job, "bank.capacityAh", { value: "much", origin: "plate" })),
      "bank.capacityAh.value",
      /Capacity, each/,
    ],
    [
      "a negative capacity",
      broken((job) => putAt(job, "bank.capacityAh", q(-5))),
      "bank.capacityAh.value",
      /at least 0.5/,
    ],
    [
      "an absurd capacity",
      broken((job) => putAt(job, "bank.capacityAh", q(1e9))),
      "bank.capacityAh.value",
      /at most 5000/,
    ],
    ["half a battery", broken((job) => putAt(job, "bank.series", q(1.5))), "bank.series.value", /whole number/],
    [
      "an unknown origin",
      broken((job) => putAt(job, "bank.series", { value: 1, origin: "guess" })),
      "bank.series.origin",
      /./,
    ],
    ["a field that is not one", broken((job) => putAt(job, "bank.colour", "red")), "bank", /colour/],
    ["no unit", broken((job) => putAt(job, "units", [])), "units", /at least one/],
    ["month thirteen", broken((job) => putAt(job, "brief.month", 13)), "brief.month", /./],
    [
      "words without end",
      broken((job) => putAt(job, "brief.wording", "x".repeat(10_000))),
      "brief.wording",
      /at most 4000/,
    ],
  ])("refuses %s with its path", (_, document, path, message) => {
    const read = readJob(document);
    expect(read.ok).toBe(false);
    if (!read.ok) {
      expect(read.faults[0]!.path).toBe(path);
      expect(read.faults[0]!.message).toMatch(message);
    }
  });
  it("says where JSON breaks off, and does not let NaN through", () => {
    expect(readJobText('{"format":')).toMatchObject({
      ok: false,
      faults: [{ path: "", message: expect.stringMatching(/^not JSON/) }],
    });
    expect(readJobText(JSON.stringify(emptyJob("x")).replace("null", "NaN")).ok).toBe(false);
  });
  it("has a JSON Schema that names every quantity", () => {
    const schema = JSON.stringify(jobJsonSchema());
    for (const key of ["lockedRotorCurrent", "capacityAh", "areaMm2", "surge3Time", "hoursWanted"])
      expect(schema).toContain(`"${key}"`);
  });
  it("brings version 6 up to date: the same job under the present name of its format", () => {
    const left = (section: string): Job => {
      const job = emptyJob("Van");
      job.handover.document.leaveOut = [section];
      return job;
    };
    const read = readJob({ ...asVersion7(left("rig")), format: "chillbank-rig", version: 6 });
    expect(read).toEqual({ ok: true, job: left("design") });
  });
  it("brings version 7 up to date: wiring, start aids and the printed document under their names", () => {
    const now = jobOf({ unit: { startAid: "soft-starter" }, bank: { startSoc: q(0.9) } });
    expect(readJob(asVersion7(now))).toEqual({ ok: true, job: now });
  });
  it("brings version 3 up to date: nothing found, measured or signed at the system yet", () => {
    const now = emptyJob("Old");
    const read = readJob({ ...asVersion7(now), handover: undefined, format: "chillbank-rig", version: 3 });
    expect(read.ok && read.job.handover).toEqual(now.handover);
  });
  it("brings version 4 up to date: the engine's fuse becomes the starter battery's, as it was entered, and far sides are assumed", () => {
    const now = jobOf();
    const cable = { kind: "cable", name: "", insulation: "90", route: "free", ways: "both" };
    const old = {
      ...asVersion7(now),
      format: "chillbank-rig",
      version: 4,
      path: {
        ...now.wiring,
        links: { layout: "busbars", paths: [] },
        main: [{ ...cable, id: "w" }],
        mains: [
          { id: "r", name: "", kind: "rcd" },
          { id: "b", name: "", kind: "breaker" },
        ],
        branches: ["engine", "solar"].map((role) => ({
          id: role,
          name: role,
          role,
          ...{ coupling: "dc-dc", control: "engine-running", fedFrom: "shore", converter: false },
          parts: [
            { id: "f", name: "", kind: "fuse", fuseKind: "class-t", rating: q(50) },
            { ...cable, id: "c" },
            { id: "g", name: "", kind: "fuse", fuseKind: "terminal", rating: q(50) },
          ],
        })),
      },
    };
    const read = readJob(old);
    if (!read.ok) throw new Error(JSON.stringify(read.faults));
    const [engine, solar] = read.job.wiring.branches;
    expect(engine!.parts.map(({ kind }) => kind)).toEqual(["fuse", "cable"]);
    expect(engine!.far.map(({ id, kind }) => `${kind} ${id}`)).toEqual(["fuse g", "cable engine-far-2"]);
    expect(engine!.far[0]).toMatchObject({ rating: q(50) });
    expect(solar!.parts).toHaveLength(3);
    expect(solar!.far.map(({ kind }) => kind)).toEqual(["isolator", "cable"]);
    expect(read.job.wiring.mains).toMatchObject([{ residualType: "A", poles: "all" }, { curve: "C" }]);
    expect(read.job.brief.ruleSet).toBe("auto");
  });
  it("refuses a finding without its moment with its path", () => {
    const job = emptyJob("Finding");
    const finding = { id: "f", symptoms: [], cause: "bad-lug", note: "", before: [], after: [], by: "", at: "May" };
    const read = readJob({ ...job, handover: { ...job.handover, findings: [finding] } });
    expect(!read.ok && read.faults[0]!.path).toBe("handover.findings.0.at");
  });
});

describe("two copies of one job", () => {
  const base = jobOf({ bank: { capacityAh: q(200) }, brief: { place: "Tavira" } });
  const change = (...puts: [string, unknown][]): Job => {
    const job = structuredClone(base);
    for (const [path, value] of puts) putAt(job, path, value);
    return job;
  };
  it("compares place by place, a quantity being one thing", () => {
    expect(compareJobs(base, change(["bank.capacityAh", q(280, "measured")], ["name", "Other"]))).toEqual([
      { path: "name", before: "Test job", after: "Other" },
      { path: "bank.capacityAh", before: q(200), after: q(280, "measured") },
    ]);
  });
  it("tells changes of one side from changes of both", () => {
    const theirs = change(["bank.capacityAh", q(280)], ["brief.place", "Faro"]);
    const mine = change(["bank.capacityAh", q(300)], ["bank.reserve", q(0.3)]);
    const found = Object.fromEntries(contest(base, theirs, mine).map((one) => [one.path, one]));
    expect(found["bank.capacityAh"]).toMatchObject({ both: true, theirs: q(280), mine: q(300) });
    expect(found["brief.place"]).toMatchObject({ both: false, theirs: "Faro", mine: "Tavira" });
    expect(found["bank.reserve"]).toMatchObject({ both: false, theirs: undefined, mine: q(0.3) });
  });
  it("is silent where both made the same change", () => {
    expect(contest(base, change(["name", "Same"]), change(["name", "Same"]))).toEqual([]);
  });
  it("merges by choice, clearing where the choice is nothing", () => {
    const theirs = change(["bank.capacityAh", undefined], ["brief.place", "Faro"]);
    const mine = change(["bank.capacityAh", q(300)], ["bank.reserve", q(0.3)]);
    const contests = contest(base, theirs, mine);
    const merged = merge(theirs, contests, (path) => (path === "bank.reserve" ? "mine" : "theirs"));
    expect(merged.bank.capacityAh).toBeUndefined();
    expect(merged.bank.reserve).toEqual(q(0.3));
    expect(merged.brief.place).toBe("Faro");
    expect(merge(theirs, contests, () => "mine")).toEqual(mine);
  });
  it("takes a list whole where its rows are not the same ones", () => {
    const load = { id: "a", name: "Fridge", side: "dc" as const, leg: "L1" as const, atStart: true };
    const theirs = change(["brief.loads", [load]]);
    const mine = change(["brief.loads", [{ ...load, id: "b", name: "Kettle" }]]);
    expect(contest(base, theirs, mine).map(({ path, both }) => [path, both])).toEqual([["brief.loads", true]]);
    expect(
      valueAt(
        merge(theirs, contest(base, theirs, mine), () => "mine"),
        "brief.loads.0.name",
      ),
    ).toBe("Kettle");
  });
});

describe("paths in words", () => {
  const job = jobOf({ brief: { loads: [{ id: "a", name: "Kettle", side: "mains", leg: "L1", atStart: false }] } });
  it.each<[JobPath, string]>([
    ["bank.capacityAh", "Battery: Capacity, each"],
    ["bank.temperatureC", "Battery temperature"],
    ["units.0.runningCurrent", "Air conditioner: Running current"],
    ["brief.loads.0.power", "Kettle: Power"],
    ["brief.place", "Place"],
    ["wiring.main.0.rating", "Fuse: Rating"],
    ["wiring.table", "Ampacity table"],
  ])("%s: %s", (path, label) => {
    expect(labelOfPath(job, path)).toBe(label);
  });
  it("knows which paths are quantities", () => {
    expect(fieldAt("inverter.rating")?.dimension).toBe("apparentPower");
    expect(fieldAt("brief.place")).toBeUndefined();
  });
});
