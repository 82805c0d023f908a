import { constant, traced, type TracedValue } from "../../units/trace";
import type { System } from "../../models/system/system";
import type { Use } from "../../simulation/day/first-use";
import type { UseRun } from "./use";

/** What holding the set point draws on the design day, sun not counted. */
export interface Holding {
  /** Mean W of each unit on its own supply. */
  unitPower: number[];
  /** Mean W out of the battery, sun and other charging not counted, and the A that they are at the battery's volts. */
  batteryPower: number;
  batteryCurrent: number;
  /** Part of the time that the compressor ran, or its speed; 0 to 1. */
  duty: number;
  /** The current and the duty with their working. */
  figures: TracedValue[];
  /** Seconds from switching on until the set point was first met; null where it never was. */
  pullDown: number | null;
}

/** The set point counts as met within this, K. */
const MET_K = 0.3;

/**
 * What holding the set point draws, from the use of the design day: means from the moment that the set point was first met
 * to the end of the hours wanted, or of supply. Where it never was met, over all of it.
 */
export function holdingOf(system: System, use: Use, { run, lasts }: UseRun): Holding | null {
  const { values, units, job } = system;
  const { stepS } = run;
  const wanted = values.brief.hoursWanted.value;
  const last = Math.min(run.steps, Math.max(1, Math.floor(Math.min(lasts, wanted) / stepS)));
  if (run.steps === 0) return null;
  const planned = job.plan.patterns
    .flatMap(({ spans }, p) => spans.map((span, i) => ({ span, v: values.plan.patterns[p]!.spans[i]! })))
    .find(({ span }) => span.kind === "unit" && span.mode !== "fan" && span.from === use.from % 1440);
  const setPointC = planned?.v.setPointC?.value ?? values.brief.setPointC.value;
  const band = values.units[0]!.thermostatBand.value;
  let met = 0;
  while (met < last && run.cabinC[met]! > setPointC + band / 2 + MET_K) met++;
  const from = met < last ? met : 0;
  const mean = (line: (k: number) => number) => {
    let sum = 0;
    for (let k = from; k < last; k++) sum += line(k);
    return sum / (last - from);
  };
  const unitWatts = mean((k) => run.unitPower[k]!);
  const whole = units.reduce((sum, { running }) => sum + running.value, 0);
  const batteryPower = mean((k) => run.unitPower[k]! + run.loadPower[k]! + run.lossPower[k]!);
  const volts = mean((k) => run.bankVolts[k]!);
  const batteryCurrent = batteryPower / Math.max(1, volts);
  const duty = mean((k) => run.compressor[k]!);
  const source = "coupled run of the design day, from cooled down to the end of the use; sun not counted";
  const currentFigure = traced({
    key: "holding.current",
    name: "Battery current, holding the set point",
    dimension: "current",
    value: batteryCurrent,
    relation: "I = P ÷ V",
    terms: () => [
      constant("P", "Battery power", batteryPower, "power", "unit, other loads and losses"),
      constant("V", "Battery voltage", Math.max(1, volts), "voltage", "mean of the run"),
    ],
    source,
  });
  const dutyFigure = traced({
    key: "holding.duty",
    name: "Duty cycle, holding the set point",
    dimension: "ratio",
    value: duty,
    relation: "r = r_m",
    terms: () => [constant("r_m", "Mean of the run", duty, "ratio", "part of the time on, weighed by speed")],
    source,
  });
  return {
    unitPower: units.map(({ running }) => (whole > 0 ? (unitWatts * running.value) / whole : 0)),
    batteryPower,
    batteryCurrent,
    duty,
    figures: [currentFigure, dutyFigure],
    pullDown: met < last ? met * stepS : null,
  };
}
