import type { Rule, Example } from "../../catalogue/rule";
import { jobOf, q } from "../../examples/systems";
import type { Finding } from "../../judge/finding";
import { USUAL_SPARE } from "../../judge/word";
import type { RunningDraw } from "../../needs/everything-on";
import { openCircuitVoltage } from "../../../models/battery/battery";
import {
  allowedOnBranch,
  allowedPathPower,
  branchOfUnit,
  voltageOnBranch,
  voltsAtLimit,
} from "../../../models/system/allowed";
import { type System, lowestSoc, powerByVoltage, powerByVoltageOfUnit } from "../../../models/system/system";
import { METRIC } from "../../../units/dimension";
import { formatQuantity } from "../../../units/format";

/** Volts at the inverter with everything on. */
function atInverter(system: System, { pathPower, side }: RunningDraw): Finding[] {
  const rest = openCircuitVoltage(system.bank, lowestSoc(system));
  const context = { dcLoad: side, ...system };
  const allowed = allowedPathPower(context, rest);
  const { figure, limit } = powerByVoltage(
    system,
    "carries.voltage",
    "Power that the voltage allows, running",
    allowed,
  );
  const volts = voltsAtLimit(context, { by: allowed.by, rest, power: pathPower.value });
  return [
    {
      name: limit,
      demand: pathPower,
      limit: figure,
      form: "draws",
      holdsFrom: USUAL_SPARE,
      remark:
        volts === null
          ? "the voltage collapses"
          : `${formatQuantity(volts, "voltage", METRIC)} with everything on, at the reserve`,
    },
  ];
}

/** Each DC unit on a branch of its own: whether the volts at it stay above its own cut-off while all else runs, too. */
function atUnits(system: System, { side, current, bankCurrent }: RunningDraw): Finding[] {
  const rest = openCircuitVoltage(system.bank, lowestSoc(system));
  return system.units.flatMap(({ index, running }) => {
    const branch = system.beside[index] ? branchOfUnit(system, index) : undefined;
    if (!branch) return [];
    const { name } = system.job.units[index]!;
    const now = { bankCurrent: bankCurrent.value, pathCurrent: current.value, side };
    const allowed = allowedOnBranch(system, index, { rest, own: running.value, ...now });
    const volts = voltageOnBranch(system, index, { seen: allowed.seen, power: running.value });
    const limit = { key: `carries.unitVoltage.${index}`, name: `Power that the voltage at ${name} allows, running` };
    return [
      {
        name: `voltage at ${name}`,
        demand: running,
        limit: powerByVoltageOfUnit(system, limit, allowed, branch.resistanceFigure),
        form: "draws",
        holdsFrom: USUAL_SPARE,
        remark: `${formatQuantity(volts, "voltage", METRIC)} with everything on, at the reserve`,
        run: branch.path,
        aspect: `unit${index}`,
      },
    ];
  });
}

export const bankVoltage: Rule = {
  id: "bank-voltage",
  group: "Batteries",
  title: "Voltage under load",
  asks: "With everything on and the battery at its reserve, the volts stay above the inverter's cut-off, that of every DC unit and the battery's low-voltage stop.",
  clause: "data sheets of inverter, DC units and battery",
  broken: "Fails",
  fix: "Use a battery of higher voltage or more of them in parallel, thicker cable, or a smaller load.",
  system: ({ system, draw }) => [...atInverter(system, draw), ...atUnits(system, draw)],
};

export const example: Example = {
  what: "3 kW from one 12 V battery of 100 Ah through 15 m of cable",
  breaks: () =>
    jobOf({ bank: { capacityAh: q(100) }, unit: { runningCurrent: q(13) }, cable: { areaMm2: q(10), length: q(20) } }),
  word: "Fails",
  meets: () =>
    jobOf({ bank: { capacityAh: q(300) }, unit: { runningCurrent: q(4) }, cable: { areaMm2: q(95), length: q(1) } }),
};
