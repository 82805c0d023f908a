import { ahead } from "@/core/applications/test-run/inference/forecast";
import { fit, testRunOf } from "@/core/applications/test-run/inference/test-run";
import { handAnswers } from "@/core/applications/test-run/inference/hand-answers";
import { firstMinutes, type Readings } from "@/core/applications/test-run/log/readings";
import type { RunConditions } from "@/core/applications/test-run/site/conditions";
import type { Job } from "@/core/document/schema";

export interface Scored {
  group: string[];
  cut: number;
  left: number;
  p10: number;
  p50: number;
  p90: number;
  hand: { now: number; average: number; halfHour: number };
}

/** How a run counts the charge of lead-acid that its reserve is reached by: as a rested battery shows it, or as Peukert counts it. */
export type ReserveBy = "rest" | "peukert";

/** One forecast held against what happened; null where too little is left to judge by. */
export function scoreOne(
  job: Job,
  readings: Readings,
  reserveH: number,
  cut: number,
  group: string[],
  {
    particles = 300,
    said,
    reserveBy = "rest",
  }: { particles?: number; said?: RunConditions; reserveBy?: ReserveBy } = {},
): Scored | null {
  const log = firstMinutes(readings, cut);
  if (log.timeMs.length < 3) return null;
  const lastH = (log.timeMs[log.timeMs.length - 1]! - readings.timeMs[0]!) / 3_600_000;
  const left = reserveH - lastH;
  if (left < 0.4) return null;
  const testRun = testRunOf(job, log, said);
  const population = fit(testRun, { particles: particles, seed: 1 })!;
  const { hoursByPeukert, hoursToReserve: rested } = ahead(testRun, population);
  const hoursToReserve = (reserveBy === "peukert" && hoursByPeukert) || rested;
  const hand = handAnswers(testRun);
  const h = (value: number | null) => value ?? 48;
  return {
    group,
    cut,
    left,
    p10: h(hoursToReserve.p10),
    p50: h(hoursToReserve.p50),
    p90: h(hoursToReserve.p90),
    hand: { now: h(hand.now), average: h(hand.average), halfHour: h(hand.halfHour) },
  };
}

const sorted = (values: number[]) => [...values].sort((a, b) => a - b);
export const quantile = (values: number[], share: number): number => {
  const line = sorted(values);
  return line[Math.min(line.length - 1, Math.floor(share * line.length))] ?? NaN;
};

export interface Summary {
  runs: number;
  median: number;
  p90: number;
  coverage: number;
  width: number;
  bias: number;
  hand: { now: number; average: number; halfHour: number };
  handTail: { now: number; average: number; halfHour: number };
}

export function summarise(scored: Scored[]): Summary {
  const off = (value: (s: Scored) => number) => scored.map((s) => Math.abs(value(s) - s.left) / s.left);
  const own = off((s) => s.p50);
  const hand = (share: number) => ({
    now: quantile(
      off((s) => s.hand.now),
      share,
    ),
    average: quantile(
      off((s) => s.hand.average),
      share,
    ),
    halfHour: quantile(
      off((s) => s.hand.halfHour),
      share,
    ),
  });
  return {
    runs: scored.length,
    median: quantile(own, 0.5),
    p90: quantile(own, 0.9),
    coverage: scored.filter((s) => s.p10 <= s.left && s.left <= s.p90).length / scored.length,
    width: quantile(
      scored.map((s) => (s.p90 - s.p10) / s.left),
      0.5,
    ),
    bias: quantile(
      scored.map((s) => s.p50 / s.left - 1),
      0.5,
    ),
    hand: hand(0.5),
    handTail: hand(0.9),
  };
}

export const percent = (x: number): string => `${(100 * x).toFixed(1)} %`;
export function line(name: string, s: Summary): string {
  return (
    `${name.padEnd(22)} n ${String(s.runs).padStart(4)}  median ${percent(s.median)}  p90 ${percent(s.p90)}  inside ${percent(s.coverage)}  ` +
    `band ${percent(s.width)}  bias ${percent(s.bias)}  hand ${percent(s.hand.now)} ${percent(s.hand.average)} ${percent(s.hand.halfHour)}` +
    ` tail ${percent(s.handTail.now)} ${percent(s.handTail.average)} ${percent(s.handTail.halfHour)}`
  );
}
