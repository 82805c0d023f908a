"use client";

import { max, min } from "d3-array";
import { scaleLinear } from "d3-scale";
import { area as areaShape, line as lineShape } from "d3-shape";
import { memo, useId, useMemo, useState } from "react";
import type { TestRunView } from "@/core/applications/test-run/report/view";
import { formatQuantity } from "@/core/units/format";
import type { UnitPreferences } from "@/core/units/dimension";
import { useBoxWidth } from "./use-box-width";
import { say } from "@/core/messages/say";

const LEFT = 46;
/** Where the title of the lower picture has ended. */
const BESIDE_TITLE = LEFT + 74;
const RIGHT = 10;
const TOP = 22;
const AMPS = 128;
const GAP = 26;
const LEVEL = 150;
const CODE = 12;
const HEIGHT = TOP + AMPS + GAP + LEVEL + 10 + CODE + 24;
const LEVEL_TOP = TOP + AMPS + GAP;
const LEVEL_BASE = LEVEL_TOP + LEVEL;

/** Path through points, pen up at NaN. */
function through(
  seconds: ArrayLike<number>,
  line: ArrayLike<number>,
  x: (s: number) => number,
  y: (v: number) => number,
) {
  const at = Array.from(seconds, (_, i) => i);
  const shape = lineShape<number>(
    (i) => x(seconds[i]!),
    (i) => y(line[i]!),
  )
    .defined((i) => !Number.isNaN(line[i]!))
    .digits(1);
  return shape(at) ?? "";
}

function band(
  { fromS, stepS }: TestRunView["fan"],
  [low, high]: [Float64Array, Float64Array],
  count: number,
  x: (s: number) => number,
  y: (v: number) => number,
) {
  const shape = areaShape<number>(
    (i) => x(fromS + i * stepS),
    (i) => y(low[i]!),
    (i) => y(high[i]!),
  ).digits(1);
  return shape(Array.from({ length: count }, (_, i) => i)) ?? "";
}

/** Least width of a tick's time, px: on a phone nine of them run into each other. */
const TICK_WIDTH = 50;
/** Hours between ticks of a time axis that is so many pixels wide. */
const hourStep = (hours: number, pixels: number) =>
  [0.25, 0.5, 1, 2, 3, 6, 12, 24].find((n) => hours / n <= Math.min(9, pixels / TICK_WIDTH)) ?? 24;

interface Props {
  view: TestRunView;
  notation: UnitPreferences;
  /** Wall time of a second of the log. */
  clock(second: number): string;
  /** The same with the weekday where it is half a day off or more. */
  when(second: number): string;
  /** Seconds of the local day at the log's start. */
  startOfDayS: number;
}

/**
 * The log as a strip: amps out of the battery above, charge below with what the design predicted behind it and the forecast
 * fanning out ahead to the reserve; what the unit did as a bar code.
 */
export const TestRunPlot = memo(function TestRunPlot({ view, notation, clock, when, startOfDayS }: Props) {
  const [box, width] = useBoxWidth(780);
  const id = useId();
  const [at, setAt] = useState<number | null>(null);
  const { fan, toReserve, reserve, lastS } = view;
  const drawn = useMemo(() => {
    // Ahead as far as the ninetieth comes to the reserve and a little more; a log that is over shows itself alone.
    const p50 = toReserve.p50 ?? 12;
    const p90 = Math.min(toReserve.p90 ?? 48, 1.6 * p50);
    const aheadS = Math.min(48 * 3600, Math.max(0.25 * lastS, Math.max(p90 * 1.12, 0.3) * 3600));
    const endS = lastS + aheadS;
    const x = scaleLinear([0, endS], [LEFT, width - RIGHT]);
    const lowest = min(view.amps, (a) => Math.min(a, 0)) ?? 0;
    const highest = max(view.amps, (a) => Math.max(a, 1)) ?? 1;
    // The top is a round number; below nought the axis goes no further than the log.
    const amps = scaleLinear([lowest, scaleLinear([0, highest], [0, 1]).nice(3).domain()[1]!], [TOP + AMPS, TOP]);
    const level = scaleLinear([0, 1.02], [LEVEL_BASE, LEVEL_BASE - 1.02 * LEVEL]).clamp(true);
    const count = Math.min(fan.p50.length, Math.ceil((endS - fan.fromS) / fan.stepS) + 1);
    const hours = endS / 3600;
    const every = hourStep(hours, width - LEFT - RIGHT) * 3600;
    const ticks: { x: number; text: string }[] = [];
    for (let s = every - (startOfDayS % every); s < endS; s += every) ticks.push({ x: x(s), text: clock(s) });
    const predicted = view.predicted;
    return {
      x,
      endS,
      ampTicks: amps.ticks(3).map((v) => ({ v, y: amps(v) })),
      amps: through(view.seconds, view.amps, x, amps),
      share: through(view.seconds, view.share, x, level),
      shown: through(view.seconds, view.shown, x, level),
      wide: band(fan, [fan.p10, fan.p90], count, x, level),
      narrow: band(fan, [fan.p25, fan.p75], count, x, level),
      middle: through(
        Array.from({ length: count }, (_, i) => fan.fromS + i * fan.stepS),
        fan.p50,
        x,
        level,
      ),
      predicted: through(
        Array.from({ length: predicted.length }, (_, i) => i * view.predictedStepS).filter((s) => s <= endS),
        predicted,
        x,
        level,
      ),
      level,
      ahead: Array.from({ length: count }, (_, i) => ({
        x: x(fan.fromS + i * fan.stepS),
        width: Math.max(0.5, x(fan.stepS) - x(0)),
        share: fan.share[i]!,
      })),
      ticks,
    };
  }, [view, fan, toReserve, lastS, width, clock, startOfDayS]);
  const { x, level, endS } = drawn;
  const nowX = x(lastS);
  const { reserveH } = view.outcome;
  const reserveS = reserveH !== null ? reserveH * 3600 : toReserve.p50 === null ? null : lastS + toReserve.p50 * 3600;
  const reserveX = reserveS === null ? null : x(reserveS);
  const reserveY = level(reserve);
  const seconds = at === null ? null : ((at - LEFT) / (width - LEFT - RIGHT)) * endS;
  const words = seconds === null || seconds < 0 ? "" : readingAt(view, seconds, clock, notation);
  return (
    <div ref={box} className="test-run-plot">
      <svg
        width={width}
        height={HEIGHT}
        style={{ display: "block" }}
        role="img"
        aria-label={say("interface.batteryCurrentStateCharge")}
        onMouseMove={({ nativeEvent }) => setAt(nativeEvent.offsetX)}
        onMouseLeave={() => setAt(null)}
      >
        <defs>
          <pattern id={`${id}-reserve`} width="7" height="7" patternUnits="userSpaceOnUse">
            <path d="M-1 8L8 -1M-1 1L1 -1M6 8L8 6" stroke="var(--bank)" strokeWidth="1" opacity="0.5" />
          </pattern>
          <clipPath id={`${id}-clip`}>
            <rect x={LEFT} y={0} width={Math.max(0, width - LEFT - RIGHT)} height={HEIGHT} />
          </clipPath>
        </defs>
        <g fontSize="11.5" fontFamily="var(--mono)" fill="var(--faded)" textAnchor="end">
          {drawn.ampTicks.map(({ v, y }) => (
            <g key={v}>
              <line x1={LEFT} x2={width - RIGHT} y1={y} y2={y} stroke={v === 0 ? "var(--ink)" : "var(--hair)"} />
              <text x={LEFT - 6} y={y + 4}>
                {v}
              </text>
            </g>
          ))}
          {[0, 0.5, 1].map((share) => (
            <g key={share}>
              <line
                x1={LEFT}
                x2={width - RIGHT}
                y1={level(share)}
                y2={level(share)}
                stroke={share === 0 ? "var(--ink)" : "var(--hair)"}
              />
              <text x={LEFT - 6} y={level(share) + 4}>
                {share * 100}
              </text>
            </g>
          ))}
        </g>
        <g fontSize="12" fill="var(--faded)">
          <text x={4} y={TOP - 8}>
            Battery current, A
          </text>
          <text x={4} y={LEVEL_TOP - 8}>
            State of charge, %
          </text>
        </g>
        <g clipPath={`url(#${id}-clip)`}>
          {view.gaps.map(({ fromMs, toMs }) => (
            <rect
              key={fromMs}
              x={x((fromMs - view.startMs) / 1000)}
              width={Math.max(1, x((toMs - fromMs) / 1000) - x(0))}
              y={TOP}
              height={AMPS}
              fill="var(--hair)"
              opacity="0.6"
            />
          ))}
          {view.charged.map(({ fromS, toS }) => (
            <path
              key={fromS}
              d={`M${x(fromS)} ${LEVEL_BASE + 4}v3H${x(toS)}v-3`}
              fill="none"
              stroke="var(--heat)"
              strokeWidth="1.5"
            />
          ))}
          <rect x={LEFT} y={reserveY} width={width} height={LEVEL_BASE - reserveY} fill={`url(#${id}-reserve)`} />
          <line x1={LEFT} x2={width} y1={reserveY} y2={reserveY} stroke="var(--bank)" strokeWidth="0.8" />
          <path d={drawn.wide} fill="var(--bank)" opacity="0.14" />
          <path d={drawn.narrow} fill="var(--bank)" opacity="0.2" />
          <path d={drawn.predicted} fill="none" stroke="var(--ink)" strokeWidth="1.1" strokeDasharray="1.5 3.5" />
          <path d={drawn.shown} fill="none" stroke="var(--sun)" strokeWidth="1.1" />
          <path d={drawn.share} fill="none" stroke="var(--bank)" strokeWidth="2" />
          <path d={drawn.middle} fill="none" stroke="var(--bank)" strokeWidth="1.6" strokeDasharray="6 4" />
          <path d={drawn.amps} fill="none" stroke="var(--cold)" strokeWidth="1.4" />
          {view.states.map(({ fromS, toS, state }) =>
            state === "compressor" ? (
              <rect
                key={fromS}
                x={x(fromS)}
                width={Math.max(0.8, x(toS) - x(fromS))}
                y={LEVEL_BASE + 10}
                height={CODE}
                fill="var(--cold)"
              />
            ) : state === "between" ? (
              <rect
                key={fromS}
                x={x(fromS)}
                width={x(toS) - x(fromS)}
                y={LEVEL_BASE + 15}
                height={2}
                fill="var(--cold)"
              />
            ) : null,
          )}
          {drawn.ahead.map(({ x: left, width: wide, share }) => (
            <rect
              key={left}
              x={left}
              width={wide}
              y={LEVEL_BASE + 10}
              height={CODE}
              fill="var(--cold)"
              opacity={0.5 * Math.min(1, share)}
            />
          ))}
          {view.peaks.map(({ at: ms }) => (
            <path
              key={ms}
              d={`M${x((ms - view.startMs) / 1000)} ${LEVEL_BASE + 10}v-5`}
              stroke="var(--heat)"
              strokeWidth="1.5"
            />
          ))}
          {view.notes
            .filter(({ text }) => !/clamp|peak/i.test(text))
            .map(({ ms, text }) => (
              <path key={`${ms}${text}`} d={`M${x((ms - view.startMs) / 1000)} ${TOP}l-3.5 -6h7z`} fill="var(--ink)">
                <title>{text}</title>
              </path>
            ))}
        </g>
        <line x1={nowX} x2={nowX} y1={TOP} y2={LEVEL_BASE + 10 + CODE} stroke="var(--ink)" />
        <text x={Math.max(nowX + 5, BESIDE_TITLE)} y={TOP + AMPS + 17} fontSize="12">
          last reading {clock(lastS)}
        </text>
        {view.pullDown && (
          <text x={LEFT + 108} y={TOP - 8} fontSize="12" fill="var(--faded)">
            pull-down {Math.round(((view.pullDown.toS ?? lastS) - view.pullDown.fromS) / 60)} min
            {view.pullDown.toS === null ? " so far" : ""}
          </text>
        )}
        {reserveX !== null && reserveX < width - RIGHT && (
          <g>
            <line x1={reserveX} x2={reserveX} y1={reserveY - 26} y2={reserveY} stroke="var(--ink)" strokeWidth="1.5" />
            <text
              x={reserveX > width - 140 ? reserveX - 6 : reserveX + 6}
              y={reserveY - 15}
              fontSize="13"
              fontWeight="700"
              textAnchor={reserveX > width - 140 ? "end" : "start"}
            >
              reserve {when(reserveS!)}
            </text>
          </g>
        )}
        {drawn.ticks.map((tick) => (
          <text
            key={tick.x}
            x={tick.x}
            y={HEIGHT - 6}
            fontSize="11.5"
            fontFamily="var(--mono)"
            fill="var(--faded)"
            textAnchor="middle"
          >
            {tick.text}
          </text>
        ))}
        {at !== null && at > LEFT && at < width - RIGHT && (
          <line x1={at} x2={at} y1={TOP} y2={LEVEL_BASE} stroke="var(--ink)" strokeWidth="0.8" strokeDasharray="2 2" />
        )}
      </svg>
      <p className="note plot-reading" aria-hidden="true">
        {words || say("interface.testRunPlot", { charged: view.charged.length > 0 ? "yes" : "no" })}
      </p>
    </div>
  );
});

function readingAt(view: TestRunView, second: number, clock: (s: number) => string, notation: UnitPreferences): string {
  if (second > view.lastS) {
    const k = Math.min(view.fan.p50.length - 1, Math.max(0, Math.round((second - view.fan.fromS) / view.fan.stepS)));
    const percent = (v: number) => Math.round(100 * Math.max(0, v));
    return `${clock(second)} · ${percent(view.fan.p50[k]!)} %, between ${percent(view.fan.p10[k]!)} and ${percent(view.fan.p90[k]!)} % · runs ${percent(view.fan.share[k]!)} % of the time`;
  }
  let i = 0;
  while (i < view.seconds.length - 1 && view.seconds[i]! < second) i++;
  const degrees = (v: number) => formatQuantity(v, "temperature", notation, 3);
  return [
    clock(view.seconds[i]!),
    `${view.amps[i]!.toFixed(1)} A out`,
    `${Math.round(100 * view.share[i]!)} % counted`,
    Number.isNaN(view.shown[i]!) ? "" : `monitor ${Math.round(100 * view.shown[i]!)} %`,
    Number.isNaN(view.cabinC[i]!) ? "" : `cabin ${degrees(view.cabinC[i]!)}`,
    Number.isNaN(view.outdoorC[i]!) ? "" : `outside ${degrees(view.outdoorC[i]!)}`,
    Number.isNaN(view.solar[i]!) ? "" : `sun ${Math.round(view.solar[i]!)} W`,
  ]
    .filter(Boolean)
    .join(" · ");
}
