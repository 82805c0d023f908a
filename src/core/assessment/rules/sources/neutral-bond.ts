import { by } from "../../catalogue/clauses";
import type { Rule, Example } from "../../catalogue/rule";
import { jobOf } from "../../examples/systems";
import { type Finding, type Presence, presence } from "../../judge/finding";
import { countsOnGenerator, joinedNeutrals } from "../../needs/checked";
import { say } from "../../../messages/say";
import type { System } from "../../../models/system/system";

/** The bond of the inverter: made by itself while it feeds, and opened on shore. */
function ofInverter(system: System): Finding[] {
  const { wiring, job } = system;
  const { earth, residualName } = wiring.rules;
  const { neutralBond, combined } = job.inverter;
  const shore = wiring.branches.some(({ branch }) => branch!.role === "shore");
  const twice = neutralBond === "fixed" && shore && (combined || joinedNeutrals(system) !== undefined);
  const faults: Record<string, Pick<Presence, "fault" | "gravity" | "reason" | "fix">> = {
    none: {
      fault: `neutral of the inverter not bonded to ${earth}`,
      gravity: "Fails",
      reason: say("notices.withoutBondFaultHas", { residualName }),
      fix: say("notices.bondNeutralInverterRelay", { earth }),
    },
    twice: {
      fault: `two bonds of neutral and ${earth} on shore`,
      gravity: "Stop",
      reason: say("notices.fixedBondOnShore", { earth }),
      fix: say("notices.relayMakesBond"),
    },
    unsaid: {
      fault: "neutral bond of the inverter not stated",
      gravity: "Tight",
      reason: say("notices.withoutBondFaultHas", { residualName }),
      fix: say("notices.stateWhereNeutralBonded", { earth, residualName }),
    },
  };
  const fault = faults[twice ? "twice" : neutralBond];
  return [
    presence({
      key: "bond",
      title: `neutral and ${earth} bonded once, in the source that feeds`,
      met: !fault,
      ...(fault ?? { fault: "", reason: "", fix: "" }),
      part: "inverter.neutralBond",
    }),
  ];
}

/** A generator that the job counts on bonds neutral and earth while it feeds. */
function ofGenerator(system: System): Finding[] {
  if (!countsOnGenerator(system)) return [];
  const { earth, residualName } = system.wiring.rules;
  const { generatorBond } = system.job.supplies;
  const floating = generatorBond === "floating";
  return [
    presence({
      key: "generatorBond",
      title: `generator bonds neutral and ${earth}`,
      fault: floating ? "neutral of the generator floats" : "neutral bond of the generator not stated",
      met: generatorBond === "bonded",
      gravity: floating ? "Fails" : "Tight",
      reason: say("notices.generatorFloatingNeutralNeeds", { earth, residualName }),
      fix: say("notices.stateWhetherGeneratorBonds", { earth }),
      part: "supplies",
      aspect: "generator",
    }),
  ];
}

export const neutralBond: Rule = {
  id: "neutral-bond",
  group: "Inverter and sources",
  title: "One bond of neutral and earth, in the source that feeds",
  asks: "The inverter bonds neutral to earth while it feeds and opens that bond on shore. Two bonds at once carry current in the earth conductor; none leaves an RCD or GFCI without the loop that it needs. A generator bonds its own while it feeds. Not said, it is Tight.",
  clause: by(
    "NEC 250.6, 551.30(C), 551.54",
    "ABYC E-11, neutral grounding",
    "IEC 60364-5-55, 551.4; IEC 60364-7-721",
    "ISO 13297, neutral",
    "AS/NZS 3000, 7.3; AS/NZS 3001.2",
  ),
  broken: "Stop",
  ofThings: true,
  fix: "Bond neutral to earth once, in the source that feeds.",
  system: ({ system }) => (system.converted ? [...ofInverter(system), ...ofGenerator(system)] : []),
};

export const example: Example = {
  what: "no bond of neutral and earth at all",
  breaks: () => jobOf({ inverter: { neutralBond: "none" } }),
  word: "Fails",
  meets: () => jobOf({ inverter: { neutralBond: "relay" } }),
};
