"use client";

import { Input } from "antd";
import { useState } from "react";
import { parseTimeOfDay, timeWords } from "@/core/document/schedule";
import { formatQuantity } from "@/core/units/format";
import { chargeAfter } from "@/core/assessment/use/use";
import { QuantityLine } from "../fields/quantity-line";
import { useDay } from "../state/day";
import { useInsight } from "../state/insight";
import { useReading } from "../state/sheet-context";

/** What customers ask beside the verdicts: charge left at a time, cool-down, two degrees warmer, a generator, the battery. */
export function AskedFor() {
  const { job } = useReading();
  const { day, stale } = useDay();
  const { answer } = useInsight("answers");
  const [typed, setTyped] = useState("07:00");
  if (!day?.useRun || !day.use || !day.conditions.known) return null;
  const { useRun, use, holding } = day;
  const prefs = job.notation;
  const span = (seconds: number) => formatQuantity(seconds, "duration", prefs);
  const share = (value: number) => formatQuantity(value, "ratio", prefs, 2);
  const lasts = useRun.reached ? useRun.lasts : useRun.left.length * 600;
  const hours = Math.max(1, Math.min(24, Math.ceil(lasts / 3600)));
  const every = Math.max(1, Math.ceil(hours / 8));
  const times = Array.from({ length: Math.floor(hours / every) + 1 }, (_, i) => i * every).filter(
    (hour) => chargeAfter(useRun.left, hour * 3600) !== null,
  );
  const asked = parseTimeOfDay(typed);
  const after = asked === null ? null : (((asked - use.from) % 1440) + 1440) % 1440;
  const left = after === null ? null : chargeAfter(useRun.left, after * 60);
  return (
    <section className="asked" aria-label="Questions that customers ask" aria-busy={stale}>
      <h2>Questions that customers ask</h2>
      <table className="values across">
        <caption>Charge left if switched on at {timeWords(use.from)} and left on</caption>
        <thead>
          <tr>
            <th>At</th>
            {times.map((hour) => (
              <th key={hour} className="right mono">
                {timeWords(use.from + hour * 60)}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          <tr>
            <td>State of charge</td>
            {times.map((hour) => (
              <td key={hour} className="mono">
                {share(chargeAfter(useRun.left, hour * 3600)!)}
              </td>
            ))}
          </tr>
        </tbody>
      </table>
      <p className="ask-time">
        <label>
          State of charge at{" "}
          <Input size="small" value={typed} onChange={({ target }) => setTyped(target.value)} style={{ width: 72 }} />
        </label>{" "}
        <b className="mono" data-left>
          {asked === null ? "type a time, such as 07:00" : left === null ? "supply has ended by then" : share(left)}
        </b>
      </p>
      <dl className="facts">
        <dt>Compressor on time in that run</dt>
        <dd>
          <span className="mono">{span(useRun.compressor)}</span> of {span(useRun.lasts)}
        </dd>
        <dt>Time to cool down to the set point</dt>
        <dd className="mono">
          {typeof holding?.pullDown === "number" ? span(holding.pullDown) : "not reached in this use"}
        </dd>
        {answer?.warmer && (
          <>
            <dt>Set point two degrees higher</dt>
            <dd>
              <span className="mono">
                {answer.warmer.reached ? span(answer.warmer.seconds) : `over ${span(answer.warmer.seconds)}`}
              </span>{" "}
              to the reserve
              {answer.warmer.gained > 300 ? `, ${span(answer.warmer.gained)} longer` : ""}
            </dd>
          </>
        )}
        <dt>Battery that just lasts the hours wanted</dt>
        <dd className="mono">
          {!answer
            ? "…"
            : answer.bankAh === null
              ? "no size does: a limit decides"
              : formatQuantity(answer.bankAh, "charge", prefs, 2)}
        </dd>
        {answer?.generator && (
          <>
            <dt>On a generator alone</dt>
            <dd>
              {answer.generator.enough
                ? `${formatQuantity(answer.generator.litresAnHour, "fuelRate", prefs, 2)}, a full tank lasts ${span(answer.generator.tankSeconds)}`
                : "the generator is too small for the compressor at full load"}
            </dd>
          </>
        )}
      </dl>
      <QuantityLine path="plan.startCabinC" placeholder="from the hours before" />
    </section>
  );
}
