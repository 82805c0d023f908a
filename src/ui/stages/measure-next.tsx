"use client";

import { useInsight } from "../state/insight";
import { useReading } from "../state/sheet-context";
import { useShowStage } from "./show-stage";
import { say } from "@/core/messages/say";

/** What to go and measure: the assumed values that could move a verdict's margin most, with how far and by what instrument. */
export function MeasureNextList({ verdict }: { verdict: "starts" | "carries" }) {
  const { assessment } = useReading();
  const { answer, stale } = useInsight("measureNext");
  const show = useShowStage();
  const name = assessment.verdicts[verdict].name;
  const list = answer?.[verdict] ?? [];
  const margin = (value: number) => (value >= 2.99 ? "3 or more" : value.toFixed(2));
  return (
    <section className="measure-next" aria-busy={!answer || stale}>
      <div className="group-title">
        <h2>Measure next</h2>
        <span className="note">what could move {name} most</span>
      </div>
      {!answer && <p className="note">Ranking the assumed values</p>}
      {answer && list.length === 0 && <p className="note">{say("interface.noAssumedValueCould")}</p>}
      <ol>
        {list.map((one) => (
          <li key={one.path}>
            <button type="button" className="plain part-link" onClick={() => show(one.path)}>
              {one.label}
            </button>{" "}
            <span className="with-unit">
              <span className="note">margin</span>{" "}
              <span className="mono">
                {margin(Math.min(one.low, one.high))} … {margin(Math.max(one.low, one.high))}
              </span>
            </span>
            {one.turns && <span className="turns">, turns the verdict</span>}
            <div className="note">{one.measure || say("interface.readPlateDataSheet")}</div>
          </li>
        ))}
      </ol>
    </section>
  );
}
