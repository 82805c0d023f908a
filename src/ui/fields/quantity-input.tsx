"use client";

import { useRef, useState, type KeyboardEvent } from "react";
import { editableQuantity, formatQuantity } from "@/core/units/format";
import { parseQuantity } from "@/core/units/parse";
import { parseSpan } from "@/core/document/schedule";
import { bareUnit, type UnitPreferences } from "@/core/units/dimension";
import { quantitySchema, type FieldSpec } from "@/core/units/known";
import { say } from "@/core/messages/say";

/** Typing that pauses this long is done for now. */
const COMPLAIN_AFTER_MS = 450;

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
  /** Called at each keystroke that leaves a valid quantity, with the unit where one was typed. */
  onValue(value: number, unit?: string): void;
  onProblem(message: string): void;
  onClear(): void;
  onMeasured(): void;
  /** Takes "2 x 100 Ah", where a number of pieces stands beside the value of each. */
  onSeveral?: (many: { count: number; value: number }) => void;
  /** Takes "20:00-07:00", where a span of the day is meant. */
  onSpan?: (fromMinutes: number, minutes: number) => void;
  onFocus(): void;
  onDone(): void;
}

/** Times from which a bare number is hours: a field whose usual values run from half an hour up. */
const HOURS_FROM_S = 1800;

/** The unit of a bare number: of a field of hours it is hours. */
const bareUnitOf = (spec: FieldSpec, notation: UnitPreferences): string =>
  spec.dimension === "duration" && spec.low >= HOURS_FROM_S ? "h" : bareUnit(spec.dimension, notation);

/**
 * One typed quantity. On focus it is read and can be acted on by a key (`m` measured, Delete back to typical); a digit,
 * Enter or a click opens it for typing. Text that is not understood leaves the value as it was.
 */
export function QuantityInput(props: Props) {
  const { spec, value, notation } = props;
  const [text, setText] = useState<string | null>(null);
  const [before, setBefore] = useState<number | undefined>();
  const input = useRef<HTMLInputElement>(null);
  const fault = useRef("");
  const waiting = useRef<ReturnType<typeof setTimeout>>(undefined);
  const shown = value === undefined ? "" : formatQuantity(value, spec.dimension, notation, props.digits);

  const open = (start?: string) => {
    if (text !== null) return;
    setBefore(value);
    const content = start ?? (value === undefined ? "" : editableQuantity(value, spec.dimension, notation));
    setText(content);
    if (start !== undefined) take(start);
    else requestAnimationFrame(() => input.current?.select());
  };

  /** Half of "1.6kW" is "1.6k": a complaint waits until the typing pauses. */
  const complain = (message: string, now = false) => {
    clearTimeout(waiting.current);
    fault.current = message;
    if (now || message === "") props.onProblem(message);
    else waiting.current = setTimeout(() => props.onProblem(message), COMPLAIN_AFTER_MS);
  };

  const take = (typed: string) => {
    setText(typed);
    if (typed.trim() === "") return complain("");
    const span = props.onSpan && parseSpan(typed);
    if (span && props.onSpan) {
      complain("");
      return props.onSpan(span.from, span.minutes);
    }
    const many = props.onSeveral ? /^\s*(\d{1,2})\s*[x×*]\s*(\S.*)$/i.exec(typed) : null;
    const read = parseQuantity(many ? many[2]! : typed, spec.dimension, notation, bareUnitOf(spec, notation));
    if (!read.ok) return complain(read.message);
    const fits = quantitySchema(spec).shape.value.safeParse(read.value);
    if (!fits.success) {
      const low = formatQuantity(spec.min, spec.dimension, notation);
      const high = formatQuantity(spec.max, spec.dimension, notation);
      const kind = spec.dimension === "count" ? "count" : "quantity";
      return complain(say("interface.takesRange", { label: spec.label, kind, low, high }));
    }
    complain("");
    if (many && Number(many[1]) > 0) props.onSeveral!({ count: Number(many[1]), value: read.value });
    else props.onValue(read.value, read.unit);
  };

  /** Takes what was typed. What is not understood stays open after Enter; on leaving, the old value comes back with the reason. */
  const close = (leaving: boolean) => {
    if (text === null) return;
    if (fault.current && !leaving) return complain(fault.current, true);
    const slip = fault.current;
    if (slip && before !== undefined) props.onValue(before);
    else if (slip || (text.trim() === "" && before !== undefined)) props.onClear();
    setText(null);
    complain(slip && say("interface.oldValueKept", { slip }), true);
    props.onDone();
  };

  const onKeyDown = (event: KeyboardEvent<HTMLInputElement>) => {
    const reading = text === null;
    if (event.key === "Enter") {
      event.preventDefault();
      if (reading) open();
      else close(false);
    } else if (event.key === "Escape" && !reading) {
      event.preventDefault();
      event.stopPropagation();
      setText(null);
      complain("");
      if (before === undefined) props.onClear();
      else if (before !== value) props.onValue(before);
      props.onDone();
    } else if (reading && event.key === "m" && !event.ctrlKey && !event.metaKey) {
      event.preventDefault();
      props.onMeasured();
    } else if (reading && (event.key === "ArrowDown" || event.key === "ArrowUp")) {
      event.preventDefault();
      const all = [...document.querySelectorAll<HTMLInputElement>("input.quantity")];
      all[all.indexOf(event.currentTarget) + (event.key === "ArrowDown" ? 1 : -1)]?.focus();
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
      onFocus={() => {
        complain("");
        props.onFocus();
      }}
      onBlur={() => close(true)}
    />
  );
}
