"use client";

import { Modal } from "antd";
import { useEffect, useState } from "react";
import type { Found } from "@/core/applications/test-run/inference/calibrate";
import type { Applied } from "@/core/applications/test-run/report/applied";
import { say } from "@/core/messages/say";
import { formatQuantity, significant } from "@/core/units/format";
import type { UnitPreferences } from "@/core/units/dimension";

interface Props {
  taken: readonly Found[];
  notation: UnitPreferences;
  /** Asks the worker what the job would be with these findings in it. */
  ask(taken: readonly Found[]): Promise<Applied | null>;
  onApply(applied: Applied): void;
  onClose(): void;
}

/** What findings would make of the job, before they are applied: its log replayed, the verdicts, and the run's own forecast. */
export function ApplyDialog({ taken, notation, ask, onApply, onClose }: Props) {
  const [applied, setApplied] = useState<Applied | null>(null);
  const [fault, setFault] = useState("");
  useEffect(() => {
    let open = true;
    ask(taken).then(
      (found) => {
        if (!open) return;
        if (found) setApplied(found);
        else setFault(say("testRun.applyNotReady"));
      },
      (error: Error) => open && setFault(error.message),
    );
    return () => {
      open = false;
    };
  }, [ask, taken]);
  return (
    <Modal
      open
      width={680}
      title={taken.length === 1 ? `Apply ${taken[0]!.label} to the job` : `Apply ${taken.length} findings to the job`}
      okText="Apply to the job"
      okButtonProps={{ disabled: !applied }}
      onOk={() => applied && onApply(applied)}
      onCancel={onClose}
      destroyOnHidden
    >
      {fault && (
        <p className="problem" role="alert">
          {fault}
        </p>
      )}
      {!applied && !fault && <p className="note">{say("testRun.applyAsked")}</p>}
      {applied && <Comparison applied={applied} notation={notation} />}
    </Modal>
  );
}

const hoursWords = (hours: number | null) => (hours === null ? "over 48 h" : `${significant(hours, 2)} h`);

function Comparison({ applied, notation }: { applied: Applied; notation: UnitPreferences }) {
  const { before, after, forecast, passed, unexplained, whyOutside } = applied;
  const watts = (value: number) => formatQuantity(value, "power", notation, 3);
  const charge = (value: number) => formatQuantity(value, "charge", notation, 3);
  const kelvins = (value: number | null) =>
    value === null
      ? "not read"
      : `${value > 0 ? "+" : "−"}${significant(Math.abs(notation.temperature === "F" ? (value * 9) / 5 : value), 2)} °${notation.temperature}`;
  const range = `${hoursWords(forecast.p10)} to ${hoursWords(forecast.p90)}`;
  const rows: [string, string, string, string][] = [
    ["Mean draw over the log", watts(before.replayedW), watts(after.replayedW), `${watts(after.readW)} read`],
    ["Charge taken", charge(before.replayedAh), charge(after.replayedAh), `${charge(after.readAh)} counted`],
    ["Cabin, against what was read", kelvins(before.cabinOffK), kelvins(after.cabinOffK), ""],
    [
      "Reserve after, from this run’s start",
      hoursWords(before.hoursToReserve),
      hoursWords(after.hoursToReserve),
      passed ? `${hoursWords(forecast.p50)} reached` : `${range} forecast`,
    ],
    ...(
      [
        ["starts", "Starts"],
        ["carries", "Carries"],
        ["lasts", "Lasts, on the design day"],
      ] as const
    ).map(([key, name]): [string, string, string, string] => {
      const [was, becomes] = [before.verdicts[key], after.verdicts[key]];
      return [name, was.word, becomes.word, becomes.word === was.word ? "" : `by ${becomes.by}`];
    }),
  ];
  return (
    <>
      <table className="values apply-table">
        <thead>
          <tr>
            <th>The log replayed with the job</th>
            <th className="right">as it is</th>
            <th className="right">with the findings</th>
            <th className="right">this run</th>
          </tr>
        </thead>
        <tbody>
          {rows.map(([name, was, becomes, run]) => (
            <tr key={name}>
              <td style={{ textAlign: "left" }}>{name}</td>
              <td className="mono">{was}</td>
              <td className="mono">{becomes}</td>
              <td className="mono">{run}</td>
            </tr>
          ))}
        </tbody>
      </table>
      {unexplained && (
        <p className="problem" role="alert" data-unexplained>
          {unexplained.words}
        </p>
      )}
      {whyOutside && <p className="note">{whyOutside}</p>}
    </>
  );
}
