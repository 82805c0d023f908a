"use client";

import { formatQuantity } from "@/core/units/format";
import type { BankColumn as Column } from "@/core/assessment/use/state-of-charge-column";
import { useDay } from "../state/day";
import { useReading } from "../state/sheet-context";
import { FigureValue } from "../fields/figure-value";

type Key = Column["segments"][number]["key"];

const LOOK: Record<Key, { name: string; fill: string; stroke?: string }> = {
  uncharged: { name: "Not charged", fill: "none", stroke: "var(--rule)" },
  units: { name: "Air conditioner", fill: "var(--cold)" },
  loads: { name: "Other loads", fill: "var(--sun)" },
  losses: { name: "Losses", fill: "var(--heat)" },
  left: { name: "Left above reserve", fill: "var(--bank-wash)", stroke: "var(--bank)" },
  reserve: { name: "Reserve", fill: "url(#reserve)", stroke: "var(--bank)" },
  unreachable: { name: "Below the cut-off", fill: "none", stroke: "var(--bank)" },
};
const HEIGHT = 400;

/** A full battery as a column, cut into what the wanted hours take, what is left, and the reserve. */
export function BankColumn() {
  const { job } = useReading();
  const { day } = useDay();
  if (!day) return null;
  const { column } = day;
  const whole = column.full + column.missing;
  const scale = (HEIGHT - 16) / whole;
  const wh = (value: number) => formatQuantity(value, "energy", job.notation, 3);
  const drawn = column.segments.map((segment, index) => {
    const above = column.segments.slice(0, index).reduce((sum, { energy }) => sum + energy, column.missing);
    return { ...segment, height: segment.energy * scale, top: 8 + above * scale };
  });
  return (
    <svg
      viewBox={`0 0 190 ${HEIGHT}`}
      width="100%"
      style={{ maxWidth: 220, fontSize: 12 }}
      role="img"
      aria-label={`The battery, ${wh(column.full)}: ${column.segments.map((s) => `${LOOK[s.key].name} ${wh(s.energy)}`).join(", ")}.${column.missing > 0 ? ` ${wh(column.missing)} short.` : ""}`}
    >
      <defs>
        <pattern id="reserve" width="7" height="7" patternUnits="userSpaceOnUse">
          <path d="M-1 8L8 -1M-1 1L1 -1M6 8L8 6" stroke="var(--bank)" strokeWidth="1.1" />
        </pattern>
      </defs>
      {column.missing > 0 && (
        <>
          <rect
            x="6"
            y="8"
            width="64"
            height={column.missing * scale}
            fill="none"
            stroke="var(--heat)"
            strokeDasharray="4 3"
          />
          {column.missing * scale > 14 && (
            <text x="78" y={8 + (column.missing * scale) / 2 + 4} fill="var(--heat)" fontWeight="700">
              {wh(column.missing)} short
            </text>
          )}
        </>
      )}
      {drawn
        .filter((segment) => segment.height > 0.4)
        .map((segment) => (
          <g key={segment.key}>
            <rect
              x="6"
              y={segment.top}
              width="64"
              height={segment.height}
              fill={LOOK[segment.key].fill}
              stroke={LOOK[segment.key].stroke ?? "none"}
              strokeWidth="0.8"
            />
            {segment.height > 13 && (
              <text x="78" y={segment.top + segment.height / 2 + 4}>
                {LOOK[segment.key].name}
              </text>
            )}
          </g>
        ))}
      <rect
        x="6"
        y={8 + column.missing * scale}
        width="64"
        height={column.full * scale}
        fill="none"
        stroke="var(--ink)"
      />
    </svg>
  );
}

/** The same as a table, each figure with its working. */
export function BankTable() {
  const { job } = useReading();
  const { day } = useDay();
  if (!day) return null;
  const { column } = day;
  return (
    <table className="values">
      <caption>Where the charge goes in the hours wanted</caption>
      <thead>
        <tr>
          <th>Part</th>
          <th className="right">Energy</th>
          <th className="right">Of a full battery</th>
        </tr>
      </thead>
      <tbody>
        {column.segments
          .filter((segment) => segment.energy > 0)
          .map((segment) => (
            <tr key={segment.key}>
              <td>{LOOK[segment.key].name}</td>
              <td className="mono">
                <FigureValue figure={segment.figure.key} />
              </td>
              <td className="mono">{formatQuantity(segment.energy / column.full, "ratio", job.notation, 2)}</td>
            </tr>
          ))}
      </tbody>
    </table>
  );
}
