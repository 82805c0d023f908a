"use client";

import { formatPair, formatQuantity } from "@/core/quantity/format";
import { useDay } from "../state/day";
import { useReading, useVerdict, type VerdictKey } from "../state/sheet-context";
import { MarginBar } from "./margin-bar";
import { WordMark } from "./word-mark";

const TITLES: Record<VerdictKey, string> = {
  starts: "Starts",
  carries: "Carries",
  lasts: "Lasts",
  recovers: "Recovers",
};

/** One verdict: word, needed against there is, weakest link. Opens all its checks. */
export function VerdictBlock({ name }: { name: VerdictKey }) {
  const { rig, inspect } = useReading();
  const { day, stale, fault } = useDay();
  const verdict = useVerdict(name);
  const ofTheRun = name === "lasts" || name === "recovers";
  if (!verdict)
    return (
      <div className="verdict" data-verdict={name} aria-busy={!fault}>
        <span className="verdict-top">
          <span>{TITLES[name]}?</span>
        </span>
        <span className="verdict-word">
          <b>…</b>
        </span>
        <span className="verdict-link">{fault ? `The run ended in a fault: ${fault}` : "running the day"}</span>
      </div>
    );
  const { need, has, dimension, remark } = verdict.decides;
  const range = ofTheRun && day?.range?.[name];
  const text = (value: number) => formatQuantity(value, dimension, rig.notation, 2);
  const words = ofTheRun && day ? day.words[name] : `${verdict.decides.name}; ${remark}`;
  return (
    <button
      type="button"
      className="plain verdict"
      data-verdict={name}
      data-stale={ofTheRun && stale ? "" : undefined}
      title={words}
      onClick={() => inspect({ kind: "verdict", name })}
    >
      <span className="verdict-top">
        <span>{verdict.name}?</span>
        {range ? (
          <span title="On a mild day and on a hot day of the month">
            mild {text(range.mild)}, hot {text(range.hot)}
          </span>
        ) : (
          <span>needed / there is</span>
        )}
      </span>
      <span className="verdict-word">
        <WordMark word={verdict.word} />
        <b data-word>{verdict.word}</b>
        <span className="mono" data-pair>
          {ofTheRun ? `${text(need)} / ${text(has)}` : formatPair(need, has, dimension, rig.notation)}
        </span>
      </span>
      <MarginBar need={need} has={has} word={verdict.word} />
      <span className="verdict-link">{words}</span>
    </button>
  );
}
