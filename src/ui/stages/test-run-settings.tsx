"use client";

import { Button, Input, Select } from "antd";
import { useState } from "react";
import {
  noteOfSetting,
  settingOf,
  type RunSetting,
  type SaidMode,
} from "@/core/applications/test-run/log/settings-said";
import type { Reading } from "@/core/applications/test-run/log/readings";
import type { TestRunView } from "@/core/applications/test-run/report/view";
import { say } from "@/core/messages/say";
import { formatQuantity } from "@/core/units/format";
import { parseQuantity } from "@/core/units/parse";
import type { UnitPreferences } from "@/core/units/dimension";
import { v4 as uuid } from "uuid";
import { post } from "../state/outbox";
import { Group } from "./parts";
import { setInWords } from "./test-run-words";

const MODES: { value: SaidMode; label: string }[] = [
  { value: "auto", label: "auto" },
  { value: "medium", label: "medium fan" },
  { value: "low", label: "low fan" },
  { value: "fan", label: "fan only" },
  { value: "off", label: "off" },
];

interface Props {
  testRunId: string;
  view: TestRunView;
  notation: UnitPreferences;
  finished: boolean;
  /** Moments of notes that are not taken for settings. */
  leftOut: readonly number[];
  clock(second: number): string;
  /** The moment that a setting made now is of, Unix ms. */
  now(): number;
  onSet(reading: Reading): void;
  onLeftOut(moments: number[]): void;
}

/** How the air conditioner is set, what the notes of the log say of it, and a setting made now. */
export function SettingsPanel(props: Props) {
  const { testRunId, view, notation, finished, leftOut, clock, now, onSet, onLeftOut } = props;
  const [degrees, setDegrees] = useState("");
  const [mode, setMode] = useState<SaidMode | null>(null);
  const [fault, setFault] = useState("");
  const shown = (value: number) => formatQuantity(value, "temperature", notation, 3);
  const at = (ms: number) => clock((ms - view.startMs) / 1000);
  const save = async () => {
    const read = degrees.trim() === "" ? null : parseQuantity(degrees, "temperature", notation);
    if (read && !read.ok) return setFault(read.message);
    const note = noteOfSetting(read ? read.value : null, mode, notation.temperature);
    if (note === "") return setFault(say("testRun.nothingSet"));
    if (settingOf(note).unclear) return setFault(say("testRun.setPointOutside", { text: degrees.trim() }));
    const timeMs = now();
    await post(testRunId, { id: uuid(), timeMs, values: {}, note });
    setDegrees("");
    setMode(null);
    setFault("");
    onSet({ timeMs, values: {}, note });
  };
  const words = ({ setC, mode: set }: RunSetting) =>
    [setC === null ? "" : shown(setC), set === null ? "" : (MODES.find(({ value }) => value === set)?.label ?? set)]
      .filter(Boolean)
      .join(", ");
  return (
    <Group title="Settings" note={`now ${setInWords(view.setNow, shown)}`}>
      {!finished && (
        <div className="set-now">
          <Input
            size="small"
            aria-label="Set point"
            placeholder={shown(view.setNow.setC)}
            value={degrees}
            status={fault ? "error" : ""}
            onChange={({ target }) => (setDegrees(target.value), setFault(""))}
            onPressEnter={() => void save()}
          />
          <Select<SaidMode | null>
            size="small"
            aria-label="Mode"
            placeholder="mode"
            allowClear
            value={mode}
            options={MODES}
            onChange={(value) => setMode(value ?? null)}
          />
          <Button size="small" disabled={degrees.trim() === "" && mode === null} onClick={() => void save()}>
            Set from now
          </Button>
        </div>
      )}
      {fault && (
        <p className="problem note" role="alert">
          {fault}
        </p>
      )}
      <ul className="settings-said">
        {view.said.map((one) => (
          <li key={`${one.timeMs} ${one.text}`}>
            <span className="mono">{at(one.timeMs)}</span> {words(one)}{" "}
            <span className="note">“{one.text.slice(0, 60)}”</span>
            <Button
              size="small"
              type="text"
              aria-label={`Leave out the setting of ${at(one.timeMs)}`}
              onClick={() => onLeftOut([...leftOut, one.timeMs])}
            >
              leave out
            </Button>
          </li>
        ))}
        {view.leftOut.map(({ timeMs, text }) => (
          <li key={`${timeMs} ${text}`} className="struck">
            <span className="mono">{at(timeMs)}</span> <span className="note">“{text.slice(0, 60)}”</span>
            <Button size="small" type="text" onClick={() => onLeftOut(leftOut.filter((moment) => moment !== timeMs))}>
              take it again
            </Button>
          </li>
        ))}
      </ul>
      {view.unclear.map(({ timeMs, text }) => (
        <p className="note heat" key={`${timeMs} ${text}`}>
          {say("testRun.noteNotUnderstood", { at: at(timeMs), text: text.slice(0, 60) })}
        </p>
      ))}
    </Group>
  );
}
