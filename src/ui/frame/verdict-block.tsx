"use client";

import { formatQuantity } from "@/core/quantity/format";
import { useReading } from "../state/sheet-context";
import { MarginBar } from "./margin-bar";
import { WordMark } from "./word-mark";

/** One verdict: word, needed against there is, weakest link. Opens all its checks. */
export function VerdictBlock({ name }: { name: "starts" | "carries" | "lasts" }) {
  const { rig, assessment, inspect } = useReading();
  const verdict = assessment.verdicts[name];
  const { need, has, dimension, remark } = verdict.decides;
  const text = (value: number) => formatQuantity(value, dimension, rig.notation, 3);
  const [needs, there] = [text(need), text(has)];
  // "6.2 kVA / 7.7 kVA" reads as "6.2 / 7.7 kVA" where the unit is the same.
  const unit = /[^\d.−]+$/.exec(there)?.[0] ?? "";
  const pair = unit && needs.endsWith(unit) ? `${needs.slice(0, -unit.length)} / ${there}` : `${needs} / ${there}`;
  return (
    <button type="button" className="plain verdict" data-verdict={name} onClick={() => inspect({ kind: "verdict", name })}>
      <span className="verdict-top">
        <span>{verdict.name}?</span>
        <span>needed / there is</span>
      </span>
      <span className="verdict-word">
        <WordMark word={verdict.word} />
        <b data-word>{verdict.word}</b>
        <span className="mono" data-pair>{pair}</span>
      </span>
      <MarginBar need={need} has={has} word={verdict.word} />
      <span className="verdict-link">{verdict.decides.name}; {remark}</span>
    </button>
  );
}
