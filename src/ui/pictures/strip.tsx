"use client";

import { scaleLinear } from "d3-scale";
import { useId, useMemo } from "react";
import { timeOfDay } from "@/core/units/clock";
import type { DayRecord } from "@/core/simulation/day/record";
import { formatQuantity } from "@/core/units/format";
import type { UnitPreferences } from "@/core/units/dimension";
import { area, bars, extent, polyline } from "./day-shape";

export const STRIP_HEIGHT = 62;
const CODE = 7;
const BASE = STRIP_HEIGHT - 13;
const TOP = CODE + 3;

interface Props {
  /** Null while it is being run. */
  record: DayRecord | null;
  /** Steps of the record that are drawn. */
  steps: number;
  width: number;
  /** Share of the battery that is kept. */
  reserve: number;
  /** Degrees that the temperatures are drawn between; the record's own where none is given. */
  degreesC?: readonly [number, number];
  /** Hours between two times written under it. */
  tickHours?: number;
  /** Units that the scale at both ends is written in; no scale without them. */
  scale?: UnitPreferences;
  /** x of the moment that is read, px. */
  at: number | null;
}

/** The step under an x of a strip, or null. */
export const stepAt = (at: number | null, steps: number, width: number): number | null =>
  at === null || steps === 0 ? null : Math.min(steps - 1, Math.max(0, Math.floor((at / width) * steps)));

/** What a record says at a step, in words. */
export function stepWords(record: DayRecord, k: number, prefs: UnitPreferences): string {
  return [
    timeOfDay(record.clock, k * record.stepS),
    formatQuantity(record.stateOfCharge[k]!, "ratio", prefs, 2),
    `cabin ${formatQuantity(record.cabinC[k]!, "temperature", prefs, 3)}`,
    `outside ${formatQuantity(record.outdoorC[k]!, "temperature", prefs, 3)}`,
    record.sunPower[k]! + record.lost[k]! > 1 ? `sun ${formatQuantity(record.sunPower[k]!, "power", prefs, 2)}` : "",
    record.compressor[k]! > 0.02 ? "compressor running" : "",
  ]
    .filter(Boolean)
    .join(" · ");
}

/**
 * A run in little: level of the battery over its hatched reserve, sun above, compressor runs as a bar code, cabin and outdoor
 * temperature.
 */
export function Strip({ record, steps, width, reserve, degreesC, tickHours = 3, scale, at }: Props) {
  const hatch = useId();
  const drawn = useMemo(() => {
    if (!record || steps === 0) return null;
    const span = [0, steps] as const;
    const x = scaleLinear([0, steps], [0, width]);
    const level = scaleLinear([0, 1], [BASE, TOP]);
    const [low, high] = degreesC ?? extent([record.cabinC, record.outdoorC], span);
    const degrees = scaleLinear([low, Math.max(high, low + 4)], [BASE - 2, TOP + 2]);
    const sun = scaleLinear([0, 1100], [BASE, TOP]);
    const hours = (steps * record.stepS) / 3600;
    return {
      level: area(record.stateOfCharge, span, 400, { x, y: level, base: BASE }),
      edge: polyline(record.stateOfCharge, span, 400, x, level),
      sun: area(record.sun, span, 200, { x, y: sun, base: BASE }),
      cabin: polyline(record.cabinC, span, 400, x, degrees),
      outdoor: polyline(record.outdoorC, span, 300, x, degrees),
      code: bars(record, span, 1440, x),
      reserveY: level(reserve),
      low,
      high,
      lowY: degrees(low),
      highY: degrees(high),
      ticks: Array.from({ length: Math.ceil(hours / tickHours) }, (_, i) => i * tickHours).map((hour) => ({
        x: (hour / hours) * width,
        text: timeOfDay(record.clock, hour * 3600),
      })),
    };
  }, [record, steps, width, reserve, degreesC, tickHours]);
  return (
    <svg width={width} height={STRIP_HEIGHT} style={{ display: "block" }} aria-hidden="true">
      <defs>
        <pattern id={hatch} width="7" height="7" patternUnits="userSpaceOnUse">
          <path d="M-1 8L8 -1M-1 1L1 -1M6 8L8 6" stroke="var(--bank)" strokeWidth="1" opacity="0.55" />
        </pattern>
      </defs>
      {!drawn && (
        <text x={12} y={36} fontSize="12" fill="var(--faded)">
          Simulating the day
        </text>
      )}
      {drawn && (
        <>
          <path d={drawn.sun} fill="var(--sun)" opacity="0.22" />
          <path d={drawn.level} fill="var(--bank-wash)" opacity="0.85" />
          <rect x={0} y={drawn.reserveY} width={width} height={BASE - drawn.reserveY} fill={`url(#${hatch})`} />
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
              y={STRIP_HEIGHT - 2}
              fontSize="10.5"
              fontFamily="var(--mono)"
              fill="var(--faded)"
            >
              {tick.text}
            </text>
          ))}
          {scale && (
            <g className="strip-scale">
              <text x={width - 4} y={drawn.highY + 4} textAnchor="end">
                {formatQuantity(drawn.high, "temperature", scale, 2)}
              </text>
              <text x={width - 4} y={Math.min(drawn.lowY + 3, BASE - 3)} textAnchor="end">
                {formatQuantity(drawn.low, "temperature", scale, 2)}
              </text>
              <text x={4} y={TOP + 8}>
                100 %
              </text>
              <text x={4} y={BASE - 3}>
                0
              </text>
            </g>
          )}
          {at !== null && (
            <line x1={at} x2={at} y1={0} y2={BASE} stroke="var(--ink)" strokeWidth="0.8" strokeDasharray="2 2" />
          )}
        </>
      )}
    </svg>
  );
}
