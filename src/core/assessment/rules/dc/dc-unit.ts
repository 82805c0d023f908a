import { PRACTICE } from "../../catalogue/clauses";
import type { Rule, Example } from "../../catalogue/rule";
import { bank48, jobOf, q } from "../../examples/systems";
import { type Finding, presence } from "../../judge/finding";
import { voltageClass } from "../../../document/defaults";
import { onMains } from "../../../document/unit-kinds";
import { say } from "../../../messages/say";
import type { System } from "../../../models/system/system";

/** A DC unit on a battery of its voltage. */
function madeFor({ job, values, bank }: System, i: number): Finding {
  const { name } = job.units[i]!;
  const volts = values.units[i]!.supplyVoltage.value;
  return presence({
    key: `units.${i}.supply`,
    title: `${name} is made for the battery's voltage`,
    fault: `${name} is not made for the battery's voltage`,
    met: voltageClass(volts) === voltageClass(bank.nominalVoltage),
    reason: say("notices.unitVoltage", { wanted: Math.round(volts), nominalVoltage: bank.nominalVoltage.toFixed(1) }),
    fix: say("notices.useUnitOfVoltage"),
    part: `units.${i}.supplyVoltage`,
  });
}

/** Beside an inverter it has a branch of its own. */
function ownBranch({ job, wiring, converted }: System, i: number): Finding[] {
  const { name, id } = job.units[i]!;
  if (!converted) return [];
  return [
    presence({
      key: `units.${i}.branch`,
      title: `${name} on a branch of its own`,
      fault: `${name} has no branch of its own yet`,
      met: wiring.branches.some(({ branch }) => branch!.role === "dc-unit" && branch!.unitId === id),
      gravity: "Tight",
      reason: say("notices.currentCountedAlongInverter"),
      fix: say("notices.addCircuitOwnFuse"),
      part: `units.${i}`,
    }),
  ];
}

export const dcUnit: Rule = {
  id: "dc-unit",
  group: "DC wiring",
  title: "DC unit on a branch of its own",
  asks: "A DC air conditioner has its own branch and fuse, and a supply voltage that is the battery's.",
  clause: "plate of the unit; " + PRACTICE,
  broken: "Fails",
  ofThings: true,
  fix: "Give it a branch with its own fuse, and the battery’s voltage.",
  system: ({ system }) =>
    system.job.units.flatMap((unit, i) => (onMains(unit) ? [] : [madeFor(system, i), ...ownBranch(system, i)])),
};

export const example: Example = {
  what: "a 12 V unit on a 48 V battery",
  breaks: () => jobOf({ bank: bank48, unit: { kind: "dc", supplyVoltage: q(12) } }),
  word: "Fails",
  meets: () => jobOf({ bank: bank48, unit: { kind: "dc", supplyVoltage: q(48) } }),
};
