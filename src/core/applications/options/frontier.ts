import { isBroken, wordOfTrials } from "../../assessment/judge/word";
import type { Outcome } from "./evaluate";
import { statedShare } from "./trips";
import type { Requirement } from "./target";

export const AXES = ["cost", "mass", "roof"] as const;
export type Axis = (typeof AXES)[number];

/** What keeps a design from counting, or null. */
export type Bar = "starts" | "carries" | "cost" | "mass" | "space";

/** A design that does not start or is not carried meets no day, however well its battery would last. */
export function barOf({ starts, carries, cost, mass, space }: Outcome, { limits }: Requirement): Bar | null {
  if (isBroken(starts.word)) return "starts";
  if (isBroken(carries.word)) return "carries";
  if (limits.cost !== null && cost > limits.cost) return "cost";
  if (limits.mass !== null && mass > limits.mass) return "mass";
  if (limits.space !== null && space > limits.space) return "space";
  return null;
}

/** Share of days met of the hardest target, set against the target's own share: all are met where it is that or more. */
export const shareOf = ({ tally, shift }: Outcome): number =>
  tally.days > 0 ? Math.min(1, Math.max(0, tally.met / tally.days + shift)) : 0;

/** In the order of an axis, the better first where they are level, then by their place in the search. */
export function inOrder(outcomes: readonly Outcome[], axis: Axis): Outcome[] {
  return [...outcomes].sort(
    (a, b) => a[axis] - b[axis] || shareOf(b) - shareOf(a) || a.cost - b.cost || a.index - b.index,
  );
}

/**
 * The designs than which none that takes no more does better, dearest last. With `slack` also those that fall short of it
 * by no more than that: chance may have kept them off.
 */
export function frontierOf(outcomes: readonly Outcome[], axis: Axis, slack = 0): Outcome[] {
  const found: Outcome[] = [];
  let best = -Infinity;
  for (const outcome of inOrder(outcomes, axis)) {
    const share = shareOf(outcome);
    if (share > best - slack && (slack > 0 || share > best)) found.push(outcome);
    best = Math.max(best, share);
  }
  return found;
}

/** The least of an axis whose share of days is what the target asks for; null where none is. */
export function cheapestThatMeets(
  outcomes: readonly Outcome[],
  requirement: Requirement,
  axis: Axis = "cost",
): Outcome | null {
  return inOrder(outcomes, axis).find((outcome) => shareOf(outcome) >= requirement.share) ?? null;
}

export type DayWord = "Holds" | "Tight" | "Fails";

/** Lasts and Recovers of a design, by its simulated trips: tight where chance may be what holds it. */
export function dayWords(outcome: Outcome, requirement: Requirement): { lasts: DayWord; recovers: DayWord } {
  const { tally, shift } = outcome;
  const stated = statedShare(tally);
  const word = (share: number, low: number): DayWord =>
    wordOfTrials({ share: share + shift, low: low + shift }, requirement.share);
  const trips = statedShare({ ...tally, days: tally.trips, met: tally.recovered, squares: tally.recovered });
  return { lasts: word(stated.share, stated.low), recovers: word(trips.share, trips.low) };
}
