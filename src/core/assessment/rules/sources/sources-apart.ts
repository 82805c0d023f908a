import { by } from "../../catalogue/clauses";
import type { Rule, Example } from "../../catalogue/rule";
import { inlets } from "../../examples/systems";
import { type Finding, presence } from "../../judge/finding";
import { has, joinedNeutrals } from "../../needs/checked";
import { say } from "../../../messages/say";
import type { System } from "../../../models/system/system";
import type { Circuit } from "../../../models/wiring/circuits";

/** Of several inlets each but one is parted from the others by a transfer switch of its own. */
function fromEachOther(inlets: Circuit[]): Finding[] {
  const bare = inlets.filter((circuit) => !has(circuit, "changeover"));
  return inlets.length < 2
    ? []
    : inlets.map((circuit) =>
        presence({
          key: `${circuit.path}.inlets`,
          title: `${circuit.title} kept apart from the other inlet`,
          fault: `${circuit.title} can meet the other inlet`,
          met: bare.length < 2 || !bare.includes(circuit),
          reason: say("notices.inletsCouldMeet"),
          fix: say("notices.fitTransferSwitchInlets"),
          part: circuit.path,
          aspect: "inlets",
        }),
      );
}

/** Each inlet is parted from the inverter: inside an inverter-charger, or by a transfer switch. */
const fromInverter = ({ job, wiring, converted }: System, inlets: Circuit[]): Finding[] =>
  (converted ? inlets : []).map((circuit) =>
    presence({
      key: `${circuit.path}.meet`,
      title: "inverter and shore kept apart",
      fault: "inverter and shore can meet",
      met: job.inverter.combined || has(wiring.mains, "changeover") || has(circuit, "changeover"),
      reason: say("notices.inverterShoreCouldMeet"),
      fix: say("notices.fitTransferSwitchBreaks"),
      part: "wiring.mains",
      aspect: `circuit${circuit.branchIndex!}`,
    }),
  );

/** A transfer switch switches the neutral with the live conductors. */
function allPoles(system: System): Finding[] {
  const liveOnly = system.converted ? joinedNeutrals(system) : undefined;
  if (!liveOnly) return [];
  return [
    presence({
      key: "transferPoles",
      title: `${liveOnly.name} switches all poles`,
      fault: `${liveOnly.name} leaves the neutrals joined`,
      met: false,
      gravity: system.job.inverter.neutralBond === "fixed" ? "Stop" : "Fails",
      reason: say("notices.neutralOneSourceStays"),
      fix: say("notices.fitTransferSwitchSwitches"),
      part: liveOnly.path,
      aspect: "poles",
    }),
  ];
}

export const sourcesApart: Rule = {
  id: "sources-apart",
  group: "Inverter and sources",
  title: "Inverter and shore kept apart",
  asks: "A transfer switch (or the one inside an inverter-charger) breaks one source before it makes the other, all poles; of several inlets each but one has a transfer switch of its own.",
  clause: by(
    "NEC 551.30(E), 551.33",
    "ABYC E-11, isolation of sources",
    "IEC 60364-5-55, 551.6",
    "ISO 13297, isolation of sources",
    "AS/NZS 3010",
  ),
  broken: "Stop",
  ofThings: true,
  fix: "Fit a transfer switch that breaks one source before it makes the other, with all poles.",
  system: ({ system }) => {
    const inlets = system.wiring.branches.filter(({ branch }) => branch!.role === "shore");
    return [...fromEachOther(inlets), ...fromInverter(system, inlets), ...allPoles(system)];
  },
};

export const example: Example = {
  what: "two inlets without a transfer switch between them",
  breaks: () => inlets(2, 0),
  word: "Stop",
  meets: () => inlets(2, 1),
};
