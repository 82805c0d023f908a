"use client";

import { format } from "echarts/core";
import { useCallback } from "react";
import type { Axis } from "@/core/applications/options/frontier";
import { barOf, shareOf } from "@/core/applications/options/frontier";
import type { Outcome } from "@/core/applications/options/evaluate";
import type { Found, Result } from "@/core/applications/options/search";
import { THEMED } from "../palette";
import Chart, { type ChartOption } from "./chart";
import { AXIS, SANS, TOOLTIP } from "./style";

interface Props {
  found: Found;
  result: Result;
  currency: string;
  chosen: readonly number[];
}

export const AXIS_WORDS: Record<Axis, string> = { cost: "money", mass: "mass", roof: "roof" };
const axisName = (axis: Axis, currency: string) =>
  axis === "cost" ? `money, ${currency}` : axis === "mass" ? "mass, kg" : "roof under panels, m²";

const MOST_DOTS = 450;

/** Designs by what they take and the share of days that they meet; the frontier as steps, its uncertainty as bars. */
export default function FrontierPlot({ found, result, currency, chosen }: Props) {
  const draw = useCallback((): ChartOption => {
    const { axis, points, rulesOfThumb } = result;
    const { requirement } = found;
    const x = (outcome: { cost: number; mass: number; roof: number }) => Number(outcome[axis].toFixed(2));
    const open = found.outcomes.filter((outcome) => barOf(outcome, requirement) === null);
    const onIt = new Set(points.map(({ outcome }) => outcome.index));
    const y = (outcome: Outcome) => Number((100 * shareOf(outcome)).toFixed(1));
    // Some hundreds show where the rest lie; thousands would hold up the page.
    const rest = open.filter(({ index }) => !onIt.has(index));
    const every = Math.max(1, Math.ceil(rest.length / MOST_DOTS));
    const cloud = rest.filter((_, i) => i % every === 0).map((outcome) => [x(outcome), y(outcome), outcome.name]);
    const line = points.map(({ outcome }) => [x(outcome), y(outcome), outcome.name]);
    const whiskers = points.map(({ outcome, low, high }) => [
      x(outcome),
      Math.max(0, 100 * (low + outcome.shift)),
      Math.min(100, 100 * (high + outcome.shift)),
    ]);
    const limit = axis === "roof" ? null : requirement.limits[axis];
    // Two rules that buy the same design are one mark.
    const bought = new Map<number, { outcome: (typeof open)[number]; names: string[] }>();
    for (const { name, outcome } of rulesOfThumb) {
      if (!outcome) continue;
      const held = bought.get(outcome.index);
      if (held) held.names.push(name);
      else bought.set(outcome.index, { outcome, names: [name] });
    }
    // Schools often buy much the same: each label keeps to its own side.
    const sides = ["bottom", "top", "right"] as const;
    const marks = [...bought.values()]
      .sort((a, b) => x(a.outcome) - x(b.outcome))
      .map(({ outcome, names }, i) => ({
        value: [x(outcome), y(outcome), outcome.name, names.join(", ")],
        label: { position: sides[i % 3] },
      }));
    return {
      animation: false,
      grid: { left: 8, right: 24, top: 26, bottom: 24, containLabel: true },
      tooltip: {
        ...TOOLTIP,
        trigger: "item",
        formatter: (item) => {
          const [at, share, name] = (item as unknown as { value: [number, number, string] }).value;
          return typeof name === "string"
            ? `${format.encodeHTML(name)}<br/>${axisName(axis, currency)}: ${at}, days satisfied: ${share} %`
            : "";
        },
      },
      xAxis: { type: "value", min: 0, name: axisName(axis, currency), nameLocation: "middle", nameGap: 26, ...AXIS },
      yAxis: { type: "value", min: 0, max: 100, name: "days satisfied, %", ...AXIS, axisLine: { show: false } },
      series: [
        {
          type: "scatter",
          data: cloud,
          symbol: "circle",
          symbolSize: 3,
          itemStyle: { color: THEMED.rule },
          silent: false,
        },
        {
          type: "custom",
          silent: true,
          data: whiskers,
          renderItem: (_, api) => {
            const [px, low] = api.coord([api.value(0), api.value(1)]);
            const [, high] = api.coord([api.value(0), api.value(2)]);
            return {
              type: "line",
              shape: { x1: px, y1: low, x2: px, y2: high },
              style: { stroke: THEMED.cold, lineWidth: 1 },
            };
          },
        },
        {
          type: "line",
          step: "end",
          data: line,
          symbol: "rect",
          symbolSize: (value: unknown[]) =>
            chosen.some((index) => points.find(({ outcome }) => outcome.index === index)?.outcome.name === value[2])
              ? 12
              : 7,
          lineStyle: { color: THEMED.cold, width: 1.5 },
          itemStyle: { color: THEMED.cold },
          markLine: {
            silent: true,
            symbol: "none",
            lineStyle: { color: THEMED.ink, type: "dashed", width: 1 },
            label: {
              formatter: "target",
              color: THEMED.ink,
              fontFamily: SANS,
              fontSize: 12,
              position: "insideStartTop",
            },
            data: [
              { yAxis: 100 * requirement.share },
              ...(limit === null
                ? []
                : [{ xAxis: limit, label: { formatter: "limit", position: "end" as const, rotate: 0 } }]),
            ],
          },
        },
        {
          type: "scatter",
          data: marks,
          symbol: "diamond",
          symbolSize: 12,
          itemStyle: { color: THEMED.page, borderColor: THEMED.sun, borderWidth: 2 },
          label: {
            show: true,
            formatter: (item) => String((item.value as unknown[])[3]),
            color: THEMED.sun,
            fontFamily: SANS,
            fontSize: 12,
          },
        },
      ],
    };
  }, [found, result, currency, chosen]);
  return (
    <Chart
      draw={draw}
      height={330}
      label={`${result.points.length} designs on the frontier of ${AXIS_WORDS[result.axis]} against days satisfied`}
    />
  );
}
