"use client";

import { Checkbox } from "antd";
import { valueAt } from "@/core/document/compare";
import { useSheet } from "../state/sheet-context";

/** One yes or no of the job. */
export function CheckLine({ path, label }: { path: string; label: string }) {
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
