"use client";

import { useState } from "react";
import { significant } from "@/core/units/format";
import { byKind, heldAgainst, type KindSummary } from "@/core/applications/test-run/report/record";
import type { TestRunView } from "@/core/applications/test-run/report/view";
import { fetchAllTestRuns } from "../state/test-run-calls";
import { type ListedTestRun } from "@/contract/test-runs";
import { say } from "@/core/messages/say";
import { useServerData } from "../state/server-data";

const percent = (x: number) => `${Math.round(100 * x)} %`;
const signed = (x: number) => `${x > 0 ? "+" : "−"}${Math.round(Math.abs(100 * x))} %`;

/** How the forecasts of all finished test runs held, kind by kind. */
const kindsOf = (runs: ListedTestRun[]) =>
  byKind(
    runs
      .filter(({ finishedMs }) => finishedMs !== null)
      .flatMap(({ kind, snapshots, outcome }) => heldAgainst(kind, snapshots, outcome)),
  );

/** What was predicted against what happened: of this test run once it is over, and of the workshop's. */
export function RecordView({ testRun, view }: { testRun: ListedTestRun; view: TestRunView }) {
  const [shown, setShown] = useState(false);
  const { data: kinds, fault } = useServerData<KindSummary[]>(
    shown ? ["forecasts-by-kind", testRun.finishedMs ?? 0] : null,
    async () => kindsOf(await fetchAllTestRuns()),
  );
  const finished = testRun.finishedMs !== null;
  const held = finished ? heldAgainst(testRun.kind, testRun.snapshots, testRun.outcome) : [];
  return (
    <>
      {finished && (
        <section className="view" aria-label="Predicted vs actual">
          <h2>Predicted vs actual</h2>
          {held.length === 0 ? (
            <p className="note">
              {testRun.outcome?.reserveH
                ? say("interface.engineShorePowerGenerator")
                : say("interface.logEndsEarly", { left: percent(view.outcome.endSoc ?? 0) })}
            </p>
          ) : (
            <table className="values">
              <thead>
                <tr>
                  <th>Forecast made at</th>
                  <th className="right">p10 to p90</th>
                  <th className="right">p50</th>
                  <th className="right">It was</th>
                  <th className="right">Error</th>
                  <th className="right">Average by hand</th>
                  <th>Inside</th>
                </tr>
              </thead>
              <tbody>
                {held.map((one) => {
                  const { toReserve } = testRun.snapshots.find(({ minutes }) => minutes === one.minutes)!;
                  return (
                    <tr key={one.minutes}>
                      <td>{one.minutes} min</td>
                      <td className="mono">
                        {significant(toReserve.p10 ?? 48, 2)} to{" "}
                        {toReserve.p90 === null ? "48+" : significant(toReserve.p90, 2)} h
                      </td>
                      <td className="mono">{significant(toReserve.p50!, 2)} h</td>
                      <td className="mono">{significant(one.left, 2)} h</td>
                      <td className="mono">{signed(one.error)}</td>
                      <td className="mono">{one.handError === null ? "–" : signed(one.handError)}</td>
                      <td>{one.inside ? "yes" : "no"}</td>
                    </tr>
                  );
                })}
              </tbody>
            </table>
          )}
        </section>
      )}
      <details onToggle={(event) => setShown(event.currentTarget.open)}>
        <summary>Accuracy of past forecasts, by kind of system</summary>
        {fault ? (
          <p className="problem">{fault.message}</p>
        ) : !kinds ? (
          <p className="note">Reading the finished test runs</p>
        ) : kinds.length === 0 ? (
          <p className="note">{say("interface.noFinishedTestRun")}</p>
        ) : (
          <table className="values">
            <thead>
              <tr>
                <th>Kind of system</th>
                <th className="right">Forecasts</th>
                <th className="right">Error, median</th>
                <th className="right">Inside p10 to p90</th>
                <th className="right">By hand, median</th>
              </tr>
            </thead>
            <tbody>
              {kinds.map((one) => (
                <tr key={one.kind}>
                  <td>{one.kind}</td>
                  <td className="mono">{one.forecasts}</td>
                  <td className="mono">{percent(one.medianError)}</td>
                  <td className="mono">{percent(one.inside)}</td>
                  <td className="mono">{one.medianHandError === null ? "–" : percent(one.medianHandError)}</td>
                </tr>
              ))}
            </tbody>
          </table>
        )}
      </details>
    </>
  );
}
