import { interpolateLogLog } from "../../units/interpolate";

export type FuseKind = "class-t" | "bolted-strip" | "terminal" | "blade" | "hrc" | "breaker";

interface FuseClass {
  name: string;
  /** Typical highest DC volts of the kind; the data sheet wins. */
  voltage: number;
  /** Typical interrupting amps up to a voltage, ascending: the higher the volts, the harder the arc. */
  interrupting: readonly (readonly [volts: number, amps: number])[];
  /** Typical volts lost across it at its rated current. */
  voltsAtRating: number;
}

/* The lowest usual ratings of each kind, typical of data sheets; the part in hand overrides them. */
export const FUSE_KINDS: Record<FuseKind, FuseClass> = {
  "class-t": { name: "Class T fuse", voltage: 125, interrupting: [[125, 20_000]], voltsAtRating: 0.08 },
  "bolted-strip": {
    name: "Bolt-down strip fuse",
    voltage: 32,
    interrupting: [[32, 2_000]],
    voltsAtRating: 0.08,
  },
  terminal: {
    name: "Terminal-post fuse",
    voltage: 58,
    interrupting: [
      [14, 10_000],
      [32, 5_000],
      [58, 2_000],
    ],
    voltsAtRating: 0.09,
  },
  blade: { name: "Blade fuse", voltage: 32, interrupting: [[32, 1_000]], voltsAtRating: 0.1 },
  hrc: { name: "HRC fuse link", voltage: 250, interrupting: [[250, 50_000]], voltsAtRating: 0.1 },
  breaker: {
    name: "Resettable breaker",
    voltage: 32,
    interrupting: [
      [16, 5_000],
      [32, 3_000],
    ],
    voltsAtRating: 0.15,
  },
};

/** Typical interrupting amps of a kind on a battery of `volts` nominal; those at its highest voltage beyond it. */
export function interruptingAt(kind: FuseKind, volts: number): number {
  const { interrupting } = FUSE_KINDS[kind];
  return (interrupting.find(([until]) => volts <= until) ?? interrupting[interrupting.length - 1]!)[1];
}

/** Fuse ratings on sale, A. */
export const FUSE_RATINGS = [
  5, 10, 15, 20, 25, 30, 40, 50, 60, 80, 100, 125, 150, 175, 200, 225, 250, 300, 350, 400, 450, 500, 600, 800,
] as const;

/** The smallest rating on sale of at least `current` A; above the largest, the largest. */
export function nextFuseRating(current: number): number {
  return nextOf(FUSE_RATINGS, current);
}

/** The smallest of ascending `ratings` that is at least `current`; the largest where none is. */
export function nextOf(ratings: readonly number[], current: number): number {
  return ratings.find((rating) => rating >= current - 1e-9) ?? ratings[ratings.length - 1]!;
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

/**
 * I^2 t in A^2 s that a fuse or breaker of `rating` A lets through at most before it has opened a short circuit of
 * `fault` A: 1 s at six times its rating (ISO 8820-5's slowest, memory), constant I^2 t above; a breaker never
 * faster than 20 ms. A fault under six times the rating is taken to last the 15 s that twice the rating may.
 */
export function letThrough(rating: number, fault: number, kind: FuseKind): number {
  if (fault <= 2 * rating) return fault * fault * 15;
  const slowest = Math.pow(6 * rating, 2);
  if (fault <= 6 * rating) {
    // 200 % 15 s, 350 % 5 s, 600 % 1 s: the slow edge of the band.
    return fault * fault * interpolateLogLog([2, 3.5, 6], [15, 5, 1], fault / rating);
  }
  return kind === "breaker" ? Math.max(slowest, fault * fault * 0.02) : slowest;
}

/** Magnetic trip of a mains breaker: B 3 to 5 times its rating, C 5 to 10, D 10 to 20 (IEC 60898-1). */
export type BreakerCurve = "B" | "C" | "D";
export const BREAKER_CURVES: Record<BreakerCurve, { holds: number; trips: number }> = {
  B: { holds: 3, trips: 5 },
  C: { holds: 5, trips: 10 },
  D: { holds: 10, trips: 20 },
};
/** Its thermal element, the same for all curves: sure to carry 2.55 times its rating for 1 s, 1.13 times for an hour. */
const THERMAL_SECONDS = [1, 3600] as const;
const THERMAL_MULTIPLES = [2.55, 1.13] as const;

/** Multiple of its rating that a mains breaker of a curve is sure to carry for `seconds` (> 0) (IEC 60898-1, table 7). */
export function breakerSurvives(seconds: number, curve: BreakerCurve = "C"): number {
  const { holds } = BREAKER_CURVES[curve];
  // Under a second the thermal element follows I^2 t; the magnet caps what may pass at all.
  const thermal =
    seconds < 1
      ? THERMAL_MULTIPLES[0] / Math.sqrt(seconds)
      : Math.max(1.13, interpolateLogLog(THERMAL_SECONDS, THERMAL_MULTIPLES, seconds));
  return Math.min(holds, thermal);
}
