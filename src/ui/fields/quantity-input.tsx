"use client";

import { useRef, useState, type KeyboardEvent } from "react";
import { editableQuantity, formatQuantity } from "@/core/quantity/format";
import { parseQuantity } from "@/core/quantity/parse";
import type { UnitPreferences } from "@/core/quantity/dimension";
import { quantitySchema, type FieldSpec } from "@/core/rig/quantity";

interface Props {
  id: string;
  spec: FieldSpec;
  /** Undefined where there is neither an entry nor a typical value. */
  value: number | undefined;
  notation: UnitPreferences;
  /** Significant figures shown while it is only read. */
  digits: number;
  describedBy?: string;
  placeholder?: string;
  /** Called at each keystroke that leaves a valid quantity; not where the text says the same as the value. */
  onValue(value: number): void;
  onProblem(message: string): void;
  onClear(): void;
  onMeasured(): void;
  onFocus(): void;
  onDone(): void;
}

/**
 * One typed quantity. On focus it is read and can be acted on by a key (`m` measured, Delete back to typical); a digit,
 * Enter or a click opens it for typing. Text that is not understood leaves the value as it was.
 */
export function QuantityInput(props: Props) {
  const { spec, value, notation } = props;
  const [text, setText] = useState<string | null>(null);
  const [before, setBefore] = useState<number | undefined>();
  const input = useRef<HTMLInputElement>(null);
  const shown = value === undefined ? "" : formatQuantity(value, spec.dimension, notation, props.digits);

  const open = (start?: string) => {
    if (text !== null) return;
    setBefore(value);
    const content = start ?? (value === undefined ? "" : editableQuantity(value, spec.dimension, notation));
    setText(content);
    if (start !== undefined) take(start);
    else requestAnimationFrame(() => input.current?.select());
  };

  const take = (typed: string) => {
    setText(typed);
    if (typed.trim() === "") return props.onProblem("");
    const read = parseQuantity(typed, spec.dimension, notation);
    if (!read.ok) return props.onProblem(read.message);
    const fits = quantitySchema(spec).shape.value.safeParse(read.value);
    if (!fits.success) {
      const range = `${formatQuantity(spec.min, spec.dimension, notation)} to ${formatQuantity(spec.max, spec.dimension, notation)}`;
      return props.onProblem(`${spec.label} takes ${spec.dimension === "count" ? "a whole number, " : ""}${range}.`);
    }
    props.onProblem("");
    props.onValue(read.value);
  };

  const close = () => {
    if (text === null) return;
    if (text.trim() === "" && before !== undefined) props.onClear();
    setText(null);
    props.onProblem("");
    props.onDone();
  };

  const onKeyDown = (event: KeyboardEvent<HTMLInputElement>) => {
    const reading = text === null;
    if (event.key === "Enter") {
      event.preventDefault();
      if (reading) open();
      else close();
    } else if (event.key === "Escape" && !reading) {
      event.preventDefault();
      event.stopPropagation();
      setText(null);
      props.onProblem("");
      if (before === undefined) props.onClear();
      else if (before !== value) props.onValue(before);
      props.onDone();
    } else if (reading && event.key === "m" && !event.ctrlKey && !event.metaKey) {
      event.preventDefault();
      props.onMeasured();
    } else if (reading && (event.key === "Delete" || event.key === "Backspace")) {
      event.preventDefault();
      props.onClear();
    } else if (reading && /^[\d.,#-]$/.test(event.key) && !event.ctrlKey && !event.metaKey && !event.altKey) {
      event.preventDefault();
      open(event.key);
    }
  };

  return (
    <input
      ref={input}
      id={props.id}
      className="quantity"
      autoComplete="off"
      autoCapitalize="off"
      spellCheck={false}
      enterKeyHint="done"
      readOnly={text === null}
      value={text ?? shown}
      placeholder={props.placeholder}
      aria-describedby={props.describedBy}
      onMouseDown={(event) => {
        if (event.button === 0) open();
      }}
      onChange={(event) => take(event.target.value)}
      onKeyDown={onKeyDown}
      onFocus={props.onFocus}
      onBlur={close}
    />
  );
}
