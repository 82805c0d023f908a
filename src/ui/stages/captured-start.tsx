"use client";

import { Button, Upload } from "antd";
import { useState } from "react";
import { formatQuantity } from "@/core/units/format";
import type { CaptureReport } from "@/core/applications/start-aids/capture-table";
import { captureOfTable } from "@/core/applications/start-aids/capture-table";
import { useReading, useSheet } from "../state/sheet-context";
import { Group } from "./parts";
import { say } from "@/core/messages/say";
import { fixedSpeed } from "@/core/document/unit-kinds";

const LARGEST_BYTES = 16_000_000;

/** A start caught by a clamp or scope, dropped in as CSV: found, shown, and offered to the job. */
export function CapturedStart() {
  const { job } = useReading();
  const change = useSheet((state) => state.change);
  const fixed = job.units.flatMap((unit, i) => (fixedSpeed(unit) ? [i] : []));
  const [index, setIndex] = useState(fixed[0] ?? 0);
  const [report, setReport] = useState<CaptureReport | null>(null);
  const [fault, setFault] = useState("");
  const [reading, setReading] = useState(false);
  if (fixed.length === 0) return null;
  const at = fixed.includes(index) ? index : fixed[0]!;
  const unit = job.units[at]!;
  const soft = unit.startAid === "soft-starter";
  const load = async (file: File) => {
    setFault("");
    setReport(null);
    if (file.size > LARGEST_BYTES) return setFault(say("interface.tooLarge.capture", { name: file.name }));
    setReading(true);
    try {
      const { readTable } = await import("@/csv/read");
      const table = readTable(await file.text());
      if (!table.ok) return setFault(table.message);
      const found = captureOfTable(table.table, job.brief.mains === "120V60Hz" ? 60 : 50);
      if (!found.read.ok) setFault(found.read.message);
      setReport(found);
    } finally {
      setReading(false);
    }
  };
  const take = (asSoft: boolean) => {
    if (!report?.read.ok) return;
    const { plateauCurrent, startTime, runningCurrent, trace } = report.read.capture;
    change((draft) => {
      const target = draft.units[at]!;
      target.capture = trace;
      target.runningCurrent = { value: runningCurrent, origin: "measured" };
      if (asSoft) {
        target.softRamp = { value: Math.min(10, Math.max(0.1, startTime)), origin: "measured" };
        const locked = target.lockedRotorCurrent?.value;
        if (locked && locked > plateauCurrent)
          target.softReduction = { value: Math.min(0.95, 1 - plateauCurrent / locked), origin: "measured" };
      } else {
        target.lockedRotorCurrent = { value: plateauCurrent, origin: "measured" };
        target.startTime = { value: Math.min(5, Math.max(0.02, startTime)), origin: "measured" };
      }
    });
    setReport(null);
  };
  const shown = (value: number, dimension: "current" | "duration") => formatQuantity(value, dimension, job.notation);
  return (
    <Group title="Captured start" note="CSV: time in s, amps">
      {fixed.length > 1 && (
        <select
          aria-label="Which unit"
          className="plain-select"
          value={at}
          onChange={(event) => setIndex(Number(event.target.value))}
        >
          {fixed.map((i) => (
            <option key={i} value={i}>
              {job.units[i]!.name}
            </option>
          ))}
        </select>
      )}
      <Upload.Dragger
        className="drop"
        accept=".csv,.txt,text/csv,text/plain"
        showUploadList={false}
        disabled={reading}
        beforeUpload={(file) => {
          void load(file);
          return false;
        }}
      >
        {reading ? "Reading …" : "Drop a clamp’s or scope’s CSV here, or choose one"}
      </Upload.Dragger>
      {fault && (
        <p className="problem note" role="alert">
          {fault}
        </p>
      )}
      {report && (
        <p className="note">
          {report.samples} samples from {report.columns}
          {report.skippedCount > 0 &&
            `; ${report.skippedCount} rows skipped (${report.skipped
              .slice(0, 3)
              .map(({ line, why }) => `line ${line}: ${why}`)
              .join(", ")}${report.skippedCount > 3 ? ", …" : ""})`}
          .
        </p>
      )}
      {report?.read.ok && (
        <div className="found-start">
          <p>
            Peak held
            <b className="mono">{shown(report.read.capture.plateauCurrent, "current")}</b>, start time{" "}
            <b className="mono">{shown(report.read.capture.startTime, "duration")}</b>, running{" "}
            <b className="mono">{shown(report.read.capture.runningCurrent, "current")}</b>
            {report.read.capture.wave ? " (RMS of the wave)" : ""}.
          </p>
          {soft && (
            <>
              <Button size="small" type="primary" onClick={() => take(true)}>
                Use as soft start
              </Button>{" "}
            </>
          )}
          <Button size="small" type={soft ? "default" : "primary"} onClick={() => take(false)}>
            {soft ? "Use as bare start" : "Use as measured"}
          </Button>{" "}
          <Button size="small" onClick={() => setReport(null)}>
            Discard
          </Button>
        </div>
      )}
      {unit.capture && !report && (
        <p className="note">
          {say("interface.captureDrawn")}{" "}
          <button
            type="button"
            className="plain link"
            onClick={() => change((draft) => void delete draft.units[at]!.capture)}
          >
            Remove capture
          </button>
        </p>
      )}
    </Group>
  );
}
