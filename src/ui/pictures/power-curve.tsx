"use client";

import { useMemo } from "react";
import { formatQuantity } from "@/core/quantity/format";
import { powerOverOutdoor } from "@/core/unit/curve";
import { PALETTE } from "../palette";
import { useReading } from "../state/sheet-context";
import Chart, { type ChartOption } from "./chart";
import { AXIS, SANS, TOOLTIP } from "./style";

const TEMPERATURES = Array.from({ length: 29 }, (_, i) => 15 + 1.25 * i);

/** A unit's power over the outdoor temperature: never resting, expected, fan; the job's temperature and readings on it. */
export default function PowerCurve({ index }: { index: number }) {
  const { rig, assessment } = useReading();
  const fahrenheit = rig.notation.temperature === "F";
  const option = useMemo<ChartOption>(() => {
    const curve = powerOverOutdoor(rig, assessment, index, TEMPERATURES);
    const shown = (celsius: number) => (fahrenheit ? (celsius * 9) / 5 + 32 : celsius);
    const line = (values: number[]) => values.map((value, i) => [shown(TEMPERATURES[i]!), Math.round(value)]);
    const { values, units } = assessment;
    const unit = values.units[index]!;
    const draws = units[index]!;
    // Where the unit hardly rests in the heat the two lines end together: the second name stands below the first.
    const last = TEMPERATURES.length - 1;
    const together = curve.running[last]! - curve.average[last]! < 0.06 * curve.running[last]!;
    const label = (text: string, colour: string, below = false) => ({
      offset: [0, below ? 15 : 0] as [number, number],
      show: true,
      formatter: text,
      color: colour,
      fontFamily: SANS,
      fontSize: 12,
      distance: 6,
    });
    const here = shown(values.brief.outdoorC.value);
    const read = unit.dcRunningCurrent ?? unit.runningCurrent;
    const measured = read.origin === "measured" || read.origin === "fitted";
    const at = measured ? (unit.measuredAtC ?? values.brief.outdoorC).value : 35;
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
        name: draws.direct ? "W from the bank" : "W on mains",
        ...AXIS,
        axisLine: { show: false },
        axisTick: { show: false },
        nameTextStyle: { ...AXIS.nameTextStyle, align: "left" },
      },
      series: [
        {
          type: "line",
          name: "never resting",
          data: line(curve.running),
          symbol: "none",
          lineStyle: { color: PALETTE.heat, width: 2 },
          endLabel: label("never resting", PALETTE.heat),
          markLine: {
            silent: true,
            symbol: "none",
            lineStyle: { color: PALETTE.ink, type: "solid", width: 1 },
            label: { formatter: "this job", color: PALETTE.ink, fontFamily: SANS },
            data: [{ xAxis: here }],
          },
        },
        {
          type: "line",
          name: "expected average",
          data: line(curve.average),
          symbol: "none",
          lineStyle: { color: PALETTE.cold, width: 2.4 },
          endLabel: label("expected", PALETTE.cold, together),
        },
        {
          type: "line",
          name: "fan only",
          data: line(curve.fan),
          symbol: "none",
          lineStyle: { color: PALETTE.faded, width: 1.2 },
          endLabel: label("fan only", PALETTE.faded),
        },
        {
          type: "scatter",
          name: measured ? "measured" : read.entered || rig.units[index]!.ratedPower ? "plate" : "assumed",
          symbolSize: 10,
          z: 5,
          itemStyle: measured
            ? { color: PALETTE.ink, opacity: 1 }
            : { color: PALETTE.paper, borderColor: PALETTE.ink, borderWidth: 1.6 },
          data: [
            {
              value: [shown(at), Math.round(assessment.figures[`unit.${index}.known`]!.value)],
              label: { ...label(measured ? "measured" : "rating point", PALETTE.ink), position: "top" },
            },
          ],
        },
      ],
    };
  }, [rig, assessment, index, fahrenheit]);
  const running = formatQuantity(assessment.units[index]!.running.value, "power", rig.notation);
  return (
    <Chart
      option={option}
      height={330}
      label={`Power of ${rig.units[index]!.name} over outdoor temperature; ${running} never resting on this job.`}
    />
  );
}
