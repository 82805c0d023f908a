"use client";

import { useMemo, useState } from "react";
import type { TripRun } from "@/workers/options.worker";
import { useReading } from "../state/sheet-context";
import { extent } from "./day-shape";
import { stepAt, stepWords, Strip } from "./strip";
import { useBoxWidth } from "./use-box-width";
import { say } from "@/core/messages/say";

interface Props {
  runs: readonly TripRun[];
  names: readonly string[];
}

/** Designs through the same days, a strip each under the other on one axis; read together at one moment. */
export function TripStrips({ runs, names }: Props) {
  const { job } = useReading();
  const [box, width] = useBoxWidth(700);
  const [at, setAt] = useState<number | null>(null);
  const steps = Math.min(...runs.map(({ record }) => record.steps));
  const step = stepAt(at, steps, width);
  const degreesC = useMemo(
    () =>
      extent(
        runs.flatMap(({ record }) => [record.cabinC, record.outdoorC]),
        [0, steps],
      ),
    [runs, steps],
  );
  const hours = (steps * (runs[0]?.record.stepS ?? 300)) / 3600;
  return (
    <figure className="trip-strips">
      <figcaption className="note">{say("interface.oneTripSameWeather")}</figcaption>
      <div
        ref={box}
        role="img"
        aria-label={`One trip of each design: ${names.join("; ")}`}
        onMouseMove={({ nativeEvent }) => setAt(nativeEvent.offsetX)}
        onMouseLeave={() => setAt(null)}
      >
        {runs.map(({ record, reserve }, i) => (
          <div key={names[i]} className="trip-strip">
            <p className="note">
              {names[i]}
              {step !== null && <span className="mono"> {stepWords(record, step, job.notation)}</span>}
            </p>
            <Strip
              record={record}
              steps={steps}
              width={width}
              reserve={reserve}
              degreesC={degreesC}
              tickHours={hours > 80 ? 24 : hours > 30 ? 6 : 3}
              at={at}
            />
          </div>
        ))}
      </div>
    </figure>
  );
}
