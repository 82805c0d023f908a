"use client";

import { Select } from "antd";
import { useState } from "react";
import type { ListedTestRun } from "@/contract/test-runs";
import {
  compareRuns,
  type RunFigure,
  type RunLines,
  type RunsCompared,
} from "@/core/applications/test-run/report/compare-runs";
import type { TestRunView } from "@/core/applications/test-run/report/view";
import { say } from "@/core/messages/say";
import { formatQuantity, significant } from "@/core/units/format";
import type { UnitPreferences } from "@/core/units/dimension";
import type { Job } from "@/core/document/schema";
import { useServerData } from "../state/server-data";
import { fetchJob } from "../state/server-calls";
import { askView } from "../state/test-run";
import { fetchAllTestRuns } from "../state/test-run-calls";

interface Props {
  testRun: ListedTestRun;
  view: TestRunView;
  job: Job;
}

/** Another run over this one, of this job or of another: both from switching on, on one axis, with what differs in words. */
export function RunOverlay({ testRun, view, job }: Props) {
  const [open, setOpen] = useState(false);
  const [other, setOther] = useState<string | null>(null);
  const { data: runs } = useServerData<ListedTestRun[]>(open ? ["all-test-runs"] : null, fetchAllTestRuns);
  const chosen = runs?.find(({ id }) => id === other) ?? null;
  const { data: theirs, fault } = useServerData<TestRunView | null>(
    chosen ? ["test-run-view", chosen.id] : null,
    async () => {
      const read = await fetchJob(chosen!.jobId);
      const answer = read && (await askView(chosen!.id, read.job, chosen!.conditions));
      if (!answer?.ok) throw new Error(answer ? answer.message : say("interface.serverNotReached"));
      return answer.view;
    },
  );
  const names = { a: testRun.name, b: chosen?.name === testRun.name ? "the other run" : (chosen?.name ?? "") };
  const compared = theirs ? compareRuns(view, theirs, names, job.notation) : null;
  return (
    <details className="overlay" onToggle={({ currentTarget }) => setOpen(currentTarget.open)}>
      <summary>Compare with another run</summary>
      <Select
        size="small"
        aria-label="Run to compare with"
        placeholder="Choose a run"
        style={{ minWidth: 280 }}
        value={other}
        loading={open && !runs}
        options={(runs ?? [])
          .filter(({ id }) => id !== testRun.id)
          .map(({ id, name, jobId, startedMs, kind }) => ({
            value: id,
            label: `${name}, ${new Date(startedMs).toISOString().slice(0, 10)}${jobId === testRun.jobId ? "" : `, another job: ${kind}`}`,
          }))}
        notFoundContent={say("testRun.noOtherRun")}
        onChange={setOther}
      />
      {fault && <p className="problem">{fault.message}</p>}
      {chosen && !theirs && !fault && <p className="note">{say("interface.loading")}</p>}
      {compared && <Picture compared={compared} names={names} notation={job.notation} />}
    </details>
  );
}

const [WIDTH, HEIGHT, LEFT, BOTTOM, TOP] = [660, 164, 44, 22, 22];

function Picture({
  compared,
  names,
  notation,
}: {
  compared: RunsCompared;
  names: { a: string; b: string };
  notation: UnitPreferences;
}) {
  const { a, b, stepS, commonH, figures, words } = compared;
  return (
    <>
      <p className="overlay-key">
        <span className="line-a" /> {names.a} <span className="line-b" /> {names.b}
        <span className="note"> hours from switching on</span>
      </p>
      <Lines title="Battery current, A" a={a} b={b} line="amps" stepS={stepS} scale={1} />
      <Lines title="State of charge, %" a={a} b={b} line="share" stepS={stepS} scale={100} />
      <ul className="rows">
        {words.map((one) => (
          <li key={one}>{one}</li>
        ))}
      </ul>
      <table className="values">
        <thead>
          <tr>
            <th>Over the {significant(commonH, 2)} h that both have</th>
            <th className="right">{names.a}</th>
            <th className="right">{names.b}</th>
          </tr>
        </thead>
        <tbody>
          {figures.map((one) => (
            <tr key={one.key}>
              <td style={{ textAlign: "left" }}>{LABELS[one.key]}</td>
              <td className="mono">{shown(one, one.a, notation)}</td>
              <td className="mono">{shown(one, one.b, notation)}</td>
            </tr>
          ))}
        </tbody>
      </table>
    </>
  );
}

const LABELS: Record<RunFigure["key"], string> = {
  amps: "Battery current, mean",
  running: "Battery power, compressor on",
  duty: "Duty cycle",
  share: "State of charge used",
  pullDown: "Pull-down",
  cabin: "Cabin, mean",
  outdoor: "Outdoors, mean",
};

function shown({ key }: RunFigure, value: number | null, notation: UnitPreferences): string {
  if (value === null) return "not read";
  switch (key) {
    case "amps":
      return formatQuantity(value, "current", notation, 3);
    case "running":
      return formatQuantity(value, "power", notation, 3);
    case "duty":
    case "share":
      return formatQuantity(value, "ratio", notation, 2);
    case "pullDown":
      return formatQuantity(value, "duration", notation, 2);
    default:
      return formatQuantity(value, "temperature", notation, 3);
  }
}

interface LinesProps {
  title: string;
  a: RunLines;
  b: RunLines;
  line: "amps" | "share";
  stepS: number;
  scale: number;
}

/** One quantity of both runs over the hours from switching on. */
function Lines({ title, a, b, line, stepS, scale }: LinesProps) {
  const both = [a[line], b[line]];
  const values = both.flatMap((one) => [...one].filter((value) => !Number.isNaN(value)));
  if (values.length === 0) return null;
  // Outward to whole steps, so that the middle line has a whole number too.
  const step = line === "share" ? 50 : 20;
  const low = Math.floor((Math.min(0, ...values) * scale) / step) * step;
  const high = Math.max(low + step, Math.ceil((Math.max(...values) * scale) / step) * step);
  const count = both[0]!.length;
  const x = (i: number) => LEFT + (i / Math.max(1, count - 1)) * (WIDTH - LEFT - 8);
  const y = (value: number) => TOP + ((high - value) / Math.max(1e-9, high - low)) * (HEIGHT - TOP - BOTTOM);
  const path = (one: Float64Array) =>
    [...one]
      .map((value, i) =>
        Number.isNaN(value)
          ? ""
          : `${i === 0 || Number.isNaN(one[i - 1]!) ? "M" : "L"}${x(i).toFixed(1)},${y(value * scale).toFixed(1)}`,
      )
      .join("");
  const hours = (count * stepS) / 3600;
  const every = hours > 12 ? 4 : hours > 5 ? 2 : 1;
  const ticks = Array.from({ length: Math.floor(hours / every) + 1 }, (_, i) => i * every);
  return (
    <svg viewBox={`0 0 ${WIDTH} ${HEIGHT}`} role="img" aria-label={title} className="overlay-lines">
      <text x={LEFT} y={13} fontSize="12" fill="var(--ink)">
        {title}
      </text>
      {[high, (high + low) / 2, low].map((level) => (
        <g key={level}>
          <line x1={LEFT} x2={WIDTH - 8} y1={y(level)} y2={y(level)} stroke="var(--rule)" />
          <text
            x={LEFT - 6}
            y={y(level) + 4}
            fontSize="11"
            textAnchor="end"
            fontFamily="var(--mono)"
            fill="var(--faded)"
          >
            {Math.round(level)}
          </text>
        </g>
      ))}
      {ticks.map((hour) => (
        <text
          key={hour}
          x={x((hour * 3600) / stepS)}
          y={HEIGHT - 6}
          fontSize="11"
          textAnchor="middle"
          fontFamily="var(--mono)"
          fill="var(--faded)"
        >
          {hour}
        </text>
      ))}
      <path d={path(both[0]!)} fill="none" stroke="var(--ink)" strokeWidth="1.6" />
      <path d={path(both[1]!)} fill="none" stroke="var(--heat)" strokeWidth="1.6" strokeDasharray="5 3" />
    </svg>
  );
}
