import { by } from "../../catalogue/clauses";
import type { Rule, Example } from "../../catalogue/rule";
import { jobOf, without } from "../../examples/systems";
import { presence, type Finding } from "../../judge/finding";
import { switchesOff } from "../../needs/checked";
import type { System } from "../../../models/system/system";
import { say } from "../../../messages/say";

/** Circuits that a busbar before the battery's switch feeds, and that have no switch of their own. */
function leftOn({ wiring: { main, branches } }: System): Finding[] {
  const busbar = main.parts.findIndex(({ part }) => part.kind === "busbar");
  const first = main.parts.findIndex(switchesOff);
  if (busbar < 0 || first < busbar) return [];
  return branches
    .filter(({ branch }) => branch!.role === "loads" || branch!.role === "dc-unit")
    .map((circuit) =>
      presence({
        key: `${circuit.path}.switch`,
        title: `a switch for ${circuit.title}`,
        fault: `no switch for ${circuit.title}`,
        met: circuit.parts.some(switchesOff),
        reason: say("notices.busbarBeforeSwitch"),
        fix: say("notices.moveBusbarBehindSwitch"),
        part: circuit.path,
      }),
    );
}

export const batterySwitch: Rule = {
  id: "battery-switch",
  group: "DC wiring",
  title: "A switch for the battery",
  asks: "In a vehicle or boat the battery can be switched off by an isolator, or a breaker that is one, in reach, and with it the DC loads: those that a busbar before it feeds have a switch of their own.",
  clause: by("NEC 551.20(D)", "ABYC E-11, battery switch", "EN 1648; ISO 10133", "ISO 13297", "AS/NZS 3001.2"),
  broken: "Fails",
  ofThings: true,
  fix: "Fit an isolator, or a breaker that is one, in reach.",
  system({ system }) {
    const { wiring, job } = system;
    if (job.cabin.kind === "room") return [];
    return [
      ...leftOn(system),
      presence({
        key: "batterySwitch",
        title: "a switch for the battery",
        fault: "no switch for the battery",
        met: wiring.main.parts.some(switchesOff),
        reason: say("notices.nothingSwitchesBatteryOff"),
        fix: say("notices.fitBatterySwitch"),
        part: "wiring.main",
      }),
    ];
  },
};

export const example: Example = {
  what: "a van without a battery switch",
  breaks: () => without("isolator", "van"),
  word: "Fails",
  meets: () => jobOf(),
};
