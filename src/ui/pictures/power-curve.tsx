"use client";

import { useCallback } from "react";
import { formatQuantity } from "@/core/units/format";
import { powerOverOutdoor } from "@/core/assessment/verdicts/draw-curve";
import { THEMED } from "../palette";
import { useReading } from "../state/sheet-context";
import Chart, { type ChartOption } from "./chart";
import { AXIS, SANS, TOOLTIP } from "./style";
import { say } from "@/core/messages/say";

const TEMPERATURES = Array.from({ length: 29 }, (_, i) => 15 + 1.25 * i);

/** A unit's power over the outdoor temperature: compressor always on, and fan; the design day's temperature and readings on it. */
export default function PowerCurve({ index }: { index: number }) {
  const { job, assessment } = useReading();
  const fahrenheit = job.notation.temperature === "F";
  const draw = useCallback((): ChartOption => {
    const curve = powerOverOutdoor(job, assessment, index, TEMPERATURES);
    const shown = (celsius: number) => (fahrenheit ? (celsius * 9) / 5 + 32 : celsius);
    const line = (values: number[]) => values.map((value, i) => [shown(TEMPERATURES[i]!), Math.round(value)]);
    const { values, units } = assessment;
    const unit = values.units[index]!;
    const draws = units[index]!;
    const label = (text: string, colour: string) => ({
      show: true,
      formatter: text,
      color: colour,
      fontFamily: SANS,
      fontSize: 12,
      distance: 6,
    });
    const here = shown(values.weather.highestC.value);
    const read = unit.dcRunningCurrent ?? unit.runningCurrent;
    const measured = read.origin === "measured" || read.origin === "fitted";
    const at = measured ? (unit.measuredAtC ?? values.weather.highestC).value : 35;
    return {
      animation: false,
      grid: { left: 8, right: 110, top: 26, bottom: 24, containLabel: true },
      tooltip: { ...TOOLTIP, trigger: "axis", valueFormatter: (value) => `${String(value)} W` },
      xAxis: {
        type: "value",
        min: shown(15),
        max: shown(50),
        name: `outdoors, °${fahrenheit ? "F" : "C"}`,
        nameLocation: "middle",
        nameGap: 26,
        ...AXIS,
        splitLine: { show: false },
      },
      yAxis: {
        type: "value",
        min: 0,
        name: draws.direct ? "W from the battery" : "W on AC",
        ...AXIS,
        axisLine: { show: false },
        axisTick: { show: false },
        nameTextStyle: { ...AXIS.nameTextStyle, align: "left" },
      },
      series: [
        {
          type: "line",
          name: "compressor always on",
          data: line(curve.running),
          symbol: "none",
          lineStyle: { color: THEMED.heat, width: 2 },
          endLabel: label("always on", THEMED.heat),
          markLine: {
            silent: true,
            symbol: "none",
            lineStyle: { color: THEMED.ink, type: "solid", width: 1 },
            label: { formatter: "design day", color: THEMED.ink, fontFamily: SANS },
            data: [{ xAxis: here }],
          },
        },
        {
          type: "line",
          name: "fan only",
          data: line(curve.fan),
          symbol: "none",
          lineStyle: { color: THEMED.faded, width: 1.2 },
          endLabel: label("fan only", THEMED.faded),
        },
        {
          type: "scatter",
          name: measured ? "measured" : read.entered || job.units[index]!.ratedPower ? "plate" : "assumed",
          symbolSize: 10,
          z: 5,
          itemStyle: measured
            ? { color: THEMED.ink, opacity: 1 }
            : { color: THEMED.paper, borderColor: THEMED.ink, borderWidth: 1.6 },
          data: [
            {
              value: [shown(at), Math.round(assessment.figures[`unit.${index}.known`]!.value + draws.pump)],
              label: { ...label(measured ? "measured" : "rating point", THEMED.ink), position: "bottom" },
            },
          ],
        },
      ],
    };
  }, [job, assessment, index, fahrenheit]);
  const running = formatQuantity(assessment.units[index]!.running.value, "power", job.notation);
  return (
    <Chart
      draw={draw}
      height={330}
      label={say("interface.powerOverOutdoorTemperature", { name: job.units[index]!.name, running })}
    />
  );
}
