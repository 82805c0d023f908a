"use client";

import { useMemo, useState } from "react";
import { timeOfDay } from "@/core/day/clock";
import { formatQuantity } from "@/core/quantity/format";
import { useCursor, useDay } from "../state/day";
import { useReading } from "../state/sheet-context";
import { area, bars, extent, polyline } from "./day-shape";
import { useBoxWidth } from "./use-box-width";

const HEIGHT = 62;
const CODE = 7;
const BASE = HEIGHT - 13;
const TOP = CODE + 3;

/**
 * The day's run in little, noon to noon: level of the bank over its hatched reserve, sun above, compressor runs as a bar
 * code, cabin and outdoor temperature. Hover reads it; a click opens the day there.
 */
export function DayStrip({ onOpen }: { onOpen(): void }) {
  const { rig, assessment } = useReading();
  const { day, stale } = useDay();
  const { setCursor } = useCursor();
  const [box, width] = useBoxWidth(1200);
  const [at, setAt] = useState<number | null>(null);
  const record = day?.record;
  const steps = record ? Math.min(record.steps, Math.round(86_400 / record.stepS)) : 0;
  const reserve = assessment.values.bank.reserve.value;
  const drawn = useMemo(() => {
    if (!record || steps === 0) return null;
    const span = [0, steps] as const;
    const x = (step: number) => (step / steps) * width;
    const level = (share: number) => BASE - share * (BASE - TOP);
    const [low, high] = extent([record.cabinC, record.outdoorC], span);
    const degrees = (t: number) => BASE - 2 - ((t - low) / Math.max(4, high - low)) * (BASE - TOP - 4);
    const sun = (value: number) => BASE - (value / 1100) * (BASE - TOP);
    return {
      level: area(record.share, span, 400, x, level, BASE),
      edge: polyline(record.share, span, 400, x, level),
      sun: area(record.sun, span, 200, x, sun, BASE),
      cabin: polyline(record.cabinC, span, 400, x, degrees),
      outdoor: polyline(record.outdoorC, span, 300, x, degrees),
      code: bars(record, span, 1440, x),
      reserveY: level(reserve),
      ticks: Array.from({ length: 8 }, (_, i) => i * 3).map((hour) => ({
        x: (hour / 24) * width,
        text: timeOfDay(record.clock, hour * 3600),
      })),
    };
  }, [record, steps, width, reserve]);
  const step = at === null || steps === 0 ? null : Math.min(steps - 1, Math.max(0, Math.floor((at / width) * steps)));
  const prefs = rig.notation;
  const words = (k: number) =>
    record
      ? [
          timeOfDay(record.clock, k * record.stepS),
          formatQuantity(record.share[k]!, "ratio", prefs, 2),
          `cabin ${formatQuantity(record.cabinC[k]!, "temperature", prefs, 3)}`,
          `outside ${formatQuantity(record.outdoorC[k]!, "temperature", prefs, 3)}`,
          record.sunPower[k]! + record.lost[k]! > 1
            ? `sun ${formatQuantity(record.sunPower[k]!, "power", prefs, 2)}`
            : "",
          record.compressor[k]! > 0.02 ? "compressor running" : "",
        ]
          .filter(Boolean)
          .join(" · ")
      : "";
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
        <svg width={width} height={HEIGHT} style={{ display: "block" }} aria-hidden="true">
          <defs>
            <pattern id="strip-reserve" width="7" height="7" patternUnits="userSpaceOnUse">
              <path d="M-1 8L8 -1M-1 1L1 -1M6 8L8 6" stroke="var(--bank)" strokeWidth="1" opacity="0.55" />
            </pattern>
          </defs>
          {!drawn && (
            <text x={12} y={36} fontSize="12" fill="var(--faded)">
              Running the day …
            </text>
          )}
          {drawn && (
            <>
              <path d={drawn.sun} fill="var(--sun)" opacity="0.22" />
              <path d={drawn.level} fill="var(--bank-wash)" opacity="0.85" />
              <rect x={0} y={drawn.reserveY} width={width} height={BASE - drawn.reserveY} fill="url(#strip-reserve)" />
              <path d={drawn.edge} fill="none" stroke="var(--bank)" strokeWidth="1.6" />
              <path d={drawn.outdoor} fill="none" stroke="var(--heat)" strokeWidth="0.8" opacity="0.8" />
              <path d={drawn.cabin} fill="none" stroke="var(--ink)" strokeWidth="1.2" />
              {drawn.code.map((bar) => (
                <rect
                  key={bar.x}
                  x={bar.x}
                  y={1}
                  width={Math.max(0.6, bar.width)}
                  height={CODE}
                  fill="var(--cold)"
                  opacity={0.25 + 0.75 * Math.min(1, bar.share)}
                />
              ))}
              <line x1={0} x2={width} y1={BASE + 0.5} y2={BASE + 0.5} stroke="var(--ink)" strokeWidth="0.8" />
              {drawn.ticks.map((tick) => (
                <text
                  key={tick.x}
                  x={tick.x + 3}
                  y={HEIGHT - 2}
                  fontSize="10.5"
                  fontFamily="var(--mono)"
                  fill="var(--faded)"
                >
                  {tick.text}
                </text>
              ))}
              {at !== null && (
                <line x1={at} x2={at} y1={0} y2={BASE} stroke="var(--ink)" strokeWidth="0.8" strokeDasharray="2 2" />
              )}
            </>
          )}
        </svg>
        {step !== null && at !== null && (
          <span className="strip-reading" style={at < width / 2 ? { left: at + 10 } : { right: width - at + 10 }}>
            {words(step)}
          </span>
        )}
      </button>
    </div>
  );
}
