"use client";

import { Select } from "antd";
import { useId } from "react";
import { useReading, useSheet } from "../state/sheet-context";
import { MONTHS } from "../words";
import { monthOfJob } from "@/core/document/place";

/** The month of the job. */
export function MonthLine() {
  const { job, assessment } = useReading();
  const put = useSheet((state) => state.put);
  const id = useId();
  const usual =
    MONTHS[monthOfJob({ ...job, brief: { ...job.brief, month: null } }, assessment.values.place.latitude.value) - 1];
  const assumed = assessment.conditions.known ? `${usual}, assumed` : "not chosen";
  return (
    <div className="line choice">
      <div className="line-row">
        <label htmlFor={id}>Month</label>
        <Select<number>
          id={id}
          size="small"
          value={job.brief.month ?? 0}
          options={[{ value: 0, label: assumed }, ...MONTHS.map((label, index) => ({ value: index + 1, label }))]}
          onChange={(month) => put("brief.month", month || null)}
        />
      </div>
    </div>
  );
}
