"use client";

import { Button, Progress, Select } from "antd";
import { useEffect, useRef, useState } from "react";
import { PAIRS, type PairKey } from "@/core/assessment/run-time-map/axes";
import type { PairSide, RunTimeMap } from "@/core/assessment/run-time-map/run-time-map";
import { formatQuantity } from "@/core/units/format";
import type { Job } from "@/core/document/schema";
import { extent, polyline } from "../pictures/day-shape";
import { useBoxWidth } from "../pictures/use-box-width";
import { askMap, askPair, useDay } from "../state/day";
import { useReading } from "../state/sheet-context";
import { degreeHours } from "../words";
import { say } from "@/core/messages/say";

/** Two ways to cool the same cabin in one picture, asked for one pair at a time. */
export function DayPairs() {
  const { job } = useReading();
  const [key, setKey] = useState<PairKey | null>(null);
  const [held, setHeld] = useState<{ job: Job; key: PairKey; sides: [PairSide, PairSide] } | null>(null);
  const [fault, setFault] = useState("");
  useEffect(() => {
    if (!key) return;
    let late = false;
    const wait = setTimeout(() => {
      askPair(job, key).then(
        (sides) => !late && (setHeld({ job, key, sides }), setFault("")),
        (error: Error) => !late && setFault(error.message),
      );
    }, 300);
    return () => {
      late = true;
      clearTimeout(wait);
    };
  }, [job, key]);
  const pair = PAIRS.find((one) => one.key === held?.key);
  return (
    <section className="view" aria-label="Compare two ways in the same cabin">
      <div className="group-title">
        <h2>Compare two ways in the same cabin</h2>
        <Select<PairKey>
          size="small"
          style={{ width: 220 }}
          aria-label="Which two"
          placeholder="Choose two"
          value={key}
          options={PAIRS.map(({ key: value, name }) => ({ value, label: name }))}
          onChange={setKey}
        />
      </div>
      {fault && <p className="problem">{fault}</p>}
      {key && !held && !fault && <p className="note">Simulating both</p>}
      {held && pair && (
        <div aria-busy={held.job !== job || held.key !== key}>
          <PairPlot sides={held.sides} names={pair.sides} />
          <PairTable sides={held.sides} names={pair.sides} />
        </div>
      )}
    </section>
  );
}

const COLOURS = ["var(--cold)", "var(--heat)"] as const;
const DASHES = [undefined, "5 3"] as const;

function PairPlot({ sides, names }: { sides: [PairSide, PairSide]; names: readonly [string, string] }) {
  const [box, width] = useBoxWidth(780);
  const left = 40;
  const steps = sides[0].share.length;
  const x = (step: number) => left + (step / Math.max(1, steps)) * (width - left - 8);
  const level = (share: number) => 112 - share * 100;
  const [low, high] = extent(
    sides.map(({ cabinC }) => cabinC),
    [0, steps],
  );
  const degrees = (t: number) => 212 - ((t - low) / Math.max(2, high - low)) * 82;
  return (
    <div ref={box}>
      <svg
        width={width}
        height={236}
        style={{ display: "block" }}
        role="img"
        aria-label={`State of charge and cabin temperature over a day from noon: ${names[0]} against ${names[1]}`}
      >
        {[0, 6, 12, 18, 24].map((hour) => (
          <g key={hour}>
            <line x1={x((hour / 24) * steps)} x2={x((hour / 24) * steps)} y1={8} y2={214} stroke="var(--hair)" />
            {hour < 24 && (
              <text x={x((hour / 24) * steps) + 3} y={230} fontSize="11.5" fontFamily="var(--mono)" fill="var(--faded)">
                {["12:00", "18:00", "00:00", "06:00"][hour / 6]}
              </text>
            )}
          </g>
        ))}
        <g fontSize="11.5" fontFamily="var(--mono)" fill="var(--faded)" textAnchor="end">
          <text x={left - 4} y={16}>
            100 %
          </text>
          <text x={left - 4} y={112}>
            0
          </text>
        </g>
        <g fontSize="12" fill="var(--faded)">
          <text x={left + 4} y={108}>
            state of charge
          </text>
          <text x={left + 4} y={138}>
            cabin
          </text>
        </g>
        {sides.map((side, i) => (
          <g key={i} fill="none" stroke={COLOURS[i]} strokeWidth="1.7" strokeDasharray={DASHES[i]}>
            <path d={polyline(side.share, [0, steps], 500, x, level)} />
            <path d={polyline(side.cabinC, [0, steps], 700, x, degrees)} strokeWidth="1.2" />
          </g>
        ))}
      </svg>
    </div>
  );
}

function PairTable({ sides, names }: { sides: [PairSide, PairSide]; names: readonly [string, string] }) {
  const { job } = useReading();
  const prefs = job.notation;
  const wh = (joules: number) => formatQuantity(joules / 3600, "energy", prefs, 2);
  return (
    <table className="values">
      <thead>
        <tr>
          <th>In the same cabin</th>
          <th className="right">To the reserve</th>
          <th className="right">Into the air conditioner, a day</th>
          <th className="right">Compressor</th>
          <th className="right">Time at the set point</th>
          <th className="right">Missed by</th>
        </tr>
      </thead>
      <tbody>
        {sides.map(({ lasts, reached, totals }, i) => (
          <tr key={names[i]} data-side={i}>
            <td>
              <svg width="22" height="8" aria-hidden="true">
                <line x1="0" x2="22" y1="4" y2="4" stroke={COLOURS[i]} strokeWidth="2" strokeDasharray={DASHES[i]} />
              </svg>{" "}
              {names[i]}
            </td>
            <td className="mono">
              {reached ? "" : "over "}
              {formatQuantity(lasts, "duration", prefs, 2)}
            </td>
            <td className="mono">{wh(totals.units)}</td>
            <td className="mono">{formatQuantity(totals.secondsCompressor, "duration", prefs, 2)}</td>
            <td className="mono">
              {totals.secondsAsked > 0
                ? formatQuantity(totals.secondsMet / totals.secondsAsked, "ratio", prefs, 2)
                : "–"}
            </td>
            <td className="mono">{degreeHours(totals.degreeHoursMissed, prefs)}</td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}

/** Hours to the reserve over outdoor maximum and set point, from the planned hour on. */
export function RunTimeMapView() {
  const { job } = useReading();
  const { day } = useDay();
  const [held, setHeld] = useState<{ job: Job; map: RunTimeMap } | null>(null);
  const [progress, setProgress] = useState<number | null>(null);
  const [fault, setFault] = useState("");
  const stop = useRef<() => void>(() => {});
  useEffect(() => () => stop.current(), []);
  const begin = async () => {
    setProgress(0);
    setFault("");
    const asked = askMap(job, setProgress);
    stop.current = asked.stop;
    try {
      const map = await asked.answer;
      if (map) setHeld({ job, map });
    } catch (error) {
      setFault((error as Error).message);
    }
    setProgress(null);
  };
  const wanted = day?.verdicts.lasts.decides.need ?? 0;
  const prefs = job.notation;
  const temperature = (value: number) => formatQuantity(value, "temperature", prefs, 2);
  const tint = (seconds: number) => {
    const ratio = wanted > 0 ? seconds / wanted : 2;
    if (ratio < 1) return `color-mix(in srgb, var(--heat) ${Math.round(38 - 26 * ratio)}%, var(--page))`;
    return `color-mix(in srgb, var(--cold) ${Math.round(Math.min(34, 6 + 9 * Math.log2(ratio)))}%, var(--page))`;
  };
  return (
    <section className="view" aria-label="Run-time map">
      <div className="group-title">
        <h2>Run-time map</h2>
        <span className="note">
          hours from switching on to the reserve, by highest outdoor temperature and set point
        </span>
        {progress === null ? (
          <Button size="small" onClick={() => void begin()}>
            {held ? "Compute again" : "Compute map"}
          </Button>
        ) : (
          <>
            <Progress percent={Math.round(progress * 100)} size="small" style={{ width: 120 }} />
            <Button size="small" onClick={() => stop.current()}>
              Stop
            </Button>
          </>
        )}
      </div>
      {fault && <p className="problem">{fault}</p>}
      {held && (
        <>
          {held.job !== job && <p className="note">{say("interface.earlierVersionJob")}</p>}
          <table className="values run-map">
            <thead>
              <tr>
                <th>Set point</th>
                {held.map.outdoorC.map((outdoor) => (
                  <th key={outdoor} className="right">
                    {temperature(outdoor)}
                  </th>
                ))}
              </tr>
            </thead>
            <tbody>
              {held.map.setPointC.map((set, s) => (
                <tr key={set}>
                  <th scope="row" className="mono">
                    {temperature(set)}
                  </th>
                  {held.map.outdoorC.map((outdoor, o) => {
                    const seconds = held.map.seconds[o]![s]!;
                    const over = seconds >= held.map.limit;
                    return (
                      <td
                        key={outdoor}
                        className="mono"
                        style={{ background: tint(seconds) }}
                        title={seconds < wanted ? "less than the hours wanted" : undefined}
                      >
                        {over ? "> " : ""}
                        {(seconds / 3600).toFixed(seconds < 36_000 ? 1 : 0)}
                        {seconds < wanted ? " ×" : ""}
                      </td>
                    );
                  })}
                </tr>
              ))}
            </tbody>
          </table>
          <p className="note">{say("interface.hoursLessHoursWanted")}</p>
        </>
      )}
    </section>
  );
}
