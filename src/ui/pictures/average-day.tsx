"use client";

import { formatQuantity } from "@/core/units/format";
import type { AverageDay } from "@/core/assessment/use/average-day";
import { useReading } from "../state/sheet-context";
import { useBoxWidth } from "./use-box-width";
import { say } from "@/core/messages/say";

const IN = [
  ["solar", "Solar used", "var(--sun)"],
  ["engine", "Engine", "var(--bank)"],
  ["shore", "Shore power", "var(--faded)"],
  ["generator", "Generator", "var(--ink)"],
  ["lost", "Curtailed", "url(#average-lost)"],
] as const;
const OUT = [
  ["units", "Air conditioner", "var(--cold)"],
  ["loads", "Other loads", "var(--heat)"],
  ["losses", "Losses", "var(--rule)"],
] as const;

const HEIGHT = 250;
const LEFT = 52;
const MIDDLE = 118;
const ROOM = 98;

/** An average day's energy by the hour: what comes in above the line, what goes out below it. */
export function AverageDayPicture({ average }: { average: AverageDay }) {
  const { job } = useReading();
  const [box, width] = useBoxWidth(760);
  const hours = Array.from({ length: 24 }, (_, i) => i);
  const sum = (keys: readonly (readonly [keyof AverageDay, string, string])[], hour: number) =>
    keys.reduce((total, [key]) => total + Math.max(0, average[key][hour]!), 0);
  const most = Math.max(50, ...hours.map((hour) => Math.max(sum(IN, hour), sum(OUT, hour))));
  const step = (width - LEFT - 8) / 24;
  const tall = (watts: number) => (watts / most) * ROOM;
  const prefs = job.notation;
  const total = (key: keyof AverageDay) => average[key].reduce((a, b) => a + b, 0);
  const used = [...IN, ...OUT].filter(([key]) => total(key) > 5);
  const stack = (keys: readonly (readonly [keyof AverageDay, string, string])[], hour: number, direction: 1 | -1) => {
    let at = 0;
    return keys.map(([key, , fill]) => {
      const height = tall(Math.max(0, average[key][hour]!));
      const y = direction === -1 ? MIDDLE - at - height : MIDDLE + at;
      at += height;
      return height > 0.2 ? (
        <rect key={key} x={LEFT + hour * step + 1} y={y} width={step - 2} height={height} fill={fill} />
      ) : null;
    });
  };
  return (
    <div ref={box}>
      <svg
        width={width}
        height={HEIGHT}
        style={{ display: "block" }}
        role="img"
        aria-label={say("interface.averageDay")}
      >
        <defs>
          <pattern id="average-lost" width="6" height="6" patternUnits="userSpaceOnUse">
            <path d="M-1 -1L7 7M-1 5L1 7M5 -1L7 1" stroke="var(--sun)" strokeWidth="1" />
          </pattern>
        </defs>
        {[0, 6, 12, 18].map((hour) => (
          <g key={hour}>
            <line
              x1={LEFT + hour * step}
              x2={LEFT + hour * step}
              y1={MIDDLE - ROOM - 6}
              y2={MIDDLE + ROOM + 6}
              stroke="var(--hair)"
            />
            <text
              x={LEFT + hour * step + 3}
              y={HEIGHT - 8}
              fontSize="11.5"
              fontFamily="var(--mono)"
              fill="var(--faded)"
            >
              {String(hour).padStart(2, "0")}:00
            </text>
          </g>
        ))}
        {hours.map((hour) => (
          <g key={hour}>
            {stack(IN, hour, -1)}
            {stack(OUT, hour, 1)}
          </g>
        ))}
        <line x1={LEFT} x2={width - 8} y1={MIDDLE} y2={MIDDLE} stroke="var(--ink)" />
        <g fontSize="11.5" fontFamily="var(--mono)" fill="var(--faded)" textAnchor="end">
          <text x={LEFT - 5} y={MIDDLE - ROOM + 8}>
            {formatQuantity(most, "power", prefs, 2)}
          </text>
          <text x={LEFT - 5} y={MIDDLE - 8}>
            in
          </text>
          <text x={LEFT - 5} y={MIDDLE + 16}>
            out
          </text>
        </g>
      </svg>
      <table className="values">
        <tbody>
          {used.map(([key, name, fill]) => (
            <tr key={key}>
              <td>
                <svg width="12" height="12" aria-hidden="true">
                  <rect width="12" height="12" fill={fill} />
                </svg>{" "}
                {name}
              </td>
              <td className="mono">{formatQuantity(total(key), "energy", prefs, 2)} a day</td>
            </tr>
          ))}
        </tbody>
      </table>
    </div>
  );
}
