"use client";

import { current } from "immer";
import { useState } from "react";
import { Button } from "antd";
import { offsetAt } from "@/core/units/clock";
import { takenFromTestRun } from "@/core/applications/fault-finding/from-test-run";
import { benchOf, type ReadingKey } from "@/core/applications/fault-finding/readings";
import { formatQuantity, significant } from "@/core/units/format";
import type { Job } from "@/core/document/schema";
import { acceptFound, monitorIsOff, type Found } from "@/core/applications/test-run/inference/calibrate";
import type { Repair } from "@/core/applications/test-run/log/repair";
import type { TestRunView } from "@/core/applications/test-run/report/view";
import type { Applied } from "@/core/applications/test-run/report/applied";
import { ApplyDialog } from "./test-run-apply";
import { OriginMark } from "../fields/origin-mark";
import { keepEnquiry, NO_ENQUIRY } from "../state/enquiry";
import { useReading, useSheet } from "../state/sheet-context";
import { Group, More } from "./parts";
import { say } from "@/core/messages/say";

/** Local wall time of seconds of a log. */
export function wallClock(startMs: number, zone: string): (second: number) => string {
  return (second) => {
    const ms = startMs + second * 1000;
    return new Date(ms + offsetAt(zone, ms) * 1000).toISOString().slice(11, 16);
  };
}

const DAYS = ["Sun", "Mon", "Tue", "Wed", "Thu", "Fri", "Sat"];

/** Wall time of a second of a log, with the weekday where it is half a day or more after `nowS`. */
export function wallMoment(startMs: number, zone: string, nowS: number): (second: number) => string {
  const clock = wallClock(startMs, zone);
  return (second) => {
    if (second - nowS < 12 * 3600) return clock(second);
    const ms = startMs + second * 1000;
    return `${DAYS[new Date(ms + offsetAt(zone, ms) * 1000).getUTCDay()]} ${clock(second)}`;
  };
}

/** What the log says of the system's values, each offered with its evidence; nothing is taken over by itself. */
export function FoundList({
  view,
  ask,
  onTake,
}: {
  view: TestRunView;
  ask(taken: readonly Found[]): Promise<Applied | null>;
  onTake(recipe: (draft: Job) => void, words: string): void;
}) {
  const { job } = useReading();
  const show = (found: Found, value: number, digits = 3) =>
    formatQuantity(value, found.dimension, job.notation, digits);
  const id = useSheet((state) => state.id);
  const offered = view.found.filter(({ offered }) => offered);
  const [taking, setTaking] = useState<readonly Found[] | null>(null);
  const toDesk = () => {
    const taken = Object.entries(takenFromTestRun(benchOf(job), view.found)) as [ReadingKey, number][];
    keepEnquiry(id, { ...NO_ENQUIRY, readings: taken.map(([reading, value]) => ({ reading, fields: [value] })) });
    window.history.pushState(null, "", `/jobs/${id}/fault-finding`);
  };
  return (
    <Group
      title="What the log says"
      note={
        offered.length > 1 && (
          <Button size="small" onClick={() => setTaking(offered)}>
            Apply all to the job
          </Button>
        )
      }
    >
      {view.found.length > 0 && (
        <p className="another">
          <Button size="small" type="link" onClick={toDesk}>
            Something wrong? Open these in fault finding
          </Button>
        </p>
      )}
      {view.found.length === 0 && <p className="note">{say("interface.nothingYetNeedsFew")}</p>}
      {taking && (
        <ApplyDialog
          taken={taking}
          notation={job.notation}
          ask={ask}
          onClose={() => setTaking(null)}
          onApply={({ taken }) => {
            setTaking(null);
            const words = taken.length === 1 ? taken[0]!.label : `${taken.length} values`;
            onTake(
              (draft) => Object.assign(draft, taken.reduce(acceptFound, current(draft))),
              `${words} applied to the job; z undoes it`,
            );
          }}
        />
      )}
      <ul className="found">
        {view.found.map((found) => (
          <li key={found.key}>
            <span className="what">
              <OriginMark origin={found.origin} /> {found.label}
            </span>
            <span className="mono">
              {show(found, found.value)} ± {show(found, found.spread, 1)}
            </span>
            <span className="take">
              {found.offered ? (
                <Button size="small" aria-label={`Apply ${found.label} to the job`} onClick={() => setTaking([found])}>
                  Apply
                </Button>
              ) : (
                <span className={monitorIsOff(found) ? "heat note" : "note"}>
                  {monitorIsOff(found) ? "wrong" : found.key === "monitor" ? "agrees" : "all together"}
                </span>
              )}
            </span>
            <span className="note why">
              {found.key === "monitor" ? "battery" : "system"} {show(found, found.was)}; {found.evidence}
              {found.atC !== undefined &&
                `. ${say("testRun.outdoorsWhile", { temperature: formatQuantity(found.atC, "temperature", job.notation, 2) })}`}
            </span>
          </li>
        ))}
      </ul>
    </Group>
  );
}

const clockOr = (hours: number | null, view: TestRunView, clock: (s: number) => string) =>
  hours === null ? "never, charging" : hours > 48 ? "in over two days" : clock(view.lastS + hours * 3600);

/** The three hand answers, and why the forecast differs. */
export function HandList({ view, clock }: { view: TestRunView; clock(s: number): string }) {
  const { hand } = view;
  const lines: [string, number | null][] = [
    ["Amps now", hand.now],
    ["Average so far", hand.average],
    ["Last half hour", hand.halfHour],
  ];
  return (
    <Group title="Hand method" note="battery reaches its reserve at">
      <dl className="test-run-lines">
        {lines.map(([name, hours]) => (
          <div key={name}>
            <dt>{name}</dt>
            <dd className="mono">{clockOr(hours, view, clock)}</dd>
          </div>
        ))}
      </dl>
      {view.why.map((words) => (
        <p className="note" key={words}>
          {words}
        </p>
      ))}
    </Group>
  );
}

/** Starts as the clamp caught them: a learning soft starter shows as a falling row. */
export function StartsTable({ view, clock }: { view: TestRunView; clock(s: number): string }) {
  const most = Math.max(...view.peaks.map(({ peakA }) => peakA));
  const says = view.peaksSay;
  const words =
    says === null
      ? ""
      : says.is === "level"
        ? say("interface.peaksNoLongerChange", { starts: says.starts })
        : say(says.is === "rising" ? "interface.peaksRiseRestartsToo" : "interface.peaksFallStartStart");
  return (
    <Group title="Starts" note="clamp peak">
      <ol className="peaks">
        {view.peaks.slice(-14).map(({ at, attempt, peakA }) => (
          <li key={at}>
            <span className="note mono">{clock((at - view.startMs) / 1000)}</span>
            <span>start {attempt}</span>
            <span className="peak-bar" aria-hidden="true">
              <i style={{ width: `${(100 * peakA) / most}%` }} />
            </span>
            <span className="mono">{significant(peakA, 3)} A</span>
          </li>
        ))}
      </ol>
      {words && <p className="note">{words}</p>}
    </Group>
  );
}

/** What engine, shore or generator gave while the log ran. */
export function ChargedList({ view, clock }: { view: TestRunView; clock(s: number): string }) {
  if (view.charged.length === 0) return null;
  return (
    <Group title="Charging during the run" note="by engine, shore or generator">
      <ul className="mended">
        {view.charged.map(({ fromS, toS, amps }) => (
          <li key={fromS}>
            <span className="mono">
              {clock(fromS)} to {toS >= view.lastS ? "now" : clock(toS)}
            </span>
            , about <span className="mono">{significant(amps, 2)} A</span> from elsewhere
          </li>
        ))}
      </ul>
      <p className="note">{say("interface.notCountedDrawAir")}</p>
    </Group>
  );
}

export function RepairList({ repairs }: { repairs: Repair[] }) {
  if (repairs.length === 0) return null;
  return (
    <Group title="Data corrections" note="the readings themselves are unchanged">
      <ul className="mended">
        {repairs.map(({ what, count, words }) => (
          <li key={what}>
            <span className="mono">{count}</span> {words}
          </li>
        ))}
      </ul>
    </Group>
  );
}

/** Cycles and levels as tables: the same as in the picture, for those who read. */
export function LogTables({ view, clock }: { view: TestRunView; clock(s: number): string }) {
  const minutes = (s: number) => `${(s / 60).toFixed(s < 600 ? 1 : 0)} min`;
  const { levels } = view;
  const named: [string, TestRunView["levels"]["base"]][] = [
    ["Before the air conditioner ran", levels.base],
    ["Compressor off, between runs", levels.between],
    ["Running", levels.running],
    ["All but the AC side", levels.house],
    ["Added by the compressor, from its stops", levels.step],
  ];
  return (
    <>
      <More title={`Cycles: ${view.cycles.length}`}>
        {view.cycles.length === 0 ? (
          <p className="note">
            {view.pullDown ? say("interface.compressorHasNotStopped") : say("interface.unitHasNotRun")}
          </p>
        ) : (
          <table className="values">
            <thead>
              <tr>
                <th>On at</th>
                <th className="right">Ran</th>
                <th className="right">Off</th>
                <th className="right">Duty cycle</th>
                <th className="right">Battery power</th>
              </tr>
            </thead>
            <tbody>
              {view.cycles.map((cycle) => (
                <tr key={cycle.onS}>
                  <td className="mono" style={{ textAlign: "left" }}>
                    {clock(cycle.onS)}
                  </td>
                  <td className="mono">{minutes(cycle.offS - cycle.onS)}</td>
                  <td className="mono">{Number.isNaN(cycle.nextS) ? "–" : minutes(cycle.nextS - cycle.offS)}</td>
                  <td className="mono">{Number.isNaN(cycle.share) ? "–" : `${Math.round(100 * cycle.share)} %`}</td>
                  <td className="mono">{Number.isNaN(cycle.watts) ? "–" : `${significant(cycle.watts, 3)} W`}</td>
                </tr>
              ))}
            </tbody>
          </table>
        )}
      </More>
      <More title="Draw by state">
        <table className="values">
          <thead>
            <tr>
              <th>State</th>
              <th className="right">Battery power</th>
              <th className="right">Spread</th>
              <th className="right">Readings</th>
            </tr>
          </thead>
          <tbody>
            {named.map(([name, level]) => (
              <tr key={name}>
                <td>{name}</td>
                <td className="mono">{level ? `${significant(level.value, 3)} W` : "not seen"}</td>
                <td className="mono">{level ? `${significant(level.spread, 2)} W` : ""}</td>
                <td className="mono">{level?.count ?? ""}</td>
              </tr>
            ))}
          </tbody>
        </table>
        {view.several && <p className="note">{say("interface.severalAirConditionersCycle")}</p>}
        {view.panelsUnread && <p className="note">{say("interface.panelsNotReadLevels")}</p>}
        {view.ofMeans && <p className="note">{say("interface.currentMeanBetweenReadings")}</p>}
      </More>
    </>
  );
}
