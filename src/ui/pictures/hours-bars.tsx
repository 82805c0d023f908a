"use client";

import { formatQuantity } from "@/core/quantity/format";
import { MODE_LABELS } from "@/core/unit/unit";
import { useReading } from "../state/sheet-context";
import { FigureValue } from "../fields/figure-value";
import { useBoxWidth } from "./use-box-width";

const LABEL = 104;
const ROW = 40;

/** Hours to the reserve in each way of running, the cut-off beyond it hatched, and the hours wanted across. */
export function HoursBars() {
  const { rig, assessment } = useReading();
  const [box, width] = useBoxWidth(640);
  const wanted = assessment.values.brief.hoursWanted.value;
  const stance = rig.brief.stance === "never-resting" ? "full" : "expected";
  const { hours } = assessment;
  // The longest bars run off the edge rather than squeeze the ones that decide.
  const deciding = hours.find((h) => h.mode === stance)!;
  const most = Math.max(wanted * 1.6, deciding.toCutOff * 1.25, 3600);
  const x = (seconds: number) => LABEL + (Math.min(seconds, most) / most) * (width - LABEL - 8);
  const text = (seconds: number) => formatQuantity(seconds, "duration", rig.notation);
  const height = hours.length * ROW + 34;
  const every = [1, 2, 3, 4, 6, 12, 24, 48, 96, 240].find((h) => most / 3600 / h <= 8) ?? 480;
  const ticks = Array.from({ length: Math.floor(most / 3600 / every) + 1 }, (_, i) => i * every).filter(
    (hour) => x(hour * 3600) < width - 16,
  );
  return (
    <div ref={box} style={{ maxWidth: 760 }}>
      <svg
        width={width}
        height={height}
        style={{ display: "block", fontSize: 13 }}
        role="img"
        aria-label={`Hours to the reserve: ${hours.map((h) => `${MODE_LABELS[h.mode]} ${text(h.toReserve)}`).join(", ")}; wanted ${text(wanted)}.`}
      >
        <defs>
          <pattern id="beyond" width="7" height="7" patternUnits="userSpaceOnUse">
            <path d="M-1 8L8 -1M-1 1L1 -1M6 8L8 6" stroke="var(--bank)" strokeWidth="1" opacity="0.6" />
          </pattern>
        </defs>
        {ticks.map((hour) => (
          <g key={hour}>
            <line x1={x(hour * 3600)} x2={x(hour * 3600)} y1={2} y2={height - 22} stroke="var(--hair)" />
            <text
              x={x(hour * 3600)}
              y={height - 6}
              textAnchor="middle"
              fontFamily="var(--mono)"
              fontSize="12"
              fill="var(--faded)"
            >
              {hour} h
            </text>
          </g>
        ))}
        {hours.map((h, index) => {
          const y = 8 + index * ROW;
          const chosen = h.mode === stance;
          const over = h.toReserve > most;
          const label = text(h.toReserve);
          const [from, to] = [x(h.toReserve) - label.length * 8.2 - 10, x(h.toReserve)];
          const crossed = x(wanted) > from && x(wanted) < to;
          const wide = from > LABEL && !crossed;
          return (
            <g key={h.mode}>
              <text x={LABEL - 8} y={y + 19} textAnchor="end" fontWeight={chosen ? 700 : 400}>
                {MODE_LABELS[h.mode]}
              </text>
              <rect
                x={LABEL}
                y={y + 3}
                width={x(h.toReserve) - LABEL}
                height="24"
                fill={chosen ? "var(--bank)" : "var(--bank-wash)"}
              />
              {h.toCutOff > h.toReserve && (
                <rect
                  x={x(h.toReserve)}
                  y={y + 3}
                  width={x(h.toCutOff) - x(h.toReserve)}
                  height="24"
                  fill="url(#beyond)"
                  stroke="var(--bank)"
                  strokeWidth="0.6"
                />
              )}
              <text
                x={wide ? x(h.toReserve) - 6 : x(h.toCutOff) + 6}
                y={y + 20}
                textAnchor={wide ? "end" : "start"}
                fontFamily="var(--mono)"
                fontWeight={chosen ? 700 : 400}
                fill={wide && chosen ? "var(--page)" : "var(--ink)"}
              >
                {label}
                {over ? " →" : ""}
              </text>
            </g>
          );
        })}
        <line x1={x(wanted)} x2={x(wanted)} y1={0} y2={height - 22} stroke="var(--ink)" strokeWidth="2.2" />
        <text
          x={x(wanted) + 5}
          y={height - 26}
          fontWeight="700"
          paintOrder="stroke"
          stroke="var(--paper)"
          strokeWidth="3"
        >
          wanted {text(wanted)}
        </text>
      </svg>
    </div>
  );
}

/** The same hours as a table, each figure with its sum. */
export function HoursTable() {
  const { rig, assessment } = useReading();
  const stance = rig.brief.stance === "never-resting" ? "full" : "expected";
  const { hours } = assessment;
  return (
    <table className="values">
      <caption>Hours, each way of running, at a draw held constant</caption>
      <thead>
        <tr>
          <th>The unit</th>
          <th className="right">Drawn from the bank</th>
          <th className="right">Amps counted</th>
          <th className="right">To the reserve</th>
          <th className="right">To the cut-off</th>
          <th>Ends by</th>
        </tr>
      </thead>
      <tbody>
        {hours.map((h) => (
          <tr key={h.mode}>
            <td>
              {MODE_LABELS[h.mode]}
              {h.mode === stance ? ", the stance" : ""}
            </td>
            <td className="mono">
              <FigureValue figure={`lasts.${h.mode}.power`} />
            </td>
            <td className="mono">
              <FigureValue figure={`lasts.${h.mode}.current`} />
            </td>
            <td className="mono">
              <FigureValue figure={h.reserveFigure} />
            </td>
            <td className="mono">
              <FigureValue figure={h.cutOffFigure} />
            </td>
            <td>{{ empty: "empty", inverter: "inverter cuts off", bank: "bank stops" }[h.cutOffBy]}</td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}
