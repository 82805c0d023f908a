import { expect, it } from "vitest";
import { momentOfRun } from "./test-run-moment";

const LAST = Date.UTC(2026, 7, 14, 20);

it("is of now where an instrument or nobody measures, and of the run's own time where it is simulated", () => {
  const before = Date.now();
  expect(momentOfRun(null, LAST)).toBeGreaterThanOrEqual(before);
  expect(momentOfRun({ kind: "file", path: "meter.csv" }, LAST)).toBeGreaterThanOrEqual(before);
  expect(momentOfRun({ kind: "simulator", seed: 1, faults: [], every: 10, speed: 60 }, LAST)).toBe(LAST + 1000);
});
