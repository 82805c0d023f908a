"use client";

import { useReading } from "../state/sheet-context";

/** The conditions that every figure of the job stands on, in one line. */
export function ConditionsLine() {
  const { assessment } = useReading();
  const { line, known } = assessment.conditions;
  return (
    <p className="conditions" data-conditions data-open={known ? undefined : ""}>
      {line}
    </p>
  );
}

/** What the lines of the day strip are. */
export function StripLegend() {
  return (
    <ul className="strip-legend" aria-label="What the day strip shows">
      <li>
        <i style={{ background: "var(--cold)" }} /> compressor on
      </li>
      <li>
        <i className="fill" style={{ background: "var(--bank-wash)", borderTop: "2px solid var(--battery)" }} /> state
        of charge, 0 to 100 %
      </li>
      <li>
        <i className="fill hatched" /> reserve
      </li>
      <li>
        <i style={{ background: "var(--ink)" }} /> cabin
      </li>
      <li>
        <i style={{ background: "var(--heat)" }} /> outdoors
      </li>
      <li>
        <i className="fill" style={{ background: "var(--sun)", opacity: 0.35 }} /> sun
      </li>
    </ul>
  );
}
