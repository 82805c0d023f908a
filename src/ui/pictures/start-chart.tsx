"use client";

import { scaleLinear } from "d3-scale";
import { format } from "echarts/core";
import { useCallback, useMemo } from "react";
import { formatQuantity } from "@/core/units/format";
import { limitName, type Limit, type StartTrace } from "@/core/simulation/start/start";
import type { Job } from "@/core/document/schema";
import { starterOnBattery } from "@/core/assessment/starts/starts";
import { mainsVoltage } from "@/core/document/defaults";
import type { Assessment } from "@/core/assessment/verdicts/assess";
import { THEMED } from "../palette";
import { useReading } from "../state/sheet-context";
import Chart, { type ChartOption } from "./chart";
import { AXIS, hatch, MONO, SANS, TOOLTIP } from "./style";
import { say } from "@/core/messages/say";

type Point = [number, number];
const FIRST = 0.01;

const seconds = (value: number) =>
  value < 0.1 ? `${Math.round(value * 1000)} ms` : `${Number(value.toPrecision(2))} s`;

/** The limit with the least room over the demand. */
function decisive(trace: StartTrace): Limit | undefined {
  const ratio = (limit: Limit) => {
    const at = trace.nearest[limit];
    return at && at.need > 0 ? at.has / at.need : Infinity;
  };
  return (Object.keys(trace.limits) as Limit[]).sort((a, b) => ratio(a) - ratio(b))[0];
}

/** Where each line's name stands: above the line, at the place where it hides least. Null where none of it is in view. */
function placeLabels(
  lines: { text: string; data: Point[] }[],
  others: Point[][],
  pinned: { text: string; at: Point; beside?: "left" | "right" }[],
  last: number,
  top: number,
): ({ at: Point; shift: number } | null)[] {
  // Pixels of a middling drawing; only the order of crowding matters.
  const [wide, high] = [420, 370];
  // A phone's drawing is by so much narrower that its names take that much more of it.
  const narrower = 0.4;
  const pixel = ([x, y]: Point): Point => [
    (Math.log(x / FIRST) / Math.log(last / FIRST)) * wide,
    high - (y / top) * high,
  ];
  const crowd = others.map((line) => line.map(pixel));
  const taken = pinned.map(({ text, at, beside }): [number, number, number, number] => {
    const [x, y] = pixel(at);
    const length = 10 + text.length * 7.2;
    if (beside === "left") return [x - length, y - 9, x + 6, y + 9];
    return beside ? [x - 6, y - 9, x + length, y + 9] : [x, y - 18, x + text.length * 6.6, y - 3];
  });
  return lines.map(({ text, data }) => {
    let best: { cost: number; at: Point; shift: number; box: [number, number, number, number] } | null = null;
    const width = text.length * 6.6;
    for (let k = 0; k < data.length; k++) {
      const [x, y] = pixel(data[k]!);
      const from = Math.min(x, wide - width);
      const box: [number, number, number, number] = [from, y - 18, from + width, y - 3];
      if (box[1] < 2 || y > high) continue;
      const hides = crowd.reduce(
        (sum, line) =>
          sum + line.filter(([a, b]) => a > box[0] - 3 && a < box[2] + 3 && b > box[1] && b < box[3]).length,
        0,
      );
      const overlaps = taken.filter(
        (other) => box[0] < other[2] && box[2] + narrower * width > other[0] && box[1] < other[3] && box[3] > other[1],
      ).length;
      const cost = 3 * hides + 60 * overlaps + x / wide;
      if (!best || cost < best.cost) best = { cost, at: data[k]!, shift: from - x, box };
    }
    if (best) taken.push([best.box[0], best.box[1], best.box[2] + narrower * width, best.box[3]]);
    return best && { at: best.at, shift: best.shift };
  });
}

const amps = (value: number) => `${value.toFixed(value < 10 ? 1 : 0)} A`;

/** Stretches in which the demand lies over its lowest limit, as closed outlines. */
function overruns(trace: StartTrace): Point[][] {
  const demand = trace.apparent;
  const limits = Object.values(trace.limits);
  const lowest = (k: number) => Math.min(...limits.map((line) => line[k]!));
  const found: Point[][] = [];
  let upper: Point[] = [];
  let lower: Point[] = [];
  const close = () => {
    if (upper.length > 1) found.push([...upper, ...lower.reverse()]);
    upper = [];
    lower = [];
  };
  for (let k = 0; k < trace.seconds.length; k++) {
    const limit = lowest(k);
    if (demand[k]! > limit * 1.0005) {
      upper.push([trace.seconds[k]!, demand[k]!]);
      lower.push([trace.seconds[k]!, limit]);
    } else close();
  }
  close();
  return found;
}

/** A further demand over time to draw: another start aid, or the start as it was caught. VA over seconds. */
export interface ExtraTrace {
  name: string;
  seconds: readonly number[];
  demand: readonly number[];
  colour: string;
  dash: "solid" | "dashed" | "dotted";
}

function startOption(start: Assessment["start"], converted: boolean, extras: readonly ExtraTrace[]): ChartOption {
  const { own, bare } = start;
  const kilo = 1 / 1000;
  const peak = Math.max(own.peakApparent, bare?.peakApparent ?? 0, ...extras.flatMap(({ demand }) => demand));
  const decides = decisive(own);
  const decidingValues = decides ? own.limits[decides]! : undefined;
  const lowestLimit = decidingValues ? Math.min(...decidingValues) : peak;
  // The picture is about the crossing: limits far above everything else run off the top.
  const highest = Math.max(peak * 1.18, Math.min(lowestLimit * 1.3, peak * 3)) * kilo;
  const top = scaleLinear().domain([0, highest]).nice(6).domain()[1]!;
  const points = (trace: StartTrace, line: Float64Array): Point[] =>
    Array.from(line, (value, k) => [trace.seconds[k]!, value * kilo]);
  const last = own.seconds[own.seconds.length - 1]!;
  const unit = converted ? "kVA" : "kW";

  const drawn = (Object.entries(own.limits) as [Limit, Float64Array][]).map(([limit, line]) => ({
    limit,
    bold: limit === decides,
    data: points(own, line),
  }));
  const limitLines = drawn.map(({ limit, bold, data }) => ({
    type: "line" as const,
    name: limitName(limit, own),
    data,
    clip: true,
    symbol: "none",
    silent: true,
    lineStyle: { color: bold ? THEMED.ink : THEMED.faded, width: bold ? 2.4 : 1 },
    z: bold ? 4 : 3,
  }));
  const label = (text: string, colour: string, bold = false, shift = 0) => ({
    show: true,
    formatter: text,
    position: [shift, -17] as [number, number],
    color: colour,
    fontFamily: SANS,
    fontSize: 12,
    fontWeight: bold ? ("bold" as const) : ("normal" as const),
    textBorderColor: THEMED.paper,
    textBorderWidth: 3,
  });
  const demands = [points(own, own.apparent), ...(bare ? [points(bare, bare.apparent)] : [])];
  const nearest = decides ? own.nearest[decides] : undefined;
  const nearestIndex = nearest ? own.seconds.indexOf(nearest.seconds) : -1;
  const margin = nearest ? `margin ${(nearest.need > 0 ? nearest.has / nearest.need : 9).toFixed(2)}` : "";
  const nearestAt: Point | null =
    nearest && nearestIndex >= 0 ? [nearest.seconds, own.apparent[nearestIndex]! * kilo] : null;
  // Within a decade of the scale's end there is no room to the right of the point.
  const beside: "left" | "right" = nearest && nearest.seconds > last / 10 ? "left" : "right";
  const ownName = bare ? "with its start aid" : own.shape.settles > 10 ? "ramps up" : "the start";
  const bareName = bare
    ? [{ text: `bare, ${amps(bare.shape.peakCurrent)}`, at: [FIRST, bare.peakApparent * kilo] as Point }]
    : [];
  // The demand is named first, so that the limits make room for it.
  const named = [
    {
      text: `${ownName}, peak ${amps(own.shape.peakCurrent)}`,
      data: demands[0]!,
      colour: THEMED.cold as string,
      bold: true,
    },
    ...drawn
      .sort((a, b) => Number(b.bold) - Number(a.bold))
      .map(({ limit, bold, data }) => ({
        text: limitName(limit, own),
        data,
        colour: (bold ? THEMED.ink : THEMED.faded) as string,
        bold,
      })),
  ];
  const extraLines = extras.map(({ name, seconds: times, demand, colour, dash }) => ({
    type: "line" as const,
    name,
    data: times.map((t, k): Point => [Math.max(FIRST, t), demand[k]! * kilo]),
    symbol: "none",
    clip: true,
    lineStyle: { color: colour, width: 1.5, type: dash },
    endLabel: { show: false },
    z: 5,
  }));
  named.push(...extras.map(({ name, colour }, i) => ({ text: name, data: extraLines[i]!.data, colour, bold: false })));
  const pinned = [...bareName, ...(nearestAt ? [{ text: margin, at: nearestAt, beside }] : [])];
  const places = placeLabels(named, [...demands, ...drawn.map(({ data }) => data)], pinned, last, top);
  const labels = named.flatMap(({ text, colour, bold }, i) => {
    const place = places[i];
    return place ? [{ value: place.at, label: label(text, colour, bold, place.shift) }] : [];
  });

  return {
    animation: false,
    grid: { left: 8, right: 16, top: 30, bottom: 6, containLabel: true },
    tooltip: {
      ...TOOLTIP,
      trigger: "axis",
      formatter: (items) => {
        const list = (Array.isArray(items) ? items : [items]) as { seriesName?: string; value: unknown }[];
        const shown = list.filter((item) => item.seriesName && Array.isArray(item.value));
        const head = shown[0] ? seconds((shown[0].value as Point)[0]) : "";
        const lines = shown.map(
          (item) => `${format.encodeHTML(item.seriesName!)}: ${(item.value as Point)[1].toFixed(2)} ${unit}`,
        );
        return [head, ...lines].join("<br>");
      },
    },
    xAxis: {
      type: "log",
      min: FIRST,
      max: last,
      ...AXIS,
      splitLine: { show: false },
      axisLabel: { ...AXIS.axisLabel, formatter: seconds },
    },
    yAxis: {
      type: "value",
      min: 0,
      max: top,
      name: unit,
      ...AXIS,
      axisLine: { show: false },
      axisTick: { show: false },
      nameTextStyle: { ...AXIS.nameTextStyle, align: "right" },
    },
    series: [
      ...(overruns(own).map((outline) => ({
        type: "custom" as const,
        silent: true,
        clip: true,
        z: 1,
        data: [outline[0]!],
        renderItem: (_: unknown, api: { coord(point: Point): number[] }) => ({
          type: "polygon" as const,
          shape: { points: outline.map(([x, y]) => api.coord([x, y * kilo])) },
          style: { fill: hatch("#c4573f") },
        }),
      })) as ChartOption["series"] as []),
      ...limitLines,
      ...extraLines,
      ...(bare
        ? [
            {
              type: "line" as const,
              name: "bare",
              data: points(bare, bare.apparent),
              symbol: "none",
              clip: true,
              lineStyle: { color: THEMED.heat, width: 1.4, type: "dashed" as const },
              z: 5,
            },
          ]
        : []),
      {
        type: "line" as const,
        name: ownName,
        data: points(own, own.apparent),
        symbol: "none",
        clip: true,
        lineStyle: { color: THEMED.cold, width: 2.4 },
        z: 6,
      },
      {
        type: "scatter" as const,
        silent: true,
        symbolSize: 0.01,
        itemStyle: { opacity: 1 },
        z: 7,
        data: [...labels, ...bareName.map(({ text, at }) => ({ value: at, label: label(text, THEMED.heat) }))],
      },
      ...(nearest && nearestAt
        ? [
            {
              type: "scatter" as const,
              silent: true,
              symbolSize: 8,
              itemStyle: { opacity: 1, color: nearest.has < nearest.need ? THEMED.heat : THEMED.cold },
              z: 8,
              data: [
                {
                  value: nearestAt,
                  label: {
                    show: true,
                    formatter: margin,
                    position: beside,
                    fontFamily: MONO,
                    fontSize: 12,
                    fontWeight: "bold" as const,
                    color: nearest.has < nearest.need ? THEMED.heat : THEMED.ink,
                    textBorderColor: THEMED.paper,
                    textBorderWidth: 3,
                  },
                },
              ],
            },
          ]
        : []),
    ],
  };
}

const NONE: readonly ExtraTrace[] = [];

/** Starts that were caught by a clamp or scope, as VA. */
function captureTraces(job: Job, converted: boolean): ExtraTrace[] {
  if (!converted) return [];
  const volts = mainsVoltage(job);
  return job.units.flatMap(({ capture, name }) =>
    capture && capture.length > 1
      ? [
          {
            name: job.units.length > 1 ? `as captured, ${name}` : "as caught",
            seconds: capture.map(([t]) => t),
            demand: capture.map(([, a]) => a * volts),
            colour: THEMED.bank,
            dash: "solid" as const,
          },
        ]
      : [],
  );
}

interface StartChartProps {
  extras?: readonly ExtraTrace[];
  height?: number;
}

/** A start over time; in words where there is no curve to draw. */
export default function StartChart(props: StartChartProps) {
  const { assessment, job } = useReading();
  const unit = starterOnBattery(job, assessment.start.own);
  return unit ? <p>{say("interface.startsFromBattery", { name: unit.name })}</p> : <StartCurve {...props} />;
}

/** Demand over time against every limit; the part over the lowest limit hatched. */
function StartCurve({ extras = NONE, height = 390 }: StartChartProps) {
  const { assessment, job } = useReading();
  const { start } = assessment;
  const converted = assessment.figures["carries.inverter"] !== undefined;
  const caught = useMemo(() => captureTraces(job, converted), [job, converted]);
  const draw = useCallback(
    () => startOption(start, converted, [...caught, ...extras]),
    [start, converted, caught, extras],
  );
  const peak = formatQuantity(start.own.peakApparent, converted ? "apparentPower" : "power", job.notation);
  const { word, decides } = assessment.verdicts.starts;
  return (
    <Chart
      draw={draw}
      height={height}
      label={say("interface.demandStartOverTime", { peak, word, name: decides.name })}
    />
  );
}
