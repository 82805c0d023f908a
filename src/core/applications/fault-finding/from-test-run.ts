import type { Found, FoundKey } from "../test-run/inference/calibrate";
import { readingSpec, type Bench, type ReadingKey } from "./readings";
import type { Taken } from "./desk";

/** Which reading a value found in a log answers. */
const ANSWERS: Partial<Record<FoundKey, ReadingKey>> = {
  running: "running",
  base: "standby",
  capacity: "capacity",
  monitor: "monitorSetting",
  solarFactor: "solarBest",
};
/** A value the log barely narrowed says little: its spread over itself. */
const SURE_ENOUGH = 0.12;

/** The readings that a test run's log has answered already: what it found over what the system had there. */
export function takenFromTestRun(bench: Bench, found: readonly Found[]): Taken {
  const taken: Taken = {};
  for (const { key, value, was, spread } of found) {
    const reading = ANSWERS[key];
    const expected = reading && readingSpec(reading).expected(bench);
    if (!reading || expected === null || expected === undefined || was <= 0 || value <= 0) continue;
    if (spread / value > SURE_ENOUGH) continue;
    taken[reading] = expected * (value / was);
  }
  return taken;
}
