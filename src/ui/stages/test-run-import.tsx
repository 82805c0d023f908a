"use client";

import { Button, Input, Modal, Progress, Select } from "antd";
import { useEffect, useRef, useState } from "react";
import { offsetAt } from "@/core/units/clock";
import { formatQuantity } from "@/core/units/format";
import { isElapsed, type Mapping, type Meaning, type TimeKind } from "@/core/applications/test-run/log/recognise";
import type { Imported, Preview } from "@/workers/test-run.worker";
import { useReading } from "../state/sheet-context";
import { askImport, askPreview } from "../state/test-run";
import { keepMapping, keptMapping } from "../state/test-run-calls";
import { wordsOf } from "./test-run-words";
import { say } from "@/core/messages/say";

const MEANINGS: { value: Meaning; label: string }[] = [
  { value: "none", label: "leave out" },
  { value: "time", label: "time" },
  { value: "date", label: "date, beside the time" },
  { value: "battery_current_a", label: "battery current" },
  { value: "battery_power_w", label: "battery power" },
  { value: "battery_voltage_v", label: "battery voltage" },
  { value: "soc_pct", label: "state of charge" },
  { value: "solar_power_w", label: "solar power" },
  { value: "solar_current_a", label: "solar current" },
  { value: "ac_power_w", label: "mains power" },
  { value: "cabin_temp_c", label: "cabin temperature" },
  { value: "outdoor_temp_c", label: "outdoor temperature" },
  { value: "note", label: "note" },
];
const TIMES: { value: TimeKind; label: string }[] = [
  { value: "iso", label: "2026-08-14 13:05, with its zone" },
  { value: "local", label: "2026-08-14 13:05, local" },
  { value: "day-first", label: "14/8/2026 13:05" },
  { value: "month-first", label: "8/14/2026 1:05 pm" },
  { value: "unix-s", label: "seconds since 1970" },
  { value: "unix-ms", label: "milliseconds since 1970" },
  { value: "elapsed-s", label: "seconds from the start" },
  { value: "elapsed-min", label: "minutes from the start" },
  { value: "elapsed-clock", label: "h:mm:ss from the start" },
];
const SIGN_FROM: Record<string, string> = {
  format: "the format",
  charge: "the charge that falls with it",
  volts: "the volts that sink under it",
  mean: "its mean alone: look at the first readings",
  unsure: "nothing: look at the first readings",
};

interface Props {
  testRunId: string;
  file: File;
  zone: string;
  startedMs: number;
  close(imported: boolean): void;
}

/** A dropped log: what it was understood to be, to be set right before any of it is kept. */
export function ImportLog({ testRunId, file, zone, startedMs, close }: Props) {
  const { job } = useReading();
  const [preview, setPreview] = useState<Preview | null>(null);
  const [mapping, setMapping] = useState<Mapping | null>(null);
  const [known, setKnown] = useState(false);
  const [progress, setProgress] = useState<number | null>(null);
  const [done, setDone] = useState<Imported | null>(null);
  const [fault, setFault] = useState("");
  const stop = useRef<(() => void) | null>(null);
  useEffect(() => {
    let late = false;
    const begin = async () => {
      const first = await askPreview(file, zone);
      if (late) return;
      if (!first.ok || first.kind !== "table") return setPreview(first);
      const kept = await keptMapping(first.headerLine).catch(() => null);
      const usable = kept && kept.columns.length === first.understood!.mapping.columns.length ? kept : null;
      const own = usable ?? first.understood!.mapping;
      setKnown(usable !== null);
      setMapping(isElapsed(own.time) ? { ...own, startMs: own.startMs ?? startedMs } : own);
      setPreview(first);
    };
    begin().catch((error: Error) => !late && setFault(error.message));
    return () => {
      late = true;
    };
  }, [file, zone, startedMs]);
  const change = (next: Mapping) => {
    setMapping(next);
    askPreview(file, zone, next).then(
      (read) =>
        setPreview((now) =>
          read.ok || !now?.ok
            ? read
            : { ...now, first: [], refused: { count: 0, first: [{ line: 0, message: read.message }] } },
        ),
      (error: Error) => setFault(error.message),
    );
  };
  const begin = async () => {
    if (!preview?.ok) return;
    setFault("");
    setProgress(0);
    const job = askImport(testRunId, file, zone, mapping, (share) => setProgress(share));
    stop.current = job.stop;
    try {
      const imported = await job.answer;
      if (!imported) return close(false);
      if (mapping) await keepMapping(preview.headerLine, mapping).catch(() => null);
      setDone(imported);
    } catch (error) {
      setFault((error as Error).message);
    } finally {
      setProgress(null);
      stop.current = null;
    }
  };
  const degrees = (v: number) => formatQuantity(v, "temperature", job.notation, 3);
  const ready = preview?.ok && preview.first.length > 0;
  return (
    <Modal
      open
      width={780}
      title={`Import ${file.name}`}
      onCancel={() => {
        stop.current?.();
        close(done !== null);
      }}
      footer={
        done ? (
          <Button type="primary" onClick={() => close(true)}>
            Done
          </Button>
        ) : progress !== null ? (
          <Button onClick={() => stop.current?.()}>Stop</Button>
        ) : (
          <>
            <Button onClick={() => close(false)}>Cancel</Button>
            <Button type="primary" disabled={!ready} onClick={() => void begin()}>
              Import
            </Button>
          </>
        )
      }
    >
      {fault && (
        <p className="problem" role="alert">
          {fault}
        </p>
      )}
      {!preview && !fault && <p className="note">Reading the first rows …</p>}
      {preview && !preview.ok && (
        <p className="problem" role="alert">
          {preview.message}
        </p>
      )}
      {done && (
        <p className="sentence">
          {say("interface.readingsImported", {
            rows: done.rows,
            refused: done.refused.count,
            line: done.refused.first[0]?.line ?? 0,
            why: done.refused.first[0]?.message ?? "",
          })}
        </p>
      )}
      {progress !== null && <Progress percent={Math.round(100 * progress)} />}
      {preview?.ok && !done && progress === null && (
        <>
          <p className="note">
            {preview.kind === "signal-k"
              ? say("interface.signalKDeltasBattery")
              : known
                ? say("interface.readKindFileWas")
                : say("interface.howUnderstoodSetRight")}
          </p>
          {preview.understood && mapping && (
            <>
              <ul className="doubts">
                {preview.understood.doubts.map((doubt) => (
                  <li key={doubt}>{doubt}</li>
                ))}
              </ul>
              <div className="import-lines">
                <label>
                  Times are{" "}
                  <Select
                    size="small"
                    value={mapping.time}
                    options={TIMES}
                    style={{ width: 240 }}
                    onChange={(time) =>
                      change({
                        ...mapping,
                        time,
                        startMs: isElapsed(time) ? (mapping.startMs ?? startedMs) : null,
                      })
                    }
                  />
                </label>
                <label>
                  Zone <Input size="small" value={mapping.timeZone} style={{ width: 160 }} readOnly />
                </label>
                <label>
                  Positive amps are{" "}
                  <Select
                    size="small"
                    value={mapping.sign}
                    style={{ width: 130 }}
                    options={[
                      { value: 1, label: "charging" },
                      { value: -1, label: "discharging" },
                    ]}
                    onChange={(sign: 1 | -1) => change({ ...mapping, sign })}
                  />
                </label>
                <span className="note">told by {SIGN_FROM[preview.understood.signFrom]}</span>
              </div>
              <table className="values">
                <thead>
                  <tr>
                    <th>Column</th>
                    <th>Taken as</th>
                    <th className="right">Factor</th>
                  </tr>
                </thead>
                <tbody>
                  {mapping.columns.map((column, i) => (
                    <tr key={i}>
                      <td>{preview.header[i] ?? `column ${i + 1}`}</td>
                      <td>
                        <Select
                          size="small"
                          aria-label={`Column ${preview.header[i] ?? i + 1} is`}
                          value={column.meaning}
                          options={MEANINGS}
                          style={{ width: 200 }}
                          onChange={(meaning: Meaning) =>
                            change({
                              ...mapping,
                              columns: mapping.columns.map((one, k) => (k === i ? { ...one, meaning } : one)),
                            })
                          }
                        />
                      </td>
                      <td className="mono">{column.factor === 1 ? "" : Number(column.factor.toPrecision(4))}</td>
                    </tr>
                  ))}
                </tbody>
              </table>
            </>
          )}
          <h3 className="small-title">The first readings would be, in local time</h3>
          {preview.first.length === 0 ? (
            <p className="problem">None: {preview.refused.first[0]?.message ?? "no row holds a time and a value"}.</p>
          ) : (
            <ul className="rows compact">
              {preview.first.slice(0, 6).map(({ timeMs, values }) => (
                <li key={timeMs}>
                  <span className="mono">
                    {new Date(timeMs + offsetAt(zone, timeMs) * 1000).toISOString().slice(0, 19).replace("T", " ")}
                  </span>{" "}
                  {wordsOf(values, degrees)}
                </li>
              ))}
            </ul>
          )}
        </>
      )}
    </Modal>
  );
}
