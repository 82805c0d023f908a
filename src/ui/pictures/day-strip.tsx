"use client";

import { useState } from "react";
import { useCursor, useDay } from "../state/day";
import { useReading } from "../state/sheet-context";
import { stepAt, stepWords, Strip } from "./strip";
import { useBoxWidth } from "./use-box-width";

/** The day's run in little, noon to noon. Hover reads it; a click opens the day there. */
export function DayStrip({ onOpen }: { onOpen(): void }) {
  const { job, assessment } = useReading();
  const { day, stale } = useDay();
  const { setCursor } = useCursor();
  const [box, width] = useBoxWidth(1200);
  const [at, setAt] = useState<number | null>(null);
  const record = day?.record ?? null;
  const steps = record ? Math.min(record.steps, Math.round(86_400 / record.stepS)) : 0;
  const step = stepAt(at, steps, width);
  return (
    <div ref={box} className="day-strip" data-stale={stale ? "" : undefined} aria-busy={!day}>
      <button
        type="button"
        className="plain"
        aria-label="Day strip, noon to noon: opens the day"
        onMouseMove={({ nativeEvent }) => setAt(nativeEvent.offsetX)}
        onMouseLeave={() => setAt(null)}
        onClick={() => {
          setCursor(step);
          onOpen();
        }}
      >
        <Strip
          record={record}
          steps={steps}
          width={width}
          reserve={assessment.values.bank.reserve.value}
          scale={job.notation}
          at={at}
        />
        {record && step !== null && at !== null && (
          <span className="strip-reading" style={at < width / 2 ? { left: at + 10 } : { right: width - at + 10 }}>
            {stepWords(record, step, job.notation)}
          </span>
        )}
      </button>
    </div>
  );
}
