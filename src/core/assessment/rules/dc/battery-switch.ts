import { by } from "../../catalogue/clauses";
import type { Rule, Example } from "../../catalogue/rule";
import { jobOf, without } from "../../examples/systems";
import { presence } from "../../judge/finding";
import { switchesOff } from "../../needs/checked";
import { say } from "../../../messages/say";

export const batterySwitch: Rule = {
  id: "battery-switch",
  group: "DC wiring",
  title: "A switch for the battery",
  asks: "In a vehicle or boat the battery can be switched off by an isolator, or a breaker that is one, in reach.",
  clause: by("NEC 551.20(D)", "ABYC E-11, battery switch", "EN 1648; ISO 10133", "ISO 13297", "AS/NZS 3001.2"),
  broken: "Fails",
  ofThings: true,
  fix: "Fit an isolator, or a breaker that is one, in reach.",
  system({ system: { wiring, job } }) {
    if (job.cabin.kind === "room") return [];
    return [
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
