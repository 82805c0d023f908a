"use client";

import { Input } from "antd";
import { useState } from "react";
import { parseDate, sayDate } from "@/core/units/dates";
import { say } from "@/core/messages/say";

interface Props {
  id?: string;
  label?: string;
  /** YYYY-MM-DD, or null where none is set. */
  value: string | null;
  onValue(value: string | null): void;
  /** Whether an empty field is allowed. */
  optional?: boolean;
}

/** A date as `15 Jul 2026`, the same in every country; typed so, or as 2026-07-15. */
export function DateInput({ id, label, value, onValue, optional }: Props) {
  const [text, setText] = useState<string | null>(null);
  const [problem, setProblem] = useState("");
  const leave = () => {
    if (text === null) return;
    if (text.trim() === "" && optional) onValue(null);
    else {
      const date = parseDate(text);
      if (!date) return setProblem(say("interface.dateForm"));
      onValue(date);
    }
    setText(null);
    setProblem("");
  };
  return (
    <span className="date-input">
      <Input
        id={id}
        size="small"
        aria-label={label}
        placeholder="15 Jul 2026"
        value={text ?? (value ? sayDate(value) : "")}
        status={problem ? "error" : ""}
        onChange={({ target }) => setText(target.value)}
        onBlur={leave}
        onPressEnter={leave}
      />
      {problem && (
        <span className="problem note" role="alert">
          {problem}
        </span>
      )}
    </span>
  );
}
