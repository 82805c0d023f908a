import { openCircuitVoltage } from "../../models/battery/battery";
import { dcInput } from "../../models/inverter/inverter";
import {
  currentAlongPath,
  currentOfBank,
  largestShare,
  lowestSoc,
  powerByVoltage,
  powerByVoltageOfUnit,
  type System,
} from "../../models/system/system";
import { branchOfUnit, voltageOnBranch, voltsAtLimit } from "../../models/system/allowed";
import { curveWords, type Limit, type Nearest, type StartTrace } from "../../simulation/start/start";
import { hasSoftStarter } from "../../document/unit-kinds";
import { METRIC } from "../../units/dimension";
import { formatQuantity } from "../../units/format";
import { constant, given, of, traced, type Term, type TracedValue } from "../../units/trace";
import { check, type Check } from "../checks/check";

/** A start as its checks see it. */
interface JudgedStart {
  system: System;
  own: StartTrace;
  /** Index of the unit that starts. */
  starter: number;
}

/** Each limit at the moment at which the start comes nearest to it. */
export function limitChecks(system: System, own: StartTrace, starter: number): Check[] {
  const start = { system, own, starter };
  return [
    surgeCheck(start),
    voltageCheck(start),
    unitVoltageCheck(start),
    protectionCheck(start),
    breakerCheck(start),
    fuseCheck(start),
  ].filter((one) => one !== null);
}

const when = ({ seconds }: Nearest) =>
  seconds <= 0.01 ? "at once" : `at ${formatQuantity(seconds, "duration", METRIC, 2)}`;

function indexAt(seconds: Float64Array, moment: number): number {
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
function apparentThen(start: JudgedStart, nearest: Nearest, limit: Limit): TracedValue {
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
function powerThen(start: JudgedStart, nearest: Nearest, limit: Limit): TracedValue {
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

function surgeCheck(start: JudgedStart): Check | null {
  const { system, own } = start;
  const at = own.nearest.inverter;
  if (!at) return null;
  const { inverter, legs } = system;
  const v = system.values.inverter;
  const whole = apparentThen(start, at, "inverter");
  const demand = legs.split
    ? traced({
        key: "starts.inverter.leg",
        name: "Fuller leg at that moment, twice",
        dimension: "apparentPower",
        value: at.need,
        relation: "S_w = 2 × S_l",
        terms: () => [
          constant("S_l", "Fuller leg", at.need / 2, "apparentPower", "each leg has half of the inverter"),
          of("S", whole),
        ],
      })
    : whole;
  const each = at.has / v.count.value / Math.max(1e-9, inverter.heatShare);
  const limit = traced({
    key: "starts.inverter.has",
    name: "Inverter surge at that moment",
    dimension: "apparentPower",
    value: at.has,
    relation: "S_s = n × S_1 × k_T",
    terms: () => [
      given("n", v.count),
      constant(
        "S_1",
        "Each inverter, that long into a surge",
        each,
        "apparentPower",
        "its surge points, over log time",
      ),
      constant(
        "k_T",
        "Derating factor at its temperature",
        inverter.heatShare,
        "ratio",
        "derated as the continuous rating is",
      ),
      given("S_a", v.surge1),
      given("t_a", v.surge1Time),
      given("S_b", v.surge2),
      given("t_b", v.surge2Time),
      given("S_c", v.surge3),
      given("t_c", v.surge3Time),
    ],
    source: "data sheet, or typical of the kind",
  });
  return check({ by: "start-inverter", key: "inverter", name: "inverter surge", demand, limit, remark: when(at) });
}

function voltageCheck(start: JudgedStart): Check | null {
  const { system, own } = start;
  const at = own.nearest.voltage;
  if (!at) return null;
  const { figure, limit } = powerByVoltage(system, "starts.voltage.has", "Power that the voltage allows", own.allowed);
  const volts = voltsAtLimit(
    { dcLoad: Math.max(...own.side), ...system },
    { by: own.allowed.by, rest: openCircuitVoltage(system.bank, lowestSoc(system)), power: at.need },
  );
  return check({
    by: "start-voltage",
    key: "voltage",
    name: limit,
    demand: powerThen(start, at, "voltage"),
    limit: figure,
    form: "draws",
    remark: volts === null ? "the voltage collapses" : `${formatQuantity(volts, "voltage", METRIC)} ${when(at)}`,
  });
}

/** The DC unit on a branch of its own that is nearest to switching itself off while a unit starts. */
function unitVoltageCheck({ system, own }: JudgedStart): Check | null {
  const at = own.nearest.unit;
  if (!at || !own.lowUnit) return null;
  const { unit, allowed } = own.lowUnit;
  const { name } = system.job.units[unit]!;
  const branch = branchOfUnit(system, unit)!;
  const demand = traced({
    key: "starts.unit.need",
    name: `Power of ${name} at that moment`,
    dimension: "power",
    value: at.need,
    relation: "P = P_u",
    terms: () => [constant("P_u", name, at.need, "power", "running, or as it starts")],
  });
  const limit = { key: "starts.unit.has", name: `Power that the voltage at ${name} allows` };
  return check({
    by: "start-voltage",
    key: "unitVoltage",
    name: `voltage at ${name}`,
    demand,
    limit: powerByVoltageOfUnit(system, limit, allowed, branch.resistanceFigure),
    form: "draws",
    remark: `${formatQuantity(voltageOnBranch(system, unit, { seen: allowed.seen, power: at.need }), "voltage", METRIC)} ${when(at)}`,
    run: branch.path,
  });
}

function protectionCheck(start: JudgedStart): Check | null {
  const { system, own } = start;
  const at = own.nearest.protection;
  if (!at) return null;
  const { bank, values, job } = system;
  const lasting = at.seconds > bank.peakTime;
  const { figure, state } = currentAlongPath(system, {
    key: "starts.protection.along",
    name: "Main circuit current at that moment",
    onPath: powerThen(start, at, "protection"),
    dcLoad: own.side[indexAt(own.seconds, at.seconds)]!,
  });
  return check({
    by: "start-protection",
    key: "protection",
    name: job.bank.chemistry === "agm" ? "battery current limit" : "battery protection",
    demand: currentOfBank("starts.protection.need", "Battery current at that moment", figure, state),
    limit: deviceLimit("protection", lasting ? "Limit, continuous" : "Limit, peak", at, {
      relation: "I_l = I_1 ÷ q",
      terms: () => [
        largestShare(system),
        given("I_1", lasting ? values.bank.continuousCurrent : values.bank.peakCurrent),
        given("t_p", values.bank.peakTime),
      ],
      source: "data sheet",
    }),
    remark: when(at),
  });
}

/** What a device is sure to carry at that moment, A. */
function deviceLimit(
  limit: Limit,
  name: string,
  at: Nearest,
  working: { relation: string; terms: () => Term[]; source: string },
): TracedValue {
  return traced({ key: `starts.${limit}.has`, name, dimension: "current", value: at.has, ...working });
}

function breakerCheck(start: JudgedStart): Check | null {
  const { system, own } = start;
  const { breaker } = own;
  const at = own.nearest.breaker;
  if (!at || breaker?.part.kind !== "breaker") return null;
  const { mains } = system;
  const { curve } = breaker.part;
  const rating = breaker.values.rating!;
  const demand = traced({
    key: "starts.breaker.need",
    name: `Current through ${breaker.name} then`,
    dimension: "current",
    value: at.need,
    relation: "I = S_b ÷ V",
    terms: () => [
      of("S", apparentThen(start, at, "breaker")),
      constant("S_b", "Part through this breaker", at.need * mains, "apparentPower", "its leg, or its unit"),
      constant("V", "AC voltage", mains, "voltage", "of the job"),
    ],
  });
  const limit = deviceLimit("breaker", `${breaker.name} is sure to carry`, at, {
    relation: "I_b = m × I_n",
    terms: () => [
      constant("m", "Multiple of its rating, for that long", at.has / rating.value, "number", curveWords(curve)),
      given("I_n", rating),
    ],
    source: "IEC 60898-1: magnet B 3, C 5, D 10 times at least; thermal 2.55 times for a second",
  });
  return check({
    by: "start-breaker",
    key: "breaker",
    name: breaker.name,
    demand,
    limit,
    remark: when(at),
    part: breaker.path,
  });
}

function fuseCheck(start: JudgedStart): Check | null {
  const { system, own } = start;
  const at = own.nearest.fuse;
  const { fuse, fuseRating } = system.wiring;
  if (!at || !fuse) return null;
  const { figure } = currentAlongPath(system, {
    key: "starts.fuse.need",
    name: "Fuse current at that moment",
    onPath: powerThen(start, at, "fuse"),
    dcLoad: own.side[indexAt(own.seconds, at.seconds)]!,
  });
  return check({
    by: "start-fuse",
    key: "fuse",
    name: fuse.name,
    demand: figure,
    limit: deviceLimit("fuse", "Fuse is sure to carry", at, {
      relation: "I_f = m × I_n",
      terms: () => [
        constant("m", "Multiple of its rating, for that long", at.has / fuseRating, "number", "shortest opening times"),
        given("I_n", fuse.values.rating!),
      ],
      source: "bolt-down strip fuses after ISO 8820-5",
    }),
    remark: when(at),
    part: fuse.path,
  });
}
