"use client";

import { useMemo } from "react";
import type { TripLine } from "@/workers/options.worker";
import { PALETTE } from "../palette";
import Chart, { type ChartOption } from "./chart";
import { AXIS, SANS, TOOLTIP } from "./style";

const COLOURS = [PALETTE.bank, PALETTE.cold, PALETTE.heat, PALETTE.sun];
const DASHES = ["solid", "dashed", "dotted", [8, 3, 2, 3]] as const;

/** The level of designs through the same days, one axis for all. */
export default function TripPlot({ lines, names }: { lines: readonly TripLine[]; names: readonly string[] }) {
  const option = useMemo<ChartOption>(() => {
    const stepH = (lines[0]?.stepS ?? 300) / 3600;
    const every = 3;
    const last = (lines[0]?.share.length ?? 0) * stepH;
    return {
      animation: false,
      grid: { left: 8, right: 24, top: 26, bottom: 24, containLabel: true },
      tooltip: { ...TOOLTIP, trigger: "axis", valueFormatter: (value) => `${Number(value).toFixed(0)} %` },
      xAxis: {
        type: "value",
        min: 0,
        max: last,
        interval: 12,
        name: "hours from noon",
        nameLocation: "middle",
        nameGap: 26,
        ...AXIS,
        splitLine: { show: false },
      },
      yAxis: { type: "value", min: 0, max: 100, name: "level, %", ...AXIS, axisLine: { show: false } },
      series: lines.map((line, i) => ({
        type: "line",
        name: names[i],
        showSymbol: false,
        lineStyle: { color: COLOURS[i % 4], width: 1.5, type: DASHES[i % 4] as "solid" },
        itemStyle: { color: COLOURS[i % 4] },
        endLabel: { show: true, formatter: String(i + 1), color: COLOURS[i % 4], fontFamily: SANS, fontSize: 12 },
        data: Array.from({ length: Math.floor(line.share.length / every) }, (_, k) => [
          Number((k * every * stepH).toFixed(2)),
          Number((100 * line.share[k * every]!).toFixed(1)),
        ]),
      })),
    };
  }, [lines, names]);
  return <Chart option={option} height={210} label={`Level of the bank through one trip: ${names.join("; ")}`} />;
}
