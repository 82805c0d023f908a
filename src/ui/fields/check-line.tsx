"use client";

import type { JobPath } from "@/core/document/path";
import { Checkbox } from "antd";
import { valueAt } from "@/core/document/compare";
import { useSheet } from "../state/sheet-context";

/** One yes or no of the job. */
export function CheckLine({ path, label }: { path: JobPath; label: string }) {
  const on = useSheet((state) => valueAt(state.job, path) === true);
  const put = useSheet((state) => state.put);
  return (
    <div className="line check" data-path={path}>
      <Checkbox checked={on} onChange={(event) => put(path, event.target.checked)}>
        {label}
      </Checkbox>
    </div>
  );
}
