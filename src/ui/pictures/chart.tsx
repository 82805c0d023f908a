"use client";

import {
  CustomChart,
  LineChart,
  ScatterChart,
  type CustomSeriesOption,
  type LineSeriesOption,
  type ScatterSeriesOption,
} from "echarts/charts";
import {
  GridComponent,
  MarkLineComponent,
  TooltipComponent,
  type GridComponentOption,
  type MarkLineComponentOption,
  type TooltipComponentOption,
} from "echarts/components";
import { init, use as register, type ComposeOption, type ECharts } from "echarts/core";
import { LabelLayout } from "echarts/features";
import { SVGRenderer } from "echarts/renderers";
import { useEffect, useRef } from "react";

register([
  LineChart,
  ScatterChart,
  CustomChart,
  GridComponent,
  TooltipComponent,
  MarkLineComponent,
  LabelLayout,
  SVGRenderer,
]);

export type ChartOption = ComposeOption<
  | LineSeriesOption
  | ScatterSeriesOption
  | CustomSeriesOption
  | GridComponentOption
  | TooltipComponentOption
  | MarkLineComponentOption
>;

/**
 * An ECharts picture as SVG, redrawn where `draw` is another function, or its box another size. `label` is what it shows,
 * in words. `draw` is called by a browser alone, once the page stands: a server has nothing to draw on.
 */
export default function Chart({ draw, height, label }: { draw: () => ChartOption; height: number; label: string }) {
  const box = useRef<HTMLDivElement>(null);
  const chart = useRef<ECharts>(null);
  useEffect(() => {
    const made = init(box.current!, undefined, { renderer: "svg" });
    chart.current = made;
    const watch = new ResizeObserver(() => made.resize());
    watch.observe(box.current!);
    return () => {
      watch.disconnect();
      made.dispose();
    };
  }, []);
  useEffect(() => chart.current?.setOption(draw(), { notMerge: true, lazyUpdate: false }), [draw]);
  return <div ref={box} className="chart" style={{ height }} role="img" aria-label={label} />;
}
