"use client";

import { Select } from "antd";
import { useId } from "react";
import { valueAt } from "@/core/rig/compare";
import { useReading, useSheet } from "../state/sheet-context";

interface Props<T extends string> {
  path: string;
  label: string;
  options: readonly { value: T; label: string }[];
}

/** One choice of the rig among a few. */
export function ChoiceLine<T extends string>({ path, label, options }: Props<T>) {
  const { rig } = useReading();
  const put = useSheet((state) => state.put);
  const id = useId();
  return (
    <div className="line choice" data-path={path}>
      <div className="line-row">
        <label htmlFor={id}>{label}</label>
        <Select<T>
          id={id}
          size="small"
          value={valueAt(rig, path) as T}
          options={[...options]}
          onChange={(value) => put(path, value)}
          popupMatchSelectWidth={false}
        />
      </div>
    </div>
  );
}
