import type { VerdictWord } from "@/core/assessment/judge/word";
import { WORD_COLOURS } from "./word-mark";

/** Demand against limit on one scale: the fill is what is needed, the tick is what there is. */
export function MarginBar({ need, has, word }: { need: number; has: number; word: VerdictWord }) {
  const ratio = need > 0 ? has / need : 10;
  // Whichever is larger ends at 87 %, but a limit far away stays on the bar with the fill still to be seen.
  const fill = ratio >= 1 ? Math.max(6, 87 / Math.min(ratio, 14)) : 87;
  const tick = ratio >= 1 ? 87 : Math.max(2, 87 * ratio);
  return (
    <span className="margin-bar" aria-hidden="true">
      <i style={{ width: `${fill}%`, background: WORD_COLOURS[word] }} />
      <u style={{ left: `${tick}%` }} />
    </span>
  );
}
