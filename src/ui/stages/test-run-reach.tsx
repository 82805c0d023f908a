import { Input } from "antd";
import { useState } from "react";
import type { Reach, Way } from "@/core/applications/test-run/inference/reach";
import type { TestRunView } from "@/core/applications/test-run/report/view";
import { parseTimeOfDay } from "@/core/document/schedule";
import { say } from "@/core/messages/say";
import { formatQuantity, significant } from "@/core/units/format";
import type { UnitPreferences } from "@/core/units/dimension";

interface Props {
  view: TestRunView;
  /** The wished time of day, as it was last understood. */
  until: string;
  onUntil(until: string): void;
  reach: Reach | null;
  notation: UnitPreferences;
  clock(second: number): string;
}

/** The wished time, and what has to be set from now on to reach it. */
export function ReachLine({ view, until, onUntil, reach, notation, clock }: Props) {
  const [text, setText] = useState(until);
  const wrong = parseTimeOfDay(text) === null;
  const keep = () => {
    if (!wrong) onUntil(text.trim());
  };
  return (
    <div className="reach" role="group" aria-label="To last until a time">
      <label>
        <span>To last until</span>
        <Input
          size="small"
          aria-label="Wished time"
          value={text}
          status={wrong ? "error" : ""}
          onChange={({ target }) => setText(target.value)}
          onBlur={keep}
          onPressEnter={keep}
        />
      </label>
      <p aria-live="polite" data-reach={reach ? (reach.way ? "reached" : "not-reached") : "asked"}>
        {wrong ? say("interface.notTimeOfDay", { text: text.trim() }) : wordsOf(reach, view, notation, clock)}
      </p>
    </div>
  );
}

const inTen = (chance: number) => Math.round(10 * chance);

/** What is set, in words: "set 25.5 °C, low fan, off from 05:30". */
function settingsOf({ setC, fan, offFromS }: Way, notation: UnitPreferences, clock: Props["clock"]): string {
  return [
    setC === null ? "" : `set ${formatQuantity(setC, "temperature", notation, 3)}`,
    fan === null ? "" : `${fan} fan`,
    offFromS === null ? "" : `off from ${clock(offFromS)}`,
  ]
    .filter(Boolean)
    .join(", ");
}

function wordsOf(reach: Reach | null, view: TestRunView, notation: UnitPreferences, clock: Props["clock"]): string {
  if (view.outcome.reserveH !== null) return say("testRun.reachPassed");
  if (!reach) return say("testRun.reachAsked");
  const at = clock(reach.untilS);
  const { way, nearest, asItIs } = reach;
  if (way === asItIs || (way && settingsOf(way, notation, clock) === "")) return say("testRun.reachAsItIs", { at });
  // A difference of temperatures: 9 / 5 of it in °F.
  const warmer = (kh: number) =>
    `${significant(notation.temperature === "F" ? (kh * 9) / 5 : kh, 2)} °${notation.temperature} h`;
  if (way)
    return say("testRun.reachBy", { at, settings: settingsOf(way, notation, clock), warmer: warmer(way.warmerKh) });
  return say("testRun.reachNone", {
    at,
    settings: settingsOf(nearest!, notation, clock) || "as it is set",
    inTen: inTen(nearest!.chance),
  });
}
