import { describe, expect, it } from "vitest";
import { fieldAt } from "./labels";
import { ANY, countOf, fits, groupOf, isWithin, keyOf, stepsOf, type JobPath } from "./path";

describe("the steps of a path", () => {
  it.each<[JobPath, readonly (string | number)[]]>([
    ["bank", ["bank"]],
    ["units.0.runningCurrent", ["units", 0, "runningCurrent"]],
    ["wiring.branches.12.far.3", ["wiring", "branches", 12, "far", 3]],
    ["startAids.soft-starter.cost", ["startAids", "soft-starter", "cost"]],
  ])("%s: rows by number, all else by key", (path, steps) => {
    expect(stepsOf(path)).toEqual(steps);
    expect([groupOf(path), keyOf(path)]).toEqual([steps[0], steps.at(-1)]);
  });
  it("are typed: a group or key that no document has does not compile", () => {
    // @ts-expect-error -- the group is called wiring
    expect(groupOf("wiring.main") === "path").toBe(false);
    // @ts-expect-error -- the field is called areaMm2
    expect(keyOf("wiring.main.0.areaMm2") === "area").toBe(false);
  });
});

describe("a pattern", () => {
  it.each<[string, readonly (string | number)[], boolean]>([
    ["any row", ["units", 3, "power"], true],
    ["another key", ["units", 3, "name"], false],
    ["less than all of it", ["units", 3], false],
    ["more than it", ["units", 3, "power", "value"], false],
  ])("of a unit's power against %s", (_, steps, fit) => expect(fits(["units", ANY, "power"], steps)).toBe(fit));
});

describe("what is within a place", () => {
  it.each<[JobPath, JobPath, boolean]>([
    ["wiring.branches.1.parts.0", "wiring.branches.1", true],
    ["wiring.branches.1", "wiring.branches.1", true],
    // As text the one begins with the other.
    ["wiring.branches.12.parts.0", "wiring.branches.1", false],
    ["wiring.mains.0", "wiring.main", false],
  ])("%s in %s: %s", (path, place, within) => expect(isWithin(path, place)).toBe(within));
});

describe("the count that belongs to a field", () => {
  it.each<[JobPath, JobPath]>([
    ["bank.capacityAh", "bank.parallel"],
    ["inverter.rating", "inverter.count"],
    ["sources.panels.2.power", "sources.panels.2.count"],
    ["wiring.main.3.areaMm2", "wiring.main.3.count"],
    ["wiring.branches.0.far.1.areaMm2", "wiring.branches.0.far.1.count"],
  ])("%s: %s, which is a quantity of the document", (field, count) => {
    expect(countOf(field)).toBe(count);
    expect(fieldAt(count)).toBeDefined();
  });
  it("is none where there is but one of a thing", () => expect(countOf("inverter.idlePower")).toBeUndefined());
});
