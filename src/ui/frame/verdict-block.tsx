"use client";

import { formatPair } from "@/core/quantity/format";
import { useReading } from "../state/sheet-context";
import { MarginBar } from "./margin-bar";
import { WordMark } from "./word-mark";

/** One verdict: word, needed against there is, weakest link. Opens all its checks. */
export function VerdictBlock({ name }: { name: "starts" | "carries" | "lasts" }) {
  const { rig, assessment, inspect } = useReading();
  const verdict = assessment.verdicts[name];
  const { need, has, dimension, remark } = verdict.decides;
  return (
    <button
      type="button"
      className="plain verdict"
      data-verdict={name}
      onClick={() => inspect({ kind: "verdict", name })}
    >
      <span className="verdict-top">
        <span>{verdict.name}?</span>
        <span>needed / there is</span>
      </span>
      <span className="verdict-word">
        <WordMark word={verdict.word} />
        <b data-word>{verdict.word}</b>
        <span className="mono" data-pair>
          {formatPair(need, has, dimension, rig.notation)}
        </span>
      </span>
      <MarginBar need={need} has={has} word={verdict.word} />
      <span className="verdict-link">
        {verdict.decides.name}; {remark}
      </span>
    </button>
  );
}
