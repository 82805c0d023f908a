import { by } from "../../catalogue/clauses";
import type { Rule, Example } from "../../catalogue/rule";
import { breaker, cable, edit, jobOf } from "../../examples/systems";
import { type Finding, presence } from "../../judge/finding";
import { residualsOf } from "../../needs/checked";
import type { JobPath } from "../../../document/path";
import { onMains } from "../../../document/unit-kinds";
import { say } from "../../../messages/say";
import type { System } from "../../../models/system/system";
import type { Circuit, WiringPart } from "../../../models/wiring/circuits";

/** Whether a device opens at no more than the rule set asks. */
const counts = ({ wiring: { rules } }: System, { values }: WiringPart): boolean =>
  values.residual!.value <= rules.residual.mostA;

/** What every AC source needs: a device for current to earth that counts, in each of `circuits` or in what feeds them. */
function protectedBy(
  system: System,
  circuits: Circuit[],
  { where, reason, ...rest }: { key: string; where: string; reason: string; part: JobPath },
): Finding {
  const { rules } = system.wiring;
  const bare = circuits.filter((circuit) => !residualsOf(circuit).some((one) => counts(system, one)));
  const weakest = bare.flatMap(residualsOf);
  const value = `${Math.round(1000 * Math.min(...weakest.map(({ values }) => values.residual!.value)))} mA`;
  const weak = weakest.length > 0 && bare.every((circuit) => residualsOf(circuit).length > 0);
  const which = circuits.length > 1 && bare.length > 0 ? bare.map(({ title }) => title).join(", ") : where;
  const fireOnly =
    rules.residual.asked === "receptacles" ? "notices.protectsEquipmentOnly" : "notices.protectsAgainstFireOnly";
  return presence({
    ...rest,
    title: `${rules.residualName}, ${where}`,
    fault: weak ? `${rules.residualName} of ${value}, ${which}` : `no ${rules.residualName}, ${which}`,
    met: bare.length === 0,
    gravity: weak ? "Fails" : "Stop",
    reason: weak ? say(fireOnly, { residualMa: value }) : reason,
    fix: say("notices.fitResidual", {
      residualName: rules.residualName,
      mostMa: Math.round(1000 * rules.residual.mostA),
      where: where === "inverter output" ? "inverter" : "inlet",
    }),
  });
}

/** Whether the rule set asks for one on what the inverter feeds: receptacles are the AC loads beside the hard-wired units. */
const asked = ({ wiring, job }: System): boolean =>
  wiring.rules.residual.asked === "every-circuit" || job.brief.loads.some(({ side }) => side === "mains");

/**
 * Circuits on the inverter's output that each need one: the output itself where it has what counts, or where nothing behind
 * it has any; else each circuit, and the output itself where something hangs on it straight. A slower one before them is none.
 */
function circuitsThatNeedOne(system: System): Circuit[] {
  const { wiring, job } = system;
  const { mains } = wiring;
  const circuits = wiring.branches.filter(({ branch }) => branch!.role === "circuit");
  const whole = residualsOf(mains).some((one) => counts(system, one));
  const behind = circuits.some((circuit) => residualsOf(circuit).length > 0);
  if (wiring.rules.residual.asked === "receptacles" || whole || circuits.length === 0) return [mains];
  if (!behind && residualsOf(mains).length > 0) return [mains];
  const own = (id: string) => circuits.some(({ branch }) => branch!.unitId === id);
  const straight =
    job.brief.loads.some(({ side }) => side === "mains") || job.units.some((unit) => onMains(unit) && !own(unit.id));
  return straight ? [mains, ...circuits] : circuits;
}

function ofOutput(system: System): Finding[] {
  const { earth } = system.wiring.rules;
  if (!system.converted || !asked(system)) return [];
  return [
    protectedBy(system, circuitsThatNeedOne(system), {
      key: "leakage",
      where: "inverter output",
      reason: say("notices.nothingWouldSwitchOff", { earth }),
      part: "wiring.mains",
    }),
  ];
}

/** What receptacles are asked for stands on the inverter's output, which the inlet feeds as well. */
function ofInlets(system: System): Finding[] {
  if (system.wiring.rules.residual.asked === "receptacles") return [];
  return system.wiring.branches
    .filter(({ branch }) => branch!.role === "shore")
    .map((circuit) =>
      protectedBy(system, [circuit], {
        key: `${circuit.path}.leakage`,
        where: circuit.title,
        reason: say("notices.siteProtection"),
        part: circuit.path,
      }),
    );
}

export const residual: Rule = {
  id: "residual",
  group: "AC wiring",
  title: "Protection against current to earth on every AC source",
  asks: "Each circuit that an AC source (inverter output, shore inlet) feeds has a device before it that opens at 30 mA or less; 300 mA protects against fire only and does not count. US road: receptacles, which are the AC loads beside the hard-wired units, have a class A one, 4 to 6 mA.",
  clause: by(
    "NEC 210.8, 551.41(C)",
    "ABYC E-11, ELCI and GFCI",
    "IEC 60364-7-721, 721.415.1",
    "ISO 13297",
    "AS/NZS 3000, 2.6; AS/NZS 3001.2",
  ),
  broken: "Stop",
  ofThings: true,
  fix: "Fit a device that opens at the current of the rule set, on each circuit that an AC source feeds.",
  system: ({ system }) => [...ofOutput(system), ...ofInlets(system)],
};

export const example: Example = {
  what: "no device for current to earth on the inverter’s output",
  breaks: () => edit(jobOf(), (copy) => void (copy.wiring.mains = [breaker(16), cable(2.5)])),
  word: "Stop",
  meets: () => jobOf(),
};
