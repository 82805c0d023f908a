/*
 * The words of checks and verdicts, and the only place where one is chosen. Screens and applications show a word and ask
 * `isBroken`; none compares a figure with a limit.
 */

/** What a broken rule is called: Stop where it touches fire, shock or crushed life, Tight where it is safe, or not stated. */
export type Gravity = "Stop" | "Fails" | "Tight";
export type Word = "Holds" | Gravity;

/** "Choose a place" is the word of a verdict that cannot be judged before the weather is known. */
export const VERDICT_WORDS = ["Holds", "Tight", "Fails", "Stop", "Choose a place"] as const;
export type VerdictWord = (typeof VERDICT_WORDS)[number];

/** Orders the words: the graver, the higher. */
export const GRAVITY: Record<Word, number> = { Holds: 0, Tight: 1, Fails: 2, Stop: 3 };

/** Limit over demand from which a check with spare is more than tight. */
export const USUAL_SPARE = 1.15;

/** Fails or Stop: it does not do, or must not be used. */
export const isBroken = (word: VerdictWord): boolean => word === "Fails" || word === "Stop";

/** How a limit that is `margin` times its demand is called. */
export function wordOf(
  margin: number,
  {
    holdsFrom = USUAL_SPARE,
    tightFrom = 1,
    gravity = "Fails",
  }: { holdsFrom?: number; tightFrom?: number; gravity?: Gravity } = {},
): Word {
  if (margin >= holdsFrom && margin >= 1) return "Holds";
  return margin >= 1 || margin >= tightFrom ? "Tight" : gravity;
}

/** Whether a margin has the usual spare. */
export const isSpare = (margin: number): boolean => margin >= USUAL_SPARE;

/** The word of a share that was found by trials: Tight where chance, down to `low`, may be what holds it. */
export const wordOfTrials = ({ share, low }: { share: number; low: number }, wanted: number): Exclude<Word, "Stop"> =>
  share < wanted ? "Fails" : low < wanted ? "Tight" : "Holds";

/** A margin as it is shown: large ones say nothing more. */
export const marginText = (margin: number): string => (margin >= 20 ? "> 20" : margin.toFixed(2));
