"use client";

import type { JobPath } from "@/core/document/path";
import { Select } from "antd";
import { memo, useId } from "react";
import { valueAt } from "@/core/document/compare";
import { useReading, useSheet } from "../state/sheet-context";

interface Props<T extends string> {
  path: JobPath;
  label: string;
  options: readonly { value: T; label: string }[];
  /** What is shown, and meant, where the document has no answer. */
  unsaid?: T;
}

/** One choice of the system among a few. */
export function ChoiceLine<T extends string>({ path, label, options, unsaid }: Props<T>) {
  const { job } = useReading();
  const value = (valueAt(job, path) ?? unsaid) as string;
  return <ChoiceView path={path} label={label} options={options} value={value} />;
}

type ViewProps = Omit<Props<string>, "unsaid"> & { value: string };

/** Drawn again only when its choice has changed; the options of a place never do but for their array's identity. */
const ChoiceView = memo(
  function ChoiceView({ path, label, options, value }: ViewProps) {
    const put = useSheet((state) => state.put);
    const id = useId();
    return (
      <div className="line choice" data-path={path}>
        <div className="line-row">
          <label htmlFor={id}>{label}</label>
          <Select<string>
            id={id}
            size="small"
            value={value}
            options={[...options]}
            onChange={(chosen) => put(path, chosen)}
            popupMatchSelectWidth={false}
          />
        </div>
      </div>
    );
  },
  (before, after) => before.path === after.path && before.value === after.value && before.label === after.label,
);
