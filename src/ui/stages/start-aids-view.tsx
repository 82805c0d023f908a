"use client";

import { App, Button } from "antd";
import { useMemo } from "react";
import type { StartAidResult } from "@/core/applications/start-aids/start-aids";
import { QuantityCell } from "../fields/quantity-line";
import { VerdictLine } from "../frame/verdict-line";
import { WordMark } from "../frame/word-mark";
import { THEMED } from "../palette";
import StartChart, { type ExtraTrace } from "../pictures/start-chart";
import { useInsight } from "../state/insight";
import { useReading, useSheetStore } from "../state/sheet-context";
import { say } from "@/core/messages/say";

/** StartAids that change what is asked for; the others change what there is. */
const DEMAND_AIDS: Partial<Record<StartAidResult["key"], [colour: string, dash: ExtraTrace["dash"]]>> = {
  "soft-starter": [THEMED.cold, "dashed"],
  "start-capacitor": [THEMED.sun, "dashed"],
  "variable-unit": [THEMED.bank, "dotted"],
};

/** Every start aid for the start beside the system as it is: on one picture and in one table. */
export function StartAidsView() {
  const { answer, stale } = useInsight("startAids");
  const { assessment } = useReading();
  const extras = useMemo(
    () =>
      (answer ?? []).flatMap((startAid): ExtraTrace[] => {
        const style = DEMAND_AIDS[startAid.key];
        return style
          ? [
              {
                name: startAid.name.toLowerCase(),
                seconds: startAid.seconds,
                demand: startAid.demand,
                colour: style[0],
                dash: style[1],
              },
            ]
          : [];
      }),
    [answer],
  );
  const now = assessment.verdicts.starts;
  return (
    <div aria-busy={!answer || stale}>
      <StartChart extras={extras} height={270} />
      {!answer ? (
        <p className="note">Trying each start aid on the whole system</p>
      ) : (
        <table className="values start-aids">
          <caption>Each start aid by itself, on the whole system</caption>
          <thead>
            <tr>
              <th>Start aid</th>
              <th>Margin of the start, now and with it</th>
              <th>Starts</th>
              <th>Carries</th>
              <th className="right">Cost</th>
              <th className="right">Mass</th>
              <th />
            </tr>
          </thead>
          <tbody>
            <tr>
              <td>
                <strong>As it is</strong>
              </td>
              <td>
                <MarginScale now={now.decides.margin} />
              </td>
              <td>
                <VerdictLine word={now.word} by={now.decides.name} />
              </td>
              <td>
                <VerdictLine word={assessment.verdicts.carries.word} by={assessment.verdicts.carries.decides.name} />
              </td>
              <td />
              <td />
              <td />
            </tr>
            {answer.map((startAid) => (
              <Row key={startAid.key} startAid={startAid} now={now.decides.margin} />
            ))}
          </tbody>
        </table>
      )}
      <p className="note">{say("interface.marginWhatThereDivided")}</p>
    </div>
  );
}

function Row({ startAid, now }: { startAid: StartAidResult; now: number }) {
  const store = useSheetStore();
  const { message } = App.useApp();
  const take = () => {
    const { job } = startAid;
    if (!job) return;
    store.getState().change((draft) => void Object.assign(draft, structuredClone(job)));
    void message.success(say("interface.appliedJobUndoTakes", { name: startAid.name }));
  };
  return (
    <tr>
      <td>
        <strong>{startAid.name}</strong>
        <div className="note">
          {startAid.what}
          {startAid.changes.length > 0 && <span className="turns">; turns {startAid.changes.join(", ")}</span>}
        </div>
      </td>
      <td>
        <MarginScale now={now} then={startAid.starts.margin} />
      </td>
      <td>
        <VerdictLine word={startAid.starts.word} margin={startAid.starts.margin} by={startAid.starts.by} />
        <div className="note">{startAid.starts.word === "Holds" ? "" : startAid.starts.by}</div>
      </td>
      <td>
        <span className="verdict-line" title={startAid.carries.by}>
          <WordMark word={startAid.carries.word} size={11} /> {startAid.carries.word}
        </span>
      </td>
      <td>
        <QuantityCell path={`startAids.${startAid.key}.cost`} label={`${startAid.name}: cost`} />
      </td>
      <td>
        <QuantityCell path={`startAids.${startAid.key}.mass`} label={`${startAid.name}: mass`} />
      </td>
      <td>
        {startAid.job && (
          <Button size="small" onClick={take} aria-label={`Apply: ${startAid.name}`}>
            Apply
          </Button>
        )}
      </td>
    </tr>
  );
}

const [LEAST, MOST] = [0.25, 4];
const WIDTH = 150;
const at = (margin: number) =>
  (WIDTH * Math.log(Math.min(MOST, Math.max(LEAST, margin)) / LEAST)) / Math.log(MOST / LEAST);

/** Margins on one log scale for all rows, from a quarter to four times, with the line at one. */
function MarginScale({ now, then }: { now: number; then?: number }) {
  const good = (then ?? now) >= 1;
  const colour = good ? "var(--cold)" : "var(--heat)";
  return (
    <svg width={WIDTH + 12} height="20" viewBox={`-6 0 ${WIDTH + 12} 20`} aria-hidden="true">
      <line x1="0" x2={WIDTH} y1="10" y2="10" stroke="var(--hair)" />
      <rect x="0" y="6" width={at(1)} height="8" fill="var(--hair)" opacity="0.6" />
      <line x1={at(1)} x2={at(1)} y1="1" y2="19" stroke="var(--ink)" strokeWidth="1.6" />
      {then !== undefined && <line x1={at(now)} x2={at(then)} y1="10" y2="10" stroke={colour} strokeWidth="2" />}
      <circle cx={at(now)} cy="10" r="4" fill="var(--paper)" stroke="var(--ink)" strokeWidth="1.4" />
      {then !== undefined && <rect x={at(then) - 4.5} y="5.5" width="9" height="9" fill={colour} />}
    </svg>
  );
}
