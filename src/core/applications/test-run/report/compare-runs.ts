import type { UnitPreferences } from "../../../units/dimension";
import { formatQuantity } from "../../../units/format";
import { say } from "../../../messages/say";
import type { TestRunView } from "./view";

/*
 * Two test runs over one another, of one job or of two: their lines from switching on, and in words what they differ in over the
 * hours that both have.
 */

/** What is laid over: lines by even steps from the moment that the unit was first switched on, NaN where a run has none. */
export interface RunLines {
  /** A out of the battery, state of charge as counted, cabin and outdoors in degC: means over each step. */
  amps: Float64Array;
  share: Float64Array;
  cabinC: Float64Array;
  outdoorC: Float64Array;
}

/** One figure of both runs. */
export interface RunFigure {
  key: "amps" | "running" | "duty" | "share" | "pullDown" | "cabin" | "outdoor";
  a: number | null;
  b: number | null;
}

export interface RunsCompared {
  stepS: number;
  a: RunLines;
  b: RunLines;
  /** Hours from switching on that both runs have. */
  commonH: number;
  figures: RunFigure[];
  /** What differs, in words, the largest first. */
  words: string[];
}

const STEP_S = 600;
/** Least difference that is worth a sentence: of a draw, of a duty cycle, K. */
const DIFFERS = 0.1;
const DIFFERS_K = 1;

type Lined = Pick<
  TestRunView,
  "seconds" | "amps" | "share" | "cabinC" | "outdoorC" | "cycles" | "levels" | "pullDown" | "lastS" | "states"
>;

/** Second of a run at which its unit was first switched on; its beginning where it never was. */
const switchedOn = ({ pullDown }: Lined): number => pullDown?.fromS ?? 0;

function linesOf(view: Lined, steps: number): RunLines {
  const from = switchedOn(view);
  const means = (line: Float64Array): Float64Array => {
    const sums = new Float64Array(steps);
    const counts = new Float64Array(steps);
    for (let i = 0; i < view.seconds.length; i++) {
      const at = Math.floor((view.seconds[i]! - from) / STEP_S);
      if (at < 0 || at >= steps || Number.isNaN(line[i]!)) continue;
      sums[at] = sums[at]! + line[i]!;
      counts[at] = counts[at]! + 1;
    }
    return sums.map((sum, i) => (counts[i]! > 0 ? sum / counts[i]! : NaN));
  };
  return {
    amps: means(view.amps),
    share: means(view.share),
    cabinC: means(view.cabinC),
    outdoorC: means(view.outdoorC),
  };
}

/** Mean of a line over its first steps; null where it has none. */
function meanOf(line: Float64Array, steps: number): number | null {
  const read = line.subarray(0, steps).filter((value) => !Number.isNaN(value));
  return read.length === 0 ? null : read.reduce((sum, value) => sum + value, 0) / read.length;
}

/** Part of the time that the compressor ran over the first hours from switching on. */
function dutyOf(view: Lined, hours: number): number | null {
  const from = switchedOn(view);
  const to = Math.min(view.lastS, from + hours * 3600);
  if (to <= from) return null;
  const on = view.states
    .filter(({ state }) => state === "compressor")
    .reduce((sum, span) => sum + Math.max(0, Math.min(to, span.toS) - Math.max(from, span.fromS)), 0);
  return on / (to - from);
}

/** Two runs compared; `names` are as their sentences say them, differences of temperature in the notation of `prefs`. */
export function compareRuns(
  one: Lined,
  other: Lined,
  names: { a: string; b: string },
  prefs: UnitPreferences,
): RunsCompared {
  const lasted = (view: Lined) => view.lastS - switchedOn(view);
  const steps = Math.max(1, Math.ceil(Math.max(lasted(one), lasted(other)) / STEP_S));
  const [a, b] = [linesOf(one, steps), linesOf(other, steps)];
  const commonH = Math.min(lasted(one), lasted(other)) / 3600;
  const common = Math.max(1, Math.floor((commonH * 3600) / STEP_S));
  const fell = ({ share }: RunLines): number | null => {
    const read = share.subarray(0, common).filter((value) => !Number.isNaN(value));
    return read.length < 2 ? null : read[0]! - read[read.length - 1]!;
  };
  const pulled = ({ pullDown }: Lined) => (pullDown && pullDown.toS !== null ? pullDown.toS - pullDown.fromS : null);
  const figures: RunFigure[] = [
    { key: "amps", a: meanOf(a.amps, common), b: meanOf(b.amps, common) },
    { key: "running", a: one.levels.running?.value ?? null, b: other.levels.running?.value ?? null },
    { key: "duty", a: dutyOf(one, commonH), b: dutyOf(other, commonH) },
    { key: "share", a: fell(a), b: fell(b) },
    { key: "pullDown", a: pulled(one), b: pulled(other) },
    { key: "cabin", a: meanOf(a.cabinC, common), b: meanOf(b.cabinC, common) },
    { key: "outdoor", a: meanOf(a.outdoorC, common), b: meanOf(b.outdoorC, common) },
  ];
  return { stepS: STEP_S, a, b, commonH, figures, words: wordsOf(figures, names, commonH, prefs) };
}

/** What differs, in words: of draws and duty as parts of one another, of temperatures as kelvins. */
function wordsOf(
  figures: readonly RunFigure[],
  { a, b }: { a: string; b: string },
  hours: number,
  prefs: UnitPreferences,
): string[] {
  const found: { size: number; words: string }[] = [];
  const of = (key: RunFigure["key"]) => figures.find((one) => one.key === key)!;
  const both = (key: RunFigure["key"]): [number, number] | null => {
    const { a: x, b: y } = of(key);
    return x === null || y === null ? null : [x, y];
  };
  for (const key of ["amps", "running", "duty", "pullDown"] as const) {
    const pair = both(key);
    if (!pair || Math.min(...pair) <= 0) continue;
    const ratio = pair[1] / pair[0];
    if (Math.abs(Math.log(ratio)) < Math.log(1 + DIFFERS)) continue;
    const values = {
      more: ratio > 1 ? b : a,
      less: ratio > 1 ? a : b,
      percent: Math.round(100 * (Math.max(ratio, 1 / ratio) - 1)),
    };
    found.push({ size: Math.abs(Math.log(ratio)), words: say(`testRun.compared.${key}`, values) });
  }
  for (const key of ["cabin", "outdoor"] as const) {
    const pair = both(key);
    if (!pair || Math.abs(pair[1] - pair[0]) < DIFFERS_K) continue;
    const warmer = pair[1] > pair[0];
    const kelvins = Math.abs(pair[1] - pair[0]);
    found.push({
      size: kelvins / 10,
      words: say(`testRun.compared.${key}`, {
        more: warmer ? b : a,
        less: warmer ? a : b,
        warmer: formatQuantity(kelvins, "kelvin", prefs, 2),
      }),
    });
  }
  if (found.length === 0) return [say("testRun.compared.alike", { hours: Math.round(hours * 10) / 10 })];
  return found.sort((x, y) => y.size - x.size).map(({ words }) => words);
}
