"use client";

import type { JobPath } from "@/core/document/path";
import { Input } from "antd";
import { useId, useState } from "react";
import { valueAt } from "@/core/document/compare";
import { useReading, useSheet } from "../state/sheet-context";
import { say } from "@/core/messages/say";

interface Props {
  path: JobPath;
  label: string;
  longest: number;
  rows?: number;
  /** Refuses an empty text: the old one is kept. */
  required?: boolean;
  placeholder?: string;
  bare?: boolean;
}

/** One text of the system: a line, or several where `rows` is given. */
export function TextLine({ path, label, longest, rows, required, placeholder, bare }: Props) {
  const { job } = useReading();
  const put = useSheet((state) => state.put);
  const endSession = useSheet((state) => state.endSession);
  const id = useId();
  const [blank, setBlank] = useState(false);
  const stored = (valueAt(job, path) as string | undefined) ?? "";
  const shared = {
    id,
    value: blank ? "" : stored,
    maxLength: longest,
    placeholder,
    onChange: (event: { target: { value: string } }) => {
      const empty = required === true && event.target.value.trim() === "";
      setBlank(empty);
      if (!empty) put(path, event.target.value, id);
    },
    onBlur: () => {
      setBlank(false);
      endSession();
    },
  };
  const field = rows ? (
    <Input.TextArea {...shared} rows={rows} className="growing" />
  ) : (
    <Input {...shared} size="small" />
  );
  if (bare) {
    return (
      <span>
        <label className="spoken" htmlFor={id}>
          {label}
        </label>
        {field}
      </span>
    );
  }
  return (
    <div className="text-line" data-path={path}>
      <label htmlFor={id}>{label}</label>
      {field}
      {blank && (
        <div className="problem note" role="alert">
          {say("interface.textRequired", { label })}
        </div>
      )}
    </div>
  );
}
