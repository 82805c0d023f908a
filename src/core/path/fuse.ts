import { interpolateLogLog } from "../numeric/interpolate";

export type FuseKind = "none" | "class-t" | "bolted-strip" | "terminal" | "hrc" | "breaker";

interface FuseClass {
  name: string;
  /** Typical highest DC volts and interrupting amps of the kind; the data sheet wins. */
  voltage: number;
  interrupting: number;
  /** Typical volts lost across it at its rated current. */
  voltsAtRating: number;
}

/* Typical values from memory of the kinds' usual data sheets; always overridden by the part in hand. */
export const FUSE_KINDS: Record<Exclude<FuseKind, "none">, FuseClass> = {
  "class-t": { name: "Class T fuse", voltage: 125, interrupting: 20_000, voltsAtRating: 0.08 },
  "bolted-strip": { name: "Bolted strip fuse", voltage: 58, interrupting: 2_500, voltsAtRating: 0.08 },
  terminal: { name: "Terminal-post fuse", voltage: 58, interrupting: 2_000, voltsAtRating: 0.09 },
  hrc: { name: "High-rupturing fuse link", voltage: 250, interrupting: 50_000, voltsAtRating: 0.1 },
  breaker: { name: "Resettable breaker", voltage: 58, interrupting: 5_000, voltsAtRating: 0.15 },
};

/** Fuse ratings on sale, A. */
export const FUSE_RATINGS = [
  30, 40, 50, 60, 80, 100, 125, 150, 175, 200, 225, 250, 300, 350, 400, 450, 500, 600, 800,
] as const;

/** The smallest rating on sale of at least `current` A; above the largest, the largest. */
export function nextFuseRating(current: number): number {
  return FUSE_RATINGS.find((rating) => rating >= current - 1e-9) ?? FUSE_RATINGS[FUSE_RATINGS.length - 1]!;
}

/** The largest rating on sale of at most `current` A; below the smallest, the smallest. */
export function fuseUnder(current: number): number {
  return FUSE_RATINGS.findLast((rating) => rating <= current + 1e-9) ?? FUSE_RATINGS[0];
}

/*
 * Shortest opening times over the multiple of the rating, after ISO 8820-5 for bolted strip fuses (memory):
 * 135 % 120 s, 200 % 1 s, 350 % 0.3 s, 600 % 0.1 s. Between them log-log; shorter than 0.1 s constant I^2 t;
 * 110 % is carried without end.
 */
const OPENS_AFTER_S = [0.1, 0.3, 1, 120] as const;
const MULTIPLES = [6, 3.5, 2, 1.35] as const;

/** Multiple of its rating that a fuse is sure to carry for `seconds` (> 0) without opening. */
export function fuseSurvives(seconds: number): number {
  if (seconds <= 0.1) return 6 * Math.sqrt(0.1 / seconds);
  return Math.max(1.1, interpolateLogLog(OPENS_AFTER_S, MULTIPLES, seconds));
}
