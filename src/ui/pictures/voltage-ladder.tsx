"use client";

import { formatQuantity } from "@/core/units/format";
import type { Ladder, Rung } from "@/core/assessment/starts/ladders";
import { useReading } from "../state/sheet-context";
import { say } from "@/core/messages/say";

const WIDTH = 240;
const TOP = 26;
const STEP = 36;
const LEFT = 98;
const RIGHT = 218;

const MOST_RUNGS = 8;

/** The rungs that lose most, in their order, with the small ones gathered into one where there are more than fit. */
function gathered(rungs: Rung[]): { name: string; drop: number; left: number }[] {
  if (rungs.length <= MOST_RUNGS) return rungs;
  const kept = new Set([...rungs].sort((a, b) => b.drop - a.drop).slice(0, MOST_RUNGS - 1));
  const small = rungs.filter((rung) => !kept.has(rung));
  const lost = small.reduce((sum, { drop }) => sum + drop, 0);
  let left = rungs[0]!.left + rungs[0]!.drop;
  return [...rungs.filter((rung) => kept.has(rung)), { name: `${small.length} smaller`, drop: lost }].map(
    ({ name, drop }) => ({
      name,
      drop,
      left: (left -= drop),
    }),
  );
}

/** Rest voltage down to the far end at the start's peak, a rung a part, with the cut-off across it. */
export function VoltageLadder({ ladder }: { ladder: Ladder }) {
  const { job } = useReading();
  const volts = (value: number) => formatQuantity(value, "voltage", job.notation);
  const parts = gathered(ladder.rungs.filter((rung) => rung.drop > 0));
  const worst = parts.reduce((most, rung) => Math.max(most, rung.drop), 0);
  const lowest = Math.min(ladder.end, ladder.cutOff || ladder.end);
  const span = Math.max(ladder.rest - lowest, 0.02 * ladder.rest);
  // Higher volts stand to the left, so that each rung steps to the right as volts are lost.
  const x = (v: number) => LEFT + ((ladder.rest - Math.max(v, lowest)) / span) * (RIGHT - LEFT);
  const rows = [{ name: "open-circuit", drop: 0, left: ladder.rest }, ...parts];
  const height = TOP + (rows.length + 1) * STEP + 24;
  const failing = ladder.end < ladder.cutOff;
  return (
    <svg
      viewBox={`0 0 ${WIDTH} ${height}`}
      width="100%"
      role="img"
      aria-label={say("interface.voltsStartPeakOpen", {
        title: ladder.title,
        rest: volts(ladder.rest),
        end: volts(ladder.end),
        farEnd: ladder.farEnd,
        cutOff: volts(ladder.cutOff),
      })}
      style={{ fontSize: 12, maxWidth: 320 }}
    >
      {ladder.cutOff > 0 && (
        <>
          <line
            x1={x(ladder.cutOff)}
            x2={x(ladder.cutOff)}
            y1={TOP - 8}
            y2={height - 38}
            stroke="var(--ink)"
            strokeWidth="2.2"
          />
          <text
            x={Math.min(x(ladder.cutOff) + 4, WIDTH)}
            y={height - 24}
            textAnchor="end"
            fontWeight="700"
            fill="var(--ink)"
          >
            cut-off {volts(ladder.cutOff)}
          </text>
        </>
      )}
      {rows.map((row, index) => {
        const y = TOP + index * STEP;
        const from = index === 0 ? ladder.rest : rows[index - 1]!.left;
        const [start, end] = [x(from), x(row.left)];
        const heavy = row.drop === worst && worst > 0;
        const label = index === 0 ? volts(row.left) : row.drop < 1e-4 ? "under 0.1 mV" : `−${volts(row.drop)}`;
        const wide = label.length * 7.3;
        // A long bar holds its own label; otherwise it stands behind the bar, or before it where it would run out, or below it
        // where it would stand over the row's name.
        const within = end - start > wide + 6;
        const outside = !within && end + 6 + wide > WIDTH;
        const below = outside && start - 5 - wide < LEFT;
        const before = outside && !below;
        return (
          <g key={row.name}>
            <text x={LEFT - 10} y={y + 4} textAnchor="end" fill="var(--ink)">
              {row.name}
            </text>
            {index > 0 && <line x1={start} x2={start} y1={y - STEP + 4} y2={y + 6} stroke="var(--ink)" />}
            {index > 0 && (
              <rect
                x={start}
                y={within ? y - 7 : y - 5}
                width={Math.max(1.5, end - start)}
                height={within ? 14 : 10}
                fill={heavy ? "var(--heat)" : "var(--bank)"}
              />
            )}
            {index === 0 && <line x1={start} x2={start} y1={y - 8} y2={y + 4} stroke="var(--ink)" />}
            <text
              x={within ? (start + end) / 2 : before ? start - 5 : below ? end - 5 : end + 6}
              y={below ? y + 19 : y + 4}
              textAnchor={within ? "middle" : outside ? "end" : "start"}
              fontFamily="var(--mono)"
              fill={within ? "var(--paper)" : heavy ? "var(--heat)" : "var(--ink)"}
              paintOrder="stroke"
              stroke={within ? "none" : "var(--paper)"}
              strokeWidth="3"
            >
              {label}
            </text>
          </g>
        );
      })}
      <text x={LEFT - 10} y={TOP + rows.length * STEP + 4} textAnchor="end" fontWeight="700">
        {ladder.farEnd}
      </text>
      <text
        x={x(ladder.end) > 150 ? x(ladder.end) - 5 : x(ladder.end) + 6}
        y={TOP + rows.length * STEP + 4}
        textAnchor={x(ladder.end) > 150 ? "end" : "start"}
        fontFamily="var(--mono)"
        fontWeight="700"
        fill={failing ? "var(--heat)" : "var(--ink)"}
        paintOrder="stroke"
        stroke="var(--paper)"
        strokeWidth="3"
      >
        {ladder.collapsed ? "collapses" : volts(ladder.end)}
      </text>
      <line
        x1={x(ladder.end)}
        x2={x(ladder.end)}
        y1={TOP + (rows.length - 1) * STEP + 4}
        y2={TOP + rows.length * STEP + 8}
        stroke={failing ? "var(--heat)" : "var(--ink)"}
        strokeWidth="1.5"
      />
    </svg>
  );
}
