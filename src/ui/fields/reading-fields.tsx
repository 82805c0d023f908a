"use client";

import { Button, Input } from "antd";
import { useId, useState } from "react";
import { readingSpec, type ReadingKey } from "@/core/applications/fault-finding/readings";
import { readingLabel } from "@/core/applications/fault-finding/words";
import { formatQuantity } from "@/core/units/format";
import { useReading } from "../state/sheet-context";
import { parseQuantity } from "@/core/units/parse";
import type { UnitPreferences } from "@/core/units/dimension";

interface Props {
  reading: ReadingKey;
  notation: UnitPreferences;
  onTaken(fields: number[]): void;
  action?: string;
}

/** What a reading asks for: its quantities, typed as people write them, or yes and no. */
export function ReadingFields({ reading, notation, onTaken, action = "Save reading" }: Props) {
  const { job } = useReading();
  const { fields } = readingSpec(reading);
  const [texts, setTexts] = useState<string[]>(() => fields.map(() => ""));
  const [problem, setProblem] = useState<{ at: number; message: string } | null>(null);
  const base = useId();
  if (fields.length === 0)
    return (
      <div className="reading-fields" role="group" aria-label={readingLabel(reading, job)}>
        <Button onClick={() => onTaken([1])}>Yes</Button>
        <Button onClick={() => onTaken([0])}>No</Button>
      </div>
    );
  const note = () => {
    const values: number[] = [];
    for (const [at, { dimension }] of fields.entries()) {
      const parsed = parseQuantity(texts[at]!, dimension, notation);
      if (!parsed.ok) return setProblem({ at, message: parsed.message });
      values.push(parsed.value);
    }
    setProblem(null);
    onTaken(values);
  };
  return (
    <form
      className="reading-fields"
      onSubmit={(event) => {
        event.preventDefault();
        note();
      }}
    >
      {fields.map(({ key, label: name, dimension }, at) => {
        const parsed = texts[at] ? parseQuantity(texts[at], dimension, notation) : null;
        return (
          <label key={key} htmlFor={`${base}-${key}`}>
            <span>{name}</span>
            <Input
              id={`${base}-${key}`}
              value={texts[at]}
              inputMode="decimal"
              status={problem?.at === at ? "error" : ""}
              style={{ width: 120 }}
              autoComplete="off"
              onChange={({ target }) => {
                setTexts(texts.map((text, i) => (i === at ? target.value : text)));
                setProblem(null);
              }}
            />
            <span className="note mono">{parsed?.ok ? formatQuantity(parsed.value, dimension, notation) : ""}</span>
          </label>
        );
      })}
      {problem && (
        <p role="alert" className="heat note">
          {fields[problem.at]!.label}: {problem.message}
        </p>
      )}
      <Button htmlType="submit" type="primary" disabled={texts.some((text) => text.trim() === "")}>
        {action}
      </Button>
    </form>
  );
}
