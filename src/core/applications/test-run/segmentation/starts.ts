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

/** What a row of starts says of a soft starter: the last of it clearly under its first means that it is learning. */
export function learning(peaks: readonly StartPeak[]): "learning" | "level" | "rising" | null {
  if (peaks.length < 3) return null;
  const first = peaks[0]!.peakA;
  const last = peaks[peaks.length - 1]!.peakA;
  if (last < 0.88 * first) return "learning";
  return last > 1.12 * first ? "rising" : "level";
}
