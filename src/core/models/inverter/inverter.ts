import { interpolate } from "../../units/interpolate";
import type { JobValues } from "../../document/resolved";

/** One inverter or several in parallel, as one machine. */
export interface InverterModel {
  /** VA, continuous at 25 degC, all together. */
  rating: number;
  /** VA, continuous at the temperature of its compartment. */
  derated: number;
  /** Share of rating and surge that the heat of its compartment leaves. */
  heatShare: number;
  /** Surge points in time order: natural logs of their seconds, and VA in its heat; the last is the derated rating. */
  surgeLogTimes: number[];
  surgePowers: number[];
  idlePower: number;
  lossShare: number;
  lossRise: number;
  cutOffVoltage: number;
  cutOffDelay: number;
}

export function inverterModel(values: JobValues["inverter"]): InverterModel {
  const v = (key: "count" | "rating" | "compartmentC" | "derateFromC" | "deratePerKelvin") => values[key].value;
  const count = v("count");
  const rating = v("rating") * count;
  const left = Math.max(0, 1 - v("deratePerKelvin") * Math.max(0, v("compartmentC") - v("derateFromC")));
  const points = ([1, 2, 3] as const)
    .map((n) => ({ time: values[`surge${n}Time`].value, power: values[`surge${n}`].value * count * left }))
    .sort((a, b) => a.time - b.time);
  const derated = rating * left;
  return {
    rating,
    derated,
    heatShare: left,
    // The rating follows at once on the last surge point: no data sheet promises anything in between.
    surgeLogTimes: [...points.map((p) => Math.log(p.time)), Math.log(points[2]!.time) + 1e-6],
    surgePowers: [...points.map((p) => p.power), derated],
    idlePower: values.idlePower.value * count,
    lossShare: values.lossShare.value,
    lossRise: values.lossRise.value,
    cutOffVoltage: values.cutOffVoltage.value,
    cutOffDelay: values.cutOffDelay.value,
  };
}

/**
 * VA that the inverter gives `seconds` (> 0) after the demand began: its surge points over log time, the first
 * point's value before it, the derated continuous rating after the last.
 */
export function surgePower(inverter: InverterModel, seconds: number): number {
  return interpolate(inverter.surgeLogTimes, inverter.surgePowers, Math.log(seconds));
}

/** DC input in W for an AC output in W: P_idle + (1 + a) P + b P^2 / S, with P >= 0. */
export function dcInput(inverter: InverterModel, acPower: number): number {
  return inverter.idlePower + dcAdded(inverter, acPower);
}

/** DC input over idle in W for an AC output in W. */
export function dcAdded(inverter: InverterModel, acPower: number): number {
  return (1 + inverter.lossShare) * acPower + (inverter.lossRise * acPower * acPower) / inverter.rating;
}

/** AC output in W that adds `dcPower` W to the idle draw: the inverse of `dcAdded`. */
export function acFromDc(inverter: InverterModel, dcPower: number): number {
  const a = 1 + inverter.lossShare;
  const b = inverter.lossRise / inverter.rating;
  // The same rationalised root as for a source behind a resistance: exact for b = 0.
  return (2 * dcPower) / (a + Math.sqrt(a * a + 4 * b * dcPower));
}
