"use client";

import { App, Button, Input, Modal, Table } from "antd";
import { useState } from "react";
import { formatQuantity } from "@/core/units/format";
import { parseTyped } from "@/core/applications/test-run/log/typed";
import type { Reading } from "@/core/applications/test-run/log/readings";
import { offsetAt } from "@/core/units/clock";
import { useReading } from "../state/sheet-context";
import { post } from "../state/outbox";
import { useOutbox } from "../state/use-outbox";
import { changeReading, dropImport, fetchHistory, fetchReadings } from "../state/test-run-calls";
import {
  type ListedTestRun,
  type ReadingVersion,
  type Source,
  type StoredReading,
  type TestRunDetail,
} from "@/contract/test-runs";
import { RefusedReadings } from "./test-run-aside";
import { moment } from "../words";
import { momentOfRun } from "./test-run-moment";
import { wordsOf } from "./test-run-words";
import { say } from "@/core/messages/say";
import { v4 as uuid } from "uuid";
import { useServerData } from "../state/server-data";

interface EntryProps {
  testRun: ListedTestRun;
  /** The instrument that runs on it, and the time of its last reading, Unix ms. */
  running: Source | null;
  lastMs: number;
  zone: string;
  onSent(list: Reading[]): void;
}

/** One line to type a reading into: the time stamps itself. */
export function ReadingEntry({ testRun, running, lastMs, zone, onSent }: EntryProps) {
  const { id: testRunId, startedMs } = testRun;
  const { job } = useReading();
  const [text, setText] = useState("");
  const [fault, setFault] = useState("");
  const outbox = useOutbox(testRunId, 15_000);
  const { left } = outbox;
  const fahrenheit = job.notation.temperature === "F";
  const at = () => ({ nowMs: Math.max(momentOfRun(running, lastMs), lastMs), timeZone: zone });
  const understood = text.trim() ? parseTyped(text, fahrenheit, at()) : null;
  const send = async () => {
    const typed = parseTyped(text, fahrenheit, at());
    if (!typed.ok) return setFault(typed.message);
    const reading = {
      id: uuid(),
      timeMs: typed.timeMs ?? momentOfRun(running, lastMs),
      values: typed.values,
      ...(typed.note ? { note: typed.note } : {}),
    };
    await post(testRunId, reading);
    setText("");
    setFault("");
    onSent([{ timeMs: reading.timeMs, values: reading.values, ...(typed.note ? { note: typed.note } : {}) }]);
    await outbox.send();
  };
  return (
    <div className="entry">
      <Input
        aria-label="Next reading"
        placeholder="41.6 26.1 72   amps out, volts, %"
        value={text}
        status={fault ? "error" : ""}
        onChange={(event) => {
          setText(event.target.value);
          setFault("");
        }}
        onPressEnter={() => void send()}
        suffix={
          <Button size="small" type="primary" disabled={!text.trim()} onClick={() => void send()}>
            Save reading
          </Button>
        }
      />
      <p className={fault ? "note heat" : "note"} role={fault ? "alert" : undefined}>
        {fault ||
          (understood?.ok
            ? [
                understood.timeMs === null ? "" : `${localTime(understood.timeMs, zone)}:`,
                wordsOf(understood.values, (v) => formatQuantity(v, "temperature", job.notation, 3)),
              ]
                .filter(Boolean)
                .join(" ")
            : say("interface.typedAlso"))}
        {left > 0 ? ` · ${left} waiting to be sent` : ""}
      </p>
      <RefusedReadings outbox={outbox} job={job} startMs={startedMs} zone={zone} />
    </div>
  );
}

/** Date and local time of a moment: "2026-07-01 21:05:00". */
const localTime = (ms: number, zone: string) =>
  new Date(ms + offsetAt(zone, ms) * 1000).toISOString().slice(0, 19).replace("T", " ");

interface ListProps {
  testRun: ListedTestRun;
  zone: string;
  version: number;
  imports: TestRunDetail["imports"];
  onChange(): void;
}

/** The last readings, to correct, delete and look into; and the files that were imported. */
export function ReadingList({ testRun, zone, version, imports, onChange }: ListProps) {
  const { job } = useReading();
  const { message, modal } = App.useApp();
  const [shown, setShown] = useState(false);
  const {
    data: rows = [],
    fault,
    mutate,
  } = useServerData<StoredReading[]>(shown ? ["readings", testRun.id, version] : null, () =>
    fetchReadings(testRun.id, 100, true),
  );
  const [editing, setEditing] = useState<StoredReading | null>(null);
  const [history, setHistory] = useState<{ of: StoredReading; versions: ReadingVersion[] } | null>(null);
  const degrees = (v: number) => formatQuantity(v, "temperature", job.notation, 3);
  const clock = (ms: number) => new Date(ms + offsetAt(zone, ms) * 1000).toISOString().slice(11, 19);
  const act = async (reading: StoredReading, change: "delete" | "restore") => {
    try {
      await changeReading(testRun.id, reading, change);
    } catch (error) {
      void message.error((error as Error).message);
    }
    void mutate();
    onChange();
  };
  return (
    <>
      {fault && <p className="problem">{fault.message}</p>}
      {imports.map(({ id, fileName, rows: count }) => (
        <p key={id} className="import-line">
          <a href={`/api/test-runs/${testRun.id}/imports/${id}`}>{fileName}</a>{" "}
          <span className="note">{count.toLocaleString("en")} readings</span>{" "}
          <Button
            size="small"
            onClick={() =>
              void modal.confirm({
                title: say("interface.removeTestRun", { fileName }),
                content: say("interface.readingsStoredFileRemoved"),
                okText: "Remove",
                onOk: () => dropImport(testRun.id, id).then(onChange, (error: Error) => message.error(error.message)),
              })
            }
          >
            Remove
          </Button>
        </p>
      ))}
      <details onToggle={(event) => setShown(event.currentTarget.open)}>
        <summary>Latest readings, to correct or delete</summary>
        <Table<StoredReading>
          size="small"
          rowKey="id"
          scroll={{ x: "100%" }}
          dataSource={rows}
          pagination={{ pageSize: 12, hideOnSinglePage: true, showSizeChanger: false }}
          locale={{ emptyText: say("interface.noReadingHandInstrument") }}
          columns={[
            { title: "Time", width: 78, render: (_, { timeMs }) => <span className="mono">{clock(timeMs)}</span> },
            {
              title: "Reading",
              render: (_, reading) => (
                <span className={reading.deleted ? "note struck" : undefined}>
                  {wordsOf(reading.values, degrees)}
                  {reading.note ? <span className="note"> {reading.note}</span> : null}
                  {reading.photoId ? (
                    <>
                      {" "}
                      <a
                        href={`/api/test-runs/${testRun.id}/photos/${reading.photoId}`}
                        target="_blank"
                        rel="noreferrer"
                      >
                        photo
                      </a>
                    </>
                  ) : null}
                </span>
              ),
            },
            {
              title: "",
              width: 116,
              render: (_, reading) => (
                <span className="row-buttons">
                  {reading.deleted ? (
                    <Button size="small" onClick={() => void act(reading, "restore")}>
                      Bring back
                    </Button>
                  ) : (
                    <>
                      <Button size="small" onClick={() => setEditing(reading)}>
                        Correct
                      </Button>
                      <Button
                        size="small"
                        aria-label={`Delete the reading of ${clock(reading.timeMs)}`}
                        onClick={() => void act(reading, "delete")}
                      >
                        ×
                      </Button>
                    </>
                  )}
                  {reading.version > 1 && (
                    <button
                      type="button"
                      className="plain note"
                      onClick={() =>
                        void fetchHistory(testRun.id, reading.id).then((versions) =>
                          setHistory({ of: reading, versions }),
                        )
                      }
                    >
                      {reading.version - 1} before
                    </button>
                  )}
                </span>
              ),
            },
          ]}
        />
      </details>
      {editing && (
        <CorrectDialog
          testRunId={testRun.id}
          reading={editing}
          zone={zone}
          close={(changed) => {
            setEditing(null);
            if (changed) {
              void mutate();
              onChange();
            }
          }}
        />
      )}
      <Modal open={history !== null} footer={null} title="Earlier value" onCancel={() => setHistory(null)}>
        <ul className="rows">
          {history?.versions.map((one) => (
            <li key={one.version}>
              <span className="mono">{clock(one.timeMs)}</span> {wordsOf(one.values, degrees)}
              {one.note ? ` - ${one.note}` : ""}{" "}
              <span className="note">
                until {clock(one.changedMs)}
                {one.deleted ? ", deleted" : ""}
              </span>
            </li>
          ))}
        </ul>
      </Modal>
    </>
  );
}

/** A reading as its one line, to be typed over. */
function lineOf({ values, note }: StoredReading): string {
  const { battery_current_a: amps, battery_voltage_v: volts, soc_pct: percent } = values;
  const parts = [
    amps === undefined ? "" : `${amps > 0 ? "+" : ""}${amps > 0 ? amps : -amps} A`,
    volts === undefined ? "" : `${volts} V`,
    percent === undefined ? "" : `${percent} %`,
    values.solar_power_w === undefined ? "" : `${values.solar_power_w} W sun`,
    values.ac_power_w === undefined ? "" : `${values.ac_power_w} W mains`,
    values.cabin_temp_c === undefined ? "" : `${Number(values.cabin_temp_c.toFixed(2))} C in`,
    values.outdoor_temp_c === undefined ? "" : `${Number(values.outdoor_temp_c.toFixed(2))} C out`,
  ].filter(Boolean);
  return `${parts.join(" ")}${note ? ` - ${note}` : ""}`;
}

function CorrectDialog({
  testRunId,
  reading,
  zone,
  close,
}: {
  testRunId: string;
  reading: StoredReading;
  zone: string;
  close(changed: boolean): void;
}) {
  const [text, setText] = useState(lineOf(reading));
  const read = localTime(reading.timeMs, zone);
  const [time, setTime] = useState(read);
  const [fault, setFault] = useState("");
  const save = async () => {
    const nowMs = Math.max(moment(), reading.timeMs);
    const typed = parseTyped(`${time.trim()} ${text}`, false, { nowMs, timeZone: zone });
    if (!typed.ok) return setFault(typed.message);
    if (typed.timeMs === null) return setFault(say("interface.notTimeOfDay", { text: time }));
    try {
      await changeReading(testRunId, reading, {
        id: reading.id,
        // The fraction of its second stays where the time was left as it was.
        timeMs: time.trim() === read ? reading.timeMs : typed.timeMs,
        values: typed.values,
        ...(typed.note ? { note: typed.note } : {}),
      });
      close(true);
    } catch (error) {
      setFault((error as Error).message);
    }
  };
  return (
    <Modal open title="Correct a reading" okText="Correct" onOk={() => void save()} onCancel={() => close(false)}>
      <label className="correct-time">
        <span>Time</span>
        <Input
          aria-label="Time of the reading"
          value={time}
          onChange={(event) => setTime(event.target.value)}
          onPressEnter={() => void save()}
        />
      </label>
      <Input
        aria-label="Reading"
        value={text}
        status={fault ? "error" : ""}
        onChange={(event) => setText(event.target.value)}
        onPressEnter={() => void save()}
      />
      <p className={fault ? "note heat" : "note"}>{fault || say("interface.earlierValueStaysHistory")}</p>
    </Modal>
  );
}
