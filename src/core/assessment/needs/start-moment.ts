import { dcInput } from "../../models/inverter/inverter";
import type { System } from "../../models/system/system";
import type { Limit, Nearest, StartTrace } from "../../simulation/start/start";
import { hasSoftStarter } from "../../document/unit-kinds";
import { METRIC } from "../../units/dimension";
import { formatQuantity } from "../../units/format";
import { constant, given, of, traced, type Term, type TracedValue } from "../../units/trace";

/** A start as its checks see it. */
export interface JudgedStart {
  system: System;
  own: StartTrace;
  /** Index of the unit that starts. */
  starter: number;
}

/** When a start comes nearest to a limit. */
export const when = ({ seconds }: Nearest) =>
  seconds <= 0.01 ? "at once" : `at ${formatQuantity(seconds, "duration", METRIC, 2)}`;

export function indexAt(seconds: Float64Array, moment: number): number {
  const index = seconds.indexOf(moment);
  return index < 0 ? 0 : index;
}

/** VA of all that runs beside the unit that starts. */
function othersApparent({ system, own }: JudgedStart): number {
  const others =
    own.starting < 0
      ? 0
      : system.units.reduce((sum, u, i) => (i === own.starting || u.direct ? sum : sum + u.runningApparent.value), 0);
  return system.converted ? others + system.loads.mainsAtStart : 0;
}

/** VA on the inverter at that moment. */
export function apparentThen(start: JudgedStart, nearest: Nearest, limit: Limit): TracedValue {
  const { system, own, starter } = start;
  const value = own.apparent[indexAt(own.seconds, nearest.seconds)]!;
  const others = othersApparent(start);
  const unit = system.values.units[starter]!;
  return traced({
    key: `starts.${limit}.apparent`,
    name: "Apparent power at that moment",
    dimension: "apparentPower",
    value,
    relation: "S = S_u + S_o",
    terms: () => [
      constant("S_u", "Start demand", value - others, "apparentPower", demandWords(start)),
      constant("S_o", "Other loads on at the same time", others, "apparentPower", "other units and loads"),
      given("I_lr", unit.lockedRotorCurrent),
      given("t_s", unit.startTime),
    ],
    source:
      "locked-rotor current for 80 % of the start time, then down to running; a soft starter ramps to its reduced peak",
  });
}

function demandWords({ system, own, starter }: JudgedStart): string {
  const unit = system.job.units[starter]!;
  if (!hasSoftStarter(unit)) return `${formatQuantity(own.shape.peakCurrent, "current", METRIC)} × volts at its peak`;
  const { softReduction, lockedRotorCurrent } = system.values.units[starter]!;
  const reduced = `(1 − ${formatQuantity(softReduction.value, "ratio", METRIC)}) × ${formatQuantity(lockedRotorCurrent.value, "current", METRIC)} × volts at its peak`;
  return `${reduced}, soft starter ${unit.learned ? "learned" : "not learned: 1.45 times"}`;
}

/** W along the main circuit at that moment: real watts, since the battery supplies no reactive power. */
export function powerThen(start: JudgedStart, nearest: Nearest, limit: Limit): TracedValue {
  const { system, own, starter } = start;
  const { inverter, converted } = system;
  const index = indexAt(own.seconds, nearest.seconds);
  const [apparentVa, realW, pathW] = [own.apparent[index]!, own.real[index]!, own.pathPower[index]!];
  const real = traced({
    key: `starts.${limit}.real`,
    name: "Real power at that moment",
    dimension: "power",
    value: realW,
    relation: "P = pf × S",
    terms: () => [
      constant(
        "pf",
        "Power factor of all of it at that moment",
        apparentVa > 0 ? realW / apparentVa : 1,
        "number",
        "locked rotor 0.5 to 0.8, running 0.9 to 0.98",
      ),
      of("S", apparentThen(start, nearest, limit)),
      given("pf_s", system.values.units[starter]!.startPowerFactor),
    ],
  });
  // What hangs straight on the battery is no part of the inverter's curve.
  const direct = pathW - (converted ? dcInput(inverter, realW) : 0);
  const straight = direct > 1e-6 * Math.max(1, pathW);
  return traced({
    key: `starts.${limit}.path`,
    name: "Power along the main circuit at that moment",
    dimension: "power",
    value: pathW,
    relation: converted ? `P_d = P_0 + (1 + a) × P + b × P² ÷ S_n${straight ? " + P_u" : ""}` : "P_d = P_u",
    terms: () => [
      ...(converted
        ? [
            of("P", real),
            constant("P_0", "Inverter idle", inverter.idlePower, "power", "all inverters"),
            constant("a", "Loss per watt", inverter.lossShare, "number", "inverter"),
            constant("b", "Additional loss at full load", inverter.lossRise, "number", "inverter"),
            constant("S_n", "Inverter rating", inverter.rating, "apparentPower", "all inverters"),
          ]
        : []),
      ...(straight || !converted
        ? [constant("P_u", "DC air conditioners", direct, "power", "at that moment of the start")]
        : []),
    ],
    source: "inverter loss curve; real watts, since the battery supplies no reactive power",
  });
}

/** What a device is sure to carry at that moment, A. */
export function deviceLimit(
  limit: Limit,
  name: string,
  at: Nearest,
  working: { relation: string; terms: () => Term[]; source: string },
): TracedValue {
  return traced({ key: `starts.${limit}.has`, name, dimension: "current", value: at.has, ...working });
}
