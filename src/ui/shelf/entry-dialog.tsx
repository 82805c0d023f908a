"use client";

import { Input, Modal, Select, type InputRef } from "antd";
import { useId, useRef, useState } from "react";
import type { UnitPreferences } from "@/core/units/dimension";
import { START_AID_FIELDS } from "@/core/document/fields";
import type { FieldSpec } from "@/core/units/known";
import { readEntry, shelfKind, type ShelfEntry } from "@/core/applications/parts/shelf";
import { QuantityInput } from "../fields/quantity-input";
import { addPart, savePart } from "./calls";
import { type ShelfPart } from "@/contract/parts";

const WORDS: Record<string, string> = {
  kind: "Kind",
  mains: "Mains system",
  type: "Kind",
  waveform: "Waveform",
  chemistry: "Chemistry",
  insulation: "Insulation, °C",
  fuseKind: "Kind",
  role: "Used as",
};

interface Props {
  /** With an empty id a new one. */
  part: ShelfPart;
  notation: UnitPreferences;
  close(): void;
  saved(part: ShelfPart, isNew: boolean): void;
}

/** One part of the shelf, new or changed. */
export function EntryDialog({ part, notation, close, saved }: Props) {
  const [entry, setEntry] = useState<ShelfEntry>(part.entry);
  const [fault, setFault] = useState("");
  const [saving, setSaving] = useState(false);
  const first = useRef<InputRef>(null);
  const { title, fields, choices } = shelfKind(entry.kind);
  const isNew = part.id === "";
  const set = (change: Partial<ShelfEntry>) => setEntry((before) => ({ ...before, ...change }));
  const setValue = (key: string, value: number | undefined) =>
    setEntry((before) => {
      const values = { ...before.values };
      if (value === undefined) delete values[key];
      else values[key] = value;
      return { ...before, values };
    });
  const save = async () => {
    const read = readEntry(entry);
    if (!read.ok) return setFault(read.faults[0]!.message);
    setSaving(true);
    try {
      const done = isNew ? await addPart(read.entry) : await savePart({ ...part, entry: read.entry });
      const revision = "revision" in done ? (done.revision as number) : 1;
      saved({ id: part.id || (done as { id: string }).id, revision, entry: read.entry }, isNew);
    } catch (error) {
      setFault((error as Error).message);
      setSaving(false);
    }
  };
  return (
    <Modal
      open
      title={isNew ? `New on the shelf: ${title.toLowerCase()}` : part.entry.name}
      okText={isNew ? "Put it on the shelf" : "Save"}
      confirmLoading={saving}
      onOk={() => void save()}
      onCancel={close}
      afterOpenChange={(open) => open && isNew && first.current?.focus()}
      width={500}
      destroyOnHidden
    >
      <div className="text-line">
        <label htmlFor="entry-name">Name</label>
        <Input
          id="entry-name"
          ref={first}
          value={entry.name}
          maxLength={80}
          onChange={(event) => {
            setFault("");
            set({ name: event.target.value });
          }}
        />
      </div>
      {Object.entries(choices).map(([key, words]) => (
        <div key={key} className="line choice">
          <div className="line-row">
            <span>{WORDS[key] ?? key}</span>
            <Select
              size="small"
              aria-label={WORDS[key] ?? key}
              value={entry.choices[key]}
              options={words.map((word) => ({ value: word, label: word }))}
              onChange={(word) => set({ choices: { ...entry.choices, [key]: word } })}
            />
          </div>
        </div>
      ))}
      {Object.entries(fields).map(([key, spec]) => (
        <EntryLine
          key={key}
          spec={spec}
          value={entry.values[key]}
          notation={notation}
          onValue={(value) => setValue(key, value)}
        />
      ))}
      <EntryLine
        spec={START_AID_FIELDS.cost}
        value={entry.cost}
        notation={notation}
        onValue={(cost) => set({ cost })}
      />
      <EntryLine
        spec={START_AID_FIELDS.mass}
        value={entry.mass}
        notation={notation}
        onValue={(mass) => set({ mass })}
      />
      <div className="text-line">
        <label htmlFor="entry-note">Note</label>
        <Input.TextArea
          id="entry-note"
          rows={2}
          value={entry.note}
          maxLength={400}
          onChange={(event) => set({ note: event.target.value })}
        />
      </div>
      {fault && (
        <p className="problem" role="alert">
          {fault}
        </p>
      )}
    </Modal>
  );
}

interface LineProps {
  spec: FieldSpec;
  value: number | undefined;
  notation: UnitPreferences;
  onValue(value: number | undefined): void;
}

function EntryLine({ spec, value, notation, onValue }: LineProps) {
  const id = useId();
  const [problem, setProblem] = useState("");
  return (
    <div className={`line${problem ? " wrong" : ""}`}>
      <div className="line-row">
        <label htmlFor={id}>{spec.label}</label>
        <QuantityInput
          id={id}
          spec={spec}
          value={value}
          notation={notation}
          digits={4}
          placeholder="not known"
          onValue={onValue}
          onProblem={setProblem}
          onClear={() => onValue(undefined)}
          onMeasured={() => {}}
          onFocus={() => {}}
          onDone={() => {}}
        />
        <span />
      </div>
      {problem && (
        <div className="line-note problem" role="alert">
          {problem}
        </div>
      )}
    </div>
  );
}
