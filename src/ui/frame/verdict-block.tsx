"use client";

import { QuestionCircleOutlined } from "@ant-design/icons";
import { Popover } from "antd";
import { formatNeedsHas, formatQuantity } from "@/core/units/format";
import type { DayAnswer } from "@/workers/day.worker";
import type { Job } from "@/core/document/schema";
import { say } from "@/core/messages/say";
import { useDay } from "../state/day";
import { useReading, useVerdict, type VerdictKey } from "../state/sheet-context";
import { MarginBar } from "./margin-bar";
import { WithUnits } from "./with-units";
import { WordMark } from "./word-mark";

export const VERDICT_TITLES: Record<VerdictKey, string> = {
  starts: "Starts",
  carries: "Carries",
  lasts: "Lasts",
  recovers: "Recovers",
};

/** What a verdict asks, and what its words mean. */
export function VerdictHelp({ name }: { name: VerdictKey }) {
  return (
    <Popover
      trigger="click"
      title={`${VERDICT_TITLES[name]}?`}
      content={
        <div className="help">
          <p>{say(`help.${name}`)}</p>
          <ul>
            {(["Holds", "Tight", "Fails", "Stop"] as const).map((word) => (
              <li key={word}>
                <WordMark word={word} size={11} /> {say(`help.${word}`)}
              </li>
            ))}
          </ul>
        </div>
      }
    >
      <button type="button" className="plain help-mark" aria-label={`What ${VERDICT_TITLES[name]} means`}>
        <QuestionCircleOutlined />
      </button>
    </Popover>
  );
}

/** Mild and hot days beside the design day, in few words; empty where there is nothing to say. */
function rangeWords(day: DayAnswer | null, name: VerdictKey, job: Job): string {
  if (!day?.range) return "";
  const span = ({ seconds, reached }: { seconds: number; reached: boolean }) =>
    reached
      ? formatQuantity(seconds, "duration", job.notation)
      : `over ${formatQuantity(seconds, "duration", job.notation)}`;
  const share = (value: number | null) =>
    value === null ? "runs out" : formatQuantity(value, "ratio", job.notation, 2);
  if (name === "lasts") return `mild ${span(day.range.lasts.mild)}, hot ${span(day.range.lasts.hot)}`;
  if (name === "recovers") {
    const { mild, hot } = day.range.recovers;
    if (mild === null && hot === null) return "runs out on mild and hot days too";
    return `lowest at sunrise: mild ${share(mild)}, hot ${share(hot)}`;
  }
  return "";
}

/** One verdict: word, what it needs and has, the weakest link. Opens all its checks. */
export function VerdictBlock({ name }: { name: VerdictKey }) {
  const { job, inspect } = useReading();
  const { day, stale, fault } = useDay();
  const verdict = useVerdict(name);
  const ofTheRun = name === "lasts" || name === "recovers";
  if (!verdict)
    return (
      <div className="verdict" data-verdict={name} aria-busy={!fault}>
        <span className="verdict-top">
          <span>{VERDICT_TITLES[name]}?</span>
        </span>
        <span className="verdict-word">
          <b>…</b>
        </span>
        <span className="verdict-link">{fault ? `The simulation stopped: ${fault}` : "Simulating the day"}</span>
      </div>
    );
  const { decides, word } = verdict;
  const open = word === "Choose a place";
  const words = ofTheRun && day ? day.words[name].short : `${capital(decides.name)}: ${decides.remark}`;
  const full = ofTheRun && day ? day.words[name].long : words;
  const range = rangeWords(day, name, job);
  return (
    <div className="verdict-cell">
      <button
        type="button"
        className="plain verdict"
        data-verdict={name}
        data-stale={ofTheRun && stale ? "" : undefined}
        title={full}
        onClick={() => inspect({ kind: "verdict", name })}
      >
        <span className="verdict-top">
          <span>{verdict.name}?</span>
        </span>
        <span className="verdict-word">
          <WordMark word={word} />
          <b data-word>{word}</b>
        </span>
        {!open && (
          <>
            <span className="mono verdict-pair" data-pair>
              <WithUnits text={formatNeedsHas(decides, job.notation)} />
            </span>
            <MarginBar need={decides.need} has={decides.has} word={word} />
          </>
        )}
        <span className="verdict-link">{open ? say("help.choose") : <WithUnits text={words} />}</span>
        {range && (
          <span className="verdict-range">
            <WithUnits text={range} />
          </span>
        )}
      </button>
      <VerdictHelp name={name} />
    </div>
  );
}

const capital = (text: string) => text.charAt(0).toUpperCase() + text.slice(1);
