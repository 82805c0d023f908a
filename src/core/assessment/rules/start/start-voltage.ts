import type { Rule, Example } from "../../catalogue/rule";
import { jobOf, q } from "../../examples/systems";
import type { Finding } from "../../judge/finding";
import { USUAL_SPARE } from "../../judge/word";
import { type JudgedStart, powerThen, when } from "../../needs/start-moment";
import { openCircuitVoltage } from "../../../models/battery/battery";
import { branchOfUnit, voltageOnBranch, voltsAtLimit } from "../../../models/system/allowed";
import { lowestSoc, powerByVoltage, powerByVoltageOfUnit } from "../../../models/system/system";
import { METRIC } from "../../../units/dimension";
import { formatQuantity } from "../../../units/format";
import { constant, traced } from "../../../units/trace";

/** The volts at the inverter at the moment that asks most of them. */
function volts(start: JudgedStart): Finding[] {
  const { system, own } = start;
  const at = own.nearest.voltage;
  if (!at) return [];
  const { figure, limit } = powerByVoltage(system, "starts.voltage.has", "Power that the voltage allows", own.allowed);
  const volts = voltsAtLimit(
    { dcLoad: Math.max(...own.side), ...system },
    { by: own.allowed.by, rest: openCircuitVoltage(system.bank, lowestSoc(system)), power: at.need },
  );
  return [
    {
      name: limit,
      demand: powerThen(start, at, "voltage"),
      limit: figure,
      form: "draws",
      holdsFrom: USUAL_SPARE,
      remark: volts === null ? "the voltage collapses" : `${formatQuantity(volts, "voltage", METRIC)} ${when(at)}`,
    },
  ];
}

/** The DC unit on a branch of its own that is nearest to switching itself off while a unit starts. */
function voltsAtUnit({ system, own }: JudgedStart): Finding[] {
  const at = own.nearest.unit;
  if (!at || !own.lowUnit) return [];
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
  return [
    {
      name: `voltage at ${name}`,
      demand,
      limit: powerByVoltageOfUnit(system, limit, allowed, branch.resistanceFigure),
      form: "draws",
      holdsFrom: USUAL_SPARE,
      remark: `${formatQuantity(voltageOnBranch(system, unit, { seen: allowed.seen, power: at.need }), "voltage", METRIC)} ${when(at)}`,
      run: branch.path,
      aspect: "own",
    },
  ];
}

export const startVoltage: Rule = {
  id: "start-voltage",
  group: "Start",
  title: "Voltage at the start",
  asks: "At the start's largest real power the volts stay above the inverter's cut-off, that of every DC unit and the battery's stop.",
  clause: "data sheets of inverter, DC units and battery",
  broken: "Fails",
  fix: "Fit a soft starter, use thicker cable, or more batteries in parallel.",
  start: (start) => [...volts(start), ...voltsAtUnit(start)],
};

export const example: Example = {
  what: "a hard start through 20 m of 10 mm²",
  breaks: () =>
    jobOf({
      unit: { lockedRotorCurrent: q(60) },
      inverter: { rating: q(5000) },
      cable: { areaMm2: q(10), length: q(20) },
    }),
  word: "Fails",
  meets: () =>
    jobOf({
      unit: { lockedRotorCurrent: q(15), runningCurrent: q(4) },
      bank: { parallel: q(3) },
      cable: { areaMm2: q(95), length: q(1) },
    }),
};
