import { marginText, type VerdictWord } from "@/core/assessment/judge/word";
import { WordMark } from "./word-mark";

/** A verdict's word with its shape, and the margin where there is one. */
export function VerdictLine({ word, margin, by }: { word: VerdictWord; margin?: number; by?: string }) {
  return (
    <span className="verdict-line" title={by}>
      <WordMark word={word} size={11} /> {word}
      {margin !== undefined && <span className="mono note"> {marginText(margin)}</span>}
    </span>
  );
}
