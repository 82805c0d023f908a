"use client";

import { useEffect, useState, type RefObject } from "react";
import { useVerdict, type VerdictKey } from "../state/sheet-context";
import { VERDICT_TITLES } from "./verdict-block";
import { WordMark } from "./word-mark";

/** The four words in one line at the top of a phone, while the verdicts themselves are scrolled out of view. */
export function VerdictGlance({ head }: { head: RefObject<HTMLElement | null> }) {
  const [away, setAway] = useState(false);
  useEffect(() => {
    if (!head.current) return;
    const watch = new IntersectionObserver(([seen]) => setAway(!seen!.isIntersecting));
    watch.observe(head.current);
    return () => watch.disconnect();
  }, [head]);
  if (!away) return null;
  return (
    // Whoever has the page read out hears the verdicts where they stand.
    <div className="glance" aria-hidden="true">
      {(["starts", "carries", "lasts", "recovers"] as const).map((name) => (
        <Glance key={name} name={name} />
      ))}
    </div>
  );
}

function Glance({ name }: { name: VerdictKey }) {
  const verdict = useVerdict(name);
  return (
    <span>
      <span>{VERDICT_TITLES[name]}?</span>
      <b>
        {verdict && <WordMark word={verdict.word} size={11} />} {verdict?.word ?? "…"}
      </b>
    </span>
  );
}
