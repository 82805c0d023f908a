"use client";

import { useMemo } from "react";
import { formatQuantity } from "@/core/quantity/format";
import type { Limit, StartTrace } from "@/core/start/start";
import type { Assessment } from "@/core/verdict/assess";
import { PALETTE } from "../palette";
import { useReading } from "../state/sheet-context";
import Chart, { type ChartOption } from "./chart";
import { AXIS, hatch, MONO, SANS, TOOLTIP } from "./style";

const LIMIT_NAMES: Record<Limit, string> = {
  inverter: "inverter surge",
  voltage: "what the voltage allows",
  protection: "battery limit",
  fuse: "fuse",
};

type Point = [number, number];
const FIRST = 0.01;

const seconds = (value: number) => (value < 0.1 ? `${Math.round(value * 1000)} ms` : `${Number(value.toPrecision(2))} s`);

/** The limit with the least room over the demand. */
function decisive(trace: StartTrace): Limit | undefined {
  const ratio = (limit: Limit) => {
    const at = trace.nearest[limit];
    return at && at.need > 0 ? at.has / at.need : Infinity;
  };
  return (Object.keys(trace.limits) as Limit[]).sort((a, b) => ratio(a) - ratio(b))[0];
}

/** Stretches in which the demand lies over its lowest limit, as closed outlines. */
function overruns(trace: StartTrace, demand: Float64Array): Point[][] {
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

function startOption(start: Assessment["start"], converted: boolean): ChartOption {
  const { own, bare } = start;
  const kilo = 1 / 1000;
  const peak = Math.max(own.peakApparent, bare?.peakApparent ?? 0);
  const decides = decisive(own);
  const decidingValues = decides ? own.limits[decides]! : undefined;
  const lowestLimit = decidingValues ? Math.min(...decidingValues) : peak;
  // The picture is about the crossing: limits far above everything else run off the top.
  const top = niceTop(Math.max(peak * 1.18, Math.min(lowestLimit * 1.3, peak * 3)) * kilo);
  const points = (trace: StartTrace, line: Float64Array): Point[] => Array.from(line, (value, k) => [trace.seconds[k]!, value * kilo]);
  const last = own.seconds[own.seconds.length - 1]!;
  const unit = converted ? "kVA" : "kW";

  const limitLines = (Object.entries(own.limits) as [Limit, Float64Array][]).map(([limit, line]) => {
    const bold = limit === decides;
    const visible = line[0]! * kilo <= top;
    // Named at its left end where that is in the picture, otherwise where it comes down into it.
    const at = visible ? 0 : line.findIndex((value) => value * kilo <= top * 0.94);
    return {
      type: "line" as const,
      name: LIMIT_NAMES[limit],
      data: points(own, line),
      clip: true,
      symbol: "none",
      silent: true,
      lineStyle: { color: bold ? PALETTE.ink : PALETTE.faded, width: bold ? 2.4 : 1 },
      label: { show: false },
      z: bold ? 4 : 3,
      markLine: { silent: true, symbol: "none", data: [] },
      labelAt: at,
      bold,
    };
  });
  const labels = limitLines
    .filter((line) => line.labelAt >= 0)
    .map((line) => ({
      value: line.data[line.labelAt]!,
      label: {
        show: true,
        formatter: line.name,
        position: [6, -16] as [number, number],
        color: line.bold ? PALETTE.ink : PALETTE.faded,
        fontWeight: line.bold ? ("bold" as const) : ("normal" as const),
        fontFamily: SANS,
        fontSize: 12,
        align: line.labelAt > own.seconds.length * 0.75 ? ("right" as const) : ("left" as const),
        textBorderColor: PALETTE.paper,
        textBorderWidth: 3,
      },
    }));
  const nearest = decides ? own.nearest[decides] : undefined;
  const nearestIndex = nearest ? own.seconds.indexOf(nearest.seconds) : -1;
  const soft = bare !== null;
  const ownName = soft ? "with its cure" : own.shape.settles > 10 ? "ramps up" : "the start";

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
        const lines = shown.map((item) => `${item.seriesName}: ${(item.value as Point)[1].toFixed(2)} ${unit}`);
        return [head, ...lines].join("<br>");
      },
    },
    xAxis: { type: "log", min: FIRST, max: last, ...AXIS, splitLine: { show: false }, axisLabel: { ...AXIS.axisLabel, formatter: seconds } },
    yAxis: { type: "value", min: 0, max: top, name: unit, ...AXIS, axisLine: { show: false }, axisTick: { show: false }, nameTextStyle: { ...AXIS.nameTextStyle, align: "right" } },
    series: [
      ...overruns(own, bare && overruns(own, own.apparent).length === 0 ? bare.apparent.length === own.apparent.length ? bare.apparent : own.apparent : own.apparent).map((outline) => ({
        type: "custom" as const,
        silent: true,
        clip: true,
        z: 1,
        data: [outline[0]!],
        renderItem: (_: unknown, api: { coord(point: Point): number[] }) => ({
          type: "polygon" as const,
          shape: { points: outline.map(([x, y]) => api.coord([x, y * kilo])) },
          style: { fill: hatch(PALETTE.heat) },
        }),
      })) as ChartOption["series"] as [],
      ...limitLines.map(({ labelAt: _at, bold: _bold, ...line }) => line),
      ...(bare
        ? [{ type: "line" as const, name: "bare", data: points(bare, bare.apparent), symbol: "none", clip: true, lineStyle: { color: PALETTE.heat, width: 1.4, type: "dashed" as const }, z: 5 }]
        : []),
      { type: "line" as const, name: ownName, data: points(own, own.apparent), symbol: "none", clip: true, lineStyle: { color: PALETTE.cold, width: 2.4 }, z: 6 },
      {
        type: "scatter" as const,
        silent: true,
        symbolSize: 0.01,
        z: 7,
        data: [
          ...labels,
          ...(bare
            ? [{ value: [FIRST, bare.peakApparent * kilo] as Point, label: { show: true, formatter: `bare, ${bare.shape.peakCurrent.toFixed(0)} A`, position: [6, -16] as [number, number], color: PALETTE.heat, fontFamily: SANS, fontSize: 12, textBorderColor: PALETTE.paper, textBorderWidth: 3 } }]
            : []),
          {
            value: [own.peakSeconds, own.peakApparent * kilo] as Point,
            label: { show: true, formatter: `${ownName}, peak ${own.shape.peakCurrent.toFixed(own.shape.peakCurrent < 10 ? 1 : 0)} A`, position: [0, -18] as [number, number], color: PALETTE.cold, fontWeight: "bold" as const, fontFamily: SANS, fontSize: 12, textBorderColor: PALETTE.paper, textBorderWidth: 3 },
          },
        ],
      },
      ...(nearest && nearestIndex >= 0
        ? [{
            type: "scatter" as const,
            silent: true,
            symbolSize: 8,
            itemStyle: { color: nearest.has < nearest.need ? PALETTE.heat : PALETTE.cold },
            z: 8,
            data: [{
              value: [nearest.seconds, own.apparent[nearestIndex]! * kilo] as Point,
              label: { show: true, formatter: `margin ${(nearest.need > 0 ? nearest.has / nearest.need : 9).toFixed(2)}`, position: "right" as const, fontFamily: MONO, fontSize: 12, fontWeight: "bold" as const, color: nearest.has < nearest.need ? PALETTE.heat : PALETTE.ink, textBorderColor: PALETTE.paper, textBorderWidth: 3 },
            }],
          }]
        : []),
    ],
  };
}

function niceTop(value: number): number {
  const step = 10 ** Math.floor(Math.log10(value));
  return [1, 1.5, 2, 3, 4, 5, 6, 8, 10].map((n) => n * step).find((n) => n >= value) ?? value;
}

/** Demand over time against every limit; the part over the lowest limit hatched. */
export default function StartChart() {
  const { assessment, rig } = useReading();
  const { start } = assessment;
  const converted = assessment.figures["carries.inverter"] !== undefined;
  const option = useMemo(() => startOption(start, converted), [start, converted]);
  const peak = formatQuantity(start.own.peakApparent, converted ? "apparentPower" : "power", rig.notation);
  const { word, decides } = assessment.verdicts.starts;
  return <Chart option={option} height={430} label={`Demand of the start over time against its limits: peak ${peak}; ${word}, decided by ${decides.name}.`} />;
}
