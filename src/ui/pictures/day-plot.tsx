"use client";

import { scaleLinear } from "d3-scale";
import { useMemo } from "react";
import { localSecond, timeOfDay, type Clock } from "@/core/units/clock";
import type { DayRecord } from "@/core/simulation/day/record";
import { formatQuantity } from "@/core/units/format";
import type { DayAnswer } from "@/workers/day.worker";
import { useCursor } from "../state/day";
import { useReading } from "../state/sheet-context";
import { area, bars, extent, polyline } from "./day-shape";
import { wrapText } from "@/core/units/text";
import { useBoxWidth } from "./use-box-width";
import { say } from "@/core/messages/say";

const LEFT = 58;
const RIGHT = 10;
const CODE_Y = 4;
const CODE = 12;
const LEVEL = [24, 164] as const;
const POWER = [182, 252] as const;
const HEAT = [270, 368] as const;
const HEIGHT = 392;

const WEEKDAYS = ["Sun", "Mon", "Tue", "Wed", "Thu", "Fri", "Sat"];
const DATE = new Intl.DateTimeFormat("en-GB", { day: "numeric", month: "short", timeZone: "UTC" });
/** Weekday of a local moment, three letters. */
export const weekdayOf = (clock: Clock, second: number): string =>
  WEEKDAYS[(((Math.floor(localSecond(clock, second) / 86_400) + 4) % 7) + 7) % 7]!;

/** The run, large: compressor runs, level of the battery with its dawns, power in and out, temperatures; one to fourteen days. */
export function DayPlot({ day, days, humidity }: { day: DayAnswer; days: number; humidity: boolean }) {
  const { job, assessment } = useReading();
  const [box, width] = useBoxWidth(780);
  const { record, trend } = day;
  const prefs = job.notation;
  const reserve = assessment.values.bank.reserve.value;
  const steps = Math.min(record.steps, Math.round((days * 86_400) / record.stepS));
  const drawn = useMemo(() => {
    const span = [0, steps] as const;
    const inner = width - LEFT - RIGHT;
    const x = scaleLinear([0, Math.max(1, steps)], [LEFT, LEFT + inner]);
    const between = ([top, bottom]: readonly [number, number], low: number, high: number) =>
      scaleLinear([low, high], [bottom, top]);
    const level = between(LEVEL, 0, 1);
    const out = record.units.map((units, k) => units + record.loads[k]! + record.losses[k]!);
    const available = record.sunPower.map((used, k) => used + record.lost[k]!);
    const supplied = record.sunPower.map(
      (used, k) => used + record.engine[k]! + record.shore[k]! + record.generator[k]!,
    );
    const points = Math.min(1440, Math.round(inner * 1.5));
    const watts = between(POWER, 0, Math.max(extent([out, available, supplied], span)[1], 100)).nice(4);
    const [, most] = watts.domain() as [number, number];
    const [low, high] = extent([record.cabinC, record.outdoorC, record.setPointC], span);
    const degrees = between(HEAT, Math.floor((low - 1) / 5) * 5, Math.ceil((high + 1) / 5) * 5);
    const [cool, warm] = degrees.domain() as [number, number];
    const every = days <= 1 ? 3 : days <= 2 ? 6 : days <= 4 ? 12 : 24;
    const ticks: { x: number; text: string; midnight: boolean }[] = [];
    for (let hour = 0; hour <= days * 24; hour++) {
      const local = localSecond(record.clock, hour * 3600) / 3600;
      const ofDay = ((Math.round(local) % 24) + 24) % 24;
      if (ofDay % every !== 0) continue;
      const at = x((hour * 3600) / record.stepS);
      if (at > width - 20) continue;
      const midnight = ofDay === 0;
      const name = weekdayOf(record.clock, hour * 3600 + 60);
      ticks.push({
        x: at,
        midnight,
        text: midnight ? (days <= 4 ? `${name} 00:00` : name) : timeOfDay(record.clock, hour * 3600),
      });
    }
    return {
      x,
      level,
      ticks,
      most,
      cool,
      warm,
      watts,
      degrees,
      levelArea: area(record.stateOfCharge, span, points, { x, y: level, base: LEVEL[1] }),
      levelLine: polyline(record.stateOfCharge, span, points, x, level),
      available: area(available, span, points, { x, y: watts, base: POWER[1] }),
      used: area(supplied, span, points, { x, y: watts, base: POWER[1] }),
      out: polyline(out, span, points, x, watts),
      cabin: polyline(record.cabinC, span, points, x, degrees),
      outdoor: polyline(record.outdoorC, span, points, x, degrees),
      set: polyline(record.setPointC, span, points, x, degrees),
      wet: polyline(record.humidity, span, points, x, between(HEAT, 0, 1)),
      code: bars(record, span, Math.round(inner), x),
    };
  }, [record, steps, width, days]);
  const dawns = trend.sunrises.filter(({ at }) => at < steps * record.stepS);
  const stop = record.stop && record.stop.at < steps * record.stepS ? record.stop : null;
  const temperature = (value: number) => formatQuantity(value, "temperature", prefs, 3);
  return (
    <div ref={box} className="day-plot">
      <svg
        width={width}
        height={HEIGHT}
        style={{ display: "block" }}
        role="img"
        aria-label={say("interface.dayPlot", { days, lasts: day.words.lasts.long, recovers: day.words.recovers.long })}
      >
        <defs>
          <pattern id="plot-reserve" width="7" height="7" patternUnits="userSpaceOnUse">
            <path d="M-1 8L8 -1M-1 1L1 -1M6 8L8 6" stroke="var(--bank)" strokeWidth="1" opacity="0.55" />
          </pattern>
          <pattern id="plot-lost" width="6" height="6" patternUnits="userSpaceOnUse">
            <path d="M-1 -1L7 7M-1 5L1 7M5 -1L7 1" stroke="var(--sun)" strokeWidth="1" opacity="0.7" />
          </pattern>
        </defs>
        <g fontSize="11.5" fill="var(--faded)" fontFamily="var(--mono)">
          {drawn.ticks.map((tick) => (
            <g key={tick.x}>
              <line
                x1={tick.x}
                x2={tick.x}
                y1={CODE_Y}
                y2={HEAT[1]}
                stroke="var(--hair)"
                strokeWidth={tick.midnight ? 1.6 : 1}
              />
              <text x={tick.x + 3} y={HEIGHT - 8}>
                {tick.text}
              </text>
            </g>
          ))}
          {[0, 0.5, 1].map((share) => (
            <text key={share} x={LEFT - 5} y={drawn.level(share) + 4} textAnchor="end">
              {share * 100} %
            </text>
          ))}
          <text x={LEFT - 5} y={POWER[0] + 8} textAnchor="end">
            {drawn.most >= 1000 ? `${drawn.most / 1000} kW` : `${drawn.most} W`}
          </text>
          <text x={LEFT - 5} y={POWER[1]} textAnchor="end">
            0
          </text>
          <text x={LEFT - 5} y={HEAT[0] + 8} textAnchor="end">
            {temperature(drawn.warm)}
          </text>
          <text x={LEFT - 5} y={HEAT[1]} textAnchor="end">
            {temperature(drawn.cool)}
          </text>
        </g>
        {drawn.code.map((bar) => (
          <rect
            key={bar.x}
            x={bar.x}
            y={CODE_Y}
            width={Math.max(0.6, bar.width)}
            height={CODE}
            fill="var(--cold)"
            opacity={0.2 + 0.8 * Math.min(1, bar.share)}
          />
        ))}
        <path d={drawn.levelArea} fill="var(--bank-wash)" />
        <rect
          x={LEFT}
          y={drawn.level(reserve)}
          width={width - LEFT - RIGHT}
          height={LEVEL[1] - drawn.level(reserve)}
          fill="url(#plot-reserve)"
        />
        <path d={drawn.levelLine} fill="none" stroke="var(--bank)" strokeWidth="2" />
        <path d={drawn.available} fill="url(#plot-lost)" />
        <path d={drawn.used} fill="var(--paper)" />
        <path d={drawn.used} fill="var(--sun)" opacity="0.4" />
        <path d={drawn.out} fill="none" stroke="var(--cold)" strokeWidth="1.2" />
        <path d={drawn.outdoor} fill="none" stroke="var(--heat)" strokeWidth="1" />
        <path d={drawn.set} fill="none" stroke="var(--cold)" strokeWidth="1" strokeDasharray="4 3" />
        <path d={drawn.cabin} fill="none" stroke="var(--ink)" strokeWidth="1.5" />
        {humidity && (
          <path d={drawn.wet} fill="none" stroke="var(--bank)" strokeWidth="1.1" strokeDasharray="1.5 2.5" />
        )}
        {[LEVEL, POWER, HEAT].map(([, bottom]) => (
          <line
            key={bottom}
            x1={LEFT}
            x2={width - RIGHT}
            y1={bottom + 0.5}
            y2={bottom + 0.5}
            stroke="var(--ink)"
            strokeWidth="0.8"
          />
        ))}
        {dawns.map(({ at, share }) => (
          <g key={at}>
            <circle
              cx={drawn.x(at / record.stepS)}
              cy={drawn.level(share)}
              r="3.6"
              fill="var(--page)"
              stroke="var(--bank)"
              strokeWidth="1.6"
            />
            <text
              x={drawn.x(at / record.stepS)}
              y={Math.max(LEVEL[0] + 8, drawn.level(share) - 8)}
              fontSize="11.5"
              fontFamily="var(--mono)"
              textAnchor="middle"
              fill="var(--ink)"
              stroke="var(--paper)"
              strokeWidth="3"
              paintOrder="stroke"
            >
              {formatQuantity(share, "ratio", prefs, 2)}
            </text>
          </g>
        ))}
        {stop && <Stop at={drawn.x(stop.at / record.stepS)} width={width} words={stopWords(record)} />}
        <g fontSize="12" fill="var(--ink)" stroke="var(--paper)" strokeWidth="3" paintOrder="stroke">
          <text x={LEFT + 4} y={LEVEL[1] - 4}>
            reserve
          </text>
          <text x={LEFT + 4} y={POWER[0] + 9}>
            solar in (hatched: curtailed, battery full), <tspan fill="var(--cold)">taken out</tspan>
          </text>
          <text x={LEFT + 4} y={HEAT[0] + 9}>
            cabin, <tspan fill="var(--heat)">outdoors</tspan>, <tspan fill="var(--cold)">set point</tspan>
            {humidity ? ", humidity dotted (0 to 100 %)" : ""}
          </text>
        </g>
        <CursorLine steps={steps} width={width} />
      </svg>
    </div>
  );
}

/** Why supply ended, and when. */
export function stopWords(record: DayRecord): string {
  if (!record.stop) return "";
  const { at, cause } = record.stop;
  // With its date: a fortnight has each weekday twice.
  const date = DATE.format(localSecond(record.clock, at) * 1000);
  const when = `${weekdayOf(record.clock, at)} ${date}, ${timeOfDay(record.clock, at)}`;
  const why = {
    inverter: "inverter switches off at its low-voltage cut-off",
    bank: "BMS opens at its low-voltage cut-off",
    empty: "battery empty",
    overload: "load above the inverter's rating",
    protection: "current above the BMS limit",
    unit: "air conditioner switches off at its low-voltage cut-off",
  };
  return `${when}: ${why[cause]}`;
}

/** px that a letter of 12 px type takes, at most on average. */
const LETTER = 6.6;
const STOP_LINES = 3;

/** Where supply from the battery ends, with its words beside the line in as many lines as they need. */
function Stop({ at, width, words }: { at: number; width: number; words: string }) {
  const lines = wrapText(words, Math.floor((width - LEFT - RIGHT) / LETTER), STOP_LINES);
  const room = Math.max(...lines.map((line) => line.length)) * LETTER;
  const x = at + 5 + room <= width ? at + 5 : Math.max(LEFT, Math.min(at - 5 - room, width - RIGHT - room));
  return (
    <g>
      <line x1={at} x2={at} y1={LEVEL[0]} y2={LEVEL[1]} stroke="var(--heat)" strokeWidth="1.6" />
      <g fontSize="12" fill="var(--heat)" stroke="var(--paper)" strokeWidth="3" paintOrder="stroke">
        {lines.map((line, i) => (
          <text key={i} x={x} y={LEVEL[0] + 12 + 14 * i}>
            {line}
          </text>
        ))}
      </g>
    </g>
  );
}

/** The line at the moment that is read; follows the pointer and drawn apart from the rest. */
function CursorLine({ steps, width }: { steps: number; width: number }) {
  const { cursor, setCursor } = useCursor();
  const inner = width - LEFT - RIGHT;
  const x = cursor === null ? null : LEFT + (Math.min(cursor, steps) / Math.max(1, steps)) * inner;
  return (
    <>
      {x !== null && <line x1={x} x2={x} y1={0} y2={HEAT[1]} stroke="var(--ink)" strokeDasharray="2 2" />}
      <rect
        x={LEFT}
        y={0}
        width={inner}
        height={HEAT[1]}
        fill="transparent"
        onMouseMove={({ nativeEvent, currentTarget }) => {
          const left = currentTarget.ownerSVGElement!.getBoundingClientRect().left;
          const share = (nativeEvent.clientX - left - LEFT) / inner;
          setCursor(Math.max(0, Math.min(steps - 1, Math.floor(share * steps))));
        }}
      />
    </>
  );
}
