import type { VerdictWord } from "@/core/assessment/judge/word";

/** The shape of a verdict's word: full square, half square, crossed square, barred solid; an open ring until there is a place. */
export function WordMark({ word, size = 14 }: { word: VerdictWord; size?: number }) {
  return (
    <svg width={size} height={size} viewBox="0 0 14 14" aria-hidden="true">
      {word === "Holds" && <rect x="1" y="1" width="12" height="12" fill="var(--cold)" />}
      {word === "Tight" && (
        <>
          <rect x="1.6" y="1.6" width="10.8" height="10.8" fill="none" stroke="var(--sun)" strokeWidth="1.2" />
          <path d="M1 13V1h12z" fill="var(--sun)" />
        </>
      )}
      {word === "Fails" && (
        <>
          <rect x="1.6" y="1.6" width="10.8" height="10.8" fill="none" stroke="var(--heat)" strokeWidth="1.2" />
          <path d="M2 2l10 10M12 2L2 12" stroke="var(--heat)" strokeWidth="1.6" />
        </>
      )}
      {word === "Choose a place" && (
        <circle cx="7" cy="7" r="5.6" fill="none" stroke="var(--faded)" strokeWidth="1.4" strokeDasharray="2.6 2" />
      )}
      {word === "Stop" && (
        <>
          <rect x="0" y="0" width="14" height="14" fill="var(--heat)" />
          <rect x="2.5" y="5.3" width="9" height="3.4" fill="var(--page)" />
        </>
      )}
    </svg>
  );
}

export const WORD_COLOURS: Record<VerdictWord, string> = {
  Holds: "var(--cold)",
  Tight: "var(--sun)",
  Fails: "var(--heat)",
  Stop: "var(--heat)",
  "Choose a place": "var(--faded)",
};

/** A verdict's word behind its shape. */
export function MarkedWord({ word }: { word: VerdictWord }) {
  return (
    <span className="marked-word" style={{ color: WORD_COLOURS[word] }}>
      <WordMark word={word} size={11} /> {word}
    </span>
  );
}
