import type { Readings } from "../log/readings";

/** A start as a clamp caught it. */
export interface StartPeak {
  at: number;
  attempt: number;
  peakA: number;
}

const TYPED = /\b(?:start|peak|inrush|clamp)\b[^\n]*?(\d+(?:[.,]\d+)?)\s*A\b/i;

/** Starts with their peaks: typed from a clamp into the notes ("start 3: clamp peak 38 A"), in order of time. */
export function startPeaks({ timeMs, notes }: Pick<Readings, "timeMs" | "notes">): StartPeak[] {
  return [...notes]
    .sort((a, b) => a.at - b.at)
    .flatMap(({ at, text }) => {
      const found = TYPED.exec(text);
      return found ? [{ at: timeMs[at]!, peakA: Number(found[1]!.replace(",", ".")) }] : [];
    })
    .map((start, i) => ({ ...start, attempt: i + 1 }));
}

/** Peaks in a row that have to lie within a share of one another to be level. */
const LEVEL = { row: 3, within: 0.05 } as const;
/** Rise of the last peak over the first from which on the row rises. */
const RISEN = 1.12;

/** What a row of starts says of a soft starter, and with how many starts it had learned: the first of the level row. */
export type Learning = { is: "learning" | "rising" } | { is: "level"; starts: number };

/**
 * A soft starter has learned once its peaks are level, three in a row within 5 %; while they fall it is learning. Null where
 * the starts are too few to say, or go up and down.
 */
export function learning(peaks: readonly StartPeak[]): Learning | null {
  if (peaks.length < LEVEL.row) return null;
  const amps = peaks.map(({ peakA }) => peakA);
  const last = amps[amps.length - 1]!;
  const levelAt = (from: number) => {
    const row = amps.slice(from, from + LEVEL.row);
    return Math.max(...row) <= (1 + LEVEL.within) * Math.min(...row);
  };
  const first = amps.findIndex((_, i) => i + LEVEL.row <= amps.length && levelAt(i));
  if (last > RISEN * (first < 0 ? amps[0]! : amps[first]!)) return { is: "rising" };
  if (first >= 0) return { is: "level", starts: peaks[first]!.attempt };
  return last < amps[0]! ? { is: "learning" } : null;
}
