"use client";

import { formatQuantity } from "@/core/units/format";
import { END_WORDS, within } from "@/core/assessment/verdicts/lasts";
import type { DayAnswer } from "@/workers/day.worker";
import { useDay } from "../state/day";
import { useReading } from "../state/sheet-context";
import { useBoxWidth } from "./use-box-width";
import { say } from "@/core/messages/say";

const LABEL = 96;
const ROW = 38;
const RIGHT = 124;

interface Bar {
  key: string;
  label: string;
  seconds: number;
  reached: boolean;
  cutOff: number;
  chosen: boolean;
}

/** Run time from switching on to the reserve on a mild, the design and a hot day; the cut-off beyond it hatched. */
export function LastsBars() {
  const { day, stale } = useDay();
  if (!day?.useRun || !day.conditions.known) return null;
  return <Bars useRun={day.useRun} range={day.range} verdicts={day.verdicts} stale={stale} />;
}

type Props = Pick<DayAnswer, "range" | "verdicts"> & { useRun: NonNullable<DayAnswer["useRun"]>; stale: boolean };

function Bars({ useRun, range, verdicts, stale }: Props) {
  const { job } = useReading();
  const [box, width] = useBoxWidth(640);
  const wanted = verdicts.lasts.decides.need;
  const bars: Bar[] = [
    ...(range
      ? [
          {
            key: "mild",
            label: "Mild day",
            ...range.lasts.mild,
            cutOff: range.lasts.mild.seconds,
            chosen: false,
          },
        ]
      : []),
    {
      key: "design",
      label: "Design day",
      seconds: useRun.lasts,
      reached: useRun.reached,
      cutOff: useRun.cutOff?.at ?? useRun.lasts,
      chosen: true,
    },
    ...(range
      ? [{ key: "hot", label: "Hot day", ...range.lasts.hot, cutOff: range.lasts.hot.seconds, chosen: false }]
      : []),
  ];
  const longest = Math.max(...bars.map((bar) => Math.max(bar.seconds, bar.cutOff)));
  // A short use beside a long run keeps its place on the scale.
  const most = Math.max(wanted * 1.5, Math.min(longest, wanted * 6) * 1.15, 3600);
  const beyond = bars.some((bar) => bar.seconds > most);
  const x = (seconds: number) => LABEL + (Math.min(seconds, most) / most) * (width - LABEL - RIGHT);
  const text = (bar: Bar) =>
    bar.reached
      ? formatQuantity(bar.seconds, "duration", job.notation)
      : `over ${formatQuantity(bar.seconds, "duration", job.notation)}`;
  const height = bars.length * ROW + 40;
  const every = [1, 2, 3, 4, 6, 12, 24, 48, 96, 240].find((h) => most / 3600 / h <= 6) ?? 480;
  const ticks = Array.from({ length: Math.floor(most / 3600 / every) + 1 }, (_, i) => i * every);
  return (
    <figure ref={box} className="bars" aria-busy={stale} style={{ maxWidth: 760 }}>
      <svg
        width={width}
        height={height}
        style={{ display: "block", fontSize: 13 }}
        role="img"
        aria-label={`Hours from switching on to the reserve: ${bars.map((bar) => `${bar.label} ${text(bar)}`).join(", ")}; wanted ${formatQuantity(wanted, "duration", job.notation)}.`}
      >
        <defs>
          <pattern id="beyond" width="7" height="7" patternUnits="userSpaceOnUse">
            <path d="M-1 8L8 -1M-1 1L1 -1M6 8L8 6" stroke="var(--bank)" strokeWidth="1" opacity="0.6" />
          </pattern>
        </defs>
        {ticks.map((hour) => (
          <g key={hour}>
            <line x1={x(hour * 3600)} x2={x(hour * 3600)} y1={2} y2={height - 34} stroke="var(--hair)" />
            <text
              x={x(hour * 3600)}
              y={height - 20}
              textAnchor="middle"
              fontFamily="var(--mono)"
              fontSize="12"
              fill="var(--faded)"
            >
              {hour} h
            </text>
          </g>
        ))}
        {bars.map((bar, index) => {
          const y = 6 + index * ROW;
          const to = x(Math.max(bar.seconds, bar.cutOff));
          // The line of the hours wanted must not run through the figure.
          const words = text(bar);
          const crossed = to < x(wanted) && to + 12 + words.length * 8 > x(wanted);
          return (
            <g key={bar.key}>
              <text x={LABEL - 8} y={y + 18} textAnchor="end" fontWeight={bar.chosen ? 700 : 400} fill="var(--ink)">
                {bar.label}
              </text>
              <rect
                x={LABEL}
                y={y + 3}
                width={Math.max(1, x(bar.seconds) - LABEL)}
                height="22"
                fill={bar.chosen ? "var(--bank)" : "var(--bank-wash)"}
              />
              {bar.cutOff > bar.seconds && (
                <rect
                  x={x(bar.seconds)}
                  y={y + 3}
                  width={to - x(bar.seconds)}
                  height="22"
                  fill="url(#beyond)"
                  stroke="var(--bank)"
                  strokeWidth="0.6"
                />
              )}
              <text
                x={(crossed ? x(wanted) : to) + 6}
                y={y + 19}
                fontFamily="var(--mono)"
                fontWeight={bar.chosen ? 700 : 400}
                fill="var(--ink)"
                data-bar={bar.key}
              >
                {words}
                {bar.seconds > most ? " →" : ""}
              </text>
            </g>
          );
        })}
        <line x1={x(wanted)} x2={x(wanted)} y1={0} y2={height - 34} stroke="var(--ink)" strokeWidth="2.2" />
        <text x={x(wanted)} y={height - 4} textAnchor="middle" fontWeight="700" fontSize="12" fill="var(--ink)">
          wanted {formatQuantity(wanted, "duration", job.notation)}
        </text>
      </svg>
      <figcaption className="note">
        {say("interface.barsRead", { cause: useRun.cutOff ? ` (${within(END_WORDS[useRun.cutOff.cause])})` : "" })}
        {beyond && ` ${say("interface.barsBeyond")}`}
      </figcaption>
    </figure>
  );
}
