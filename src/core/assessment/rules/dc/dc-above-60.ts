import { by } from "../../catalogue/clauses";
import type { Rule, Example } from "../../catalogue/rule";
import { high } from "../../examples/systems";
import { presence } from "../../judge/finding";
import { say } from "../../../messages/say";

/** V DC up to which touching is taken as safe in the dry (IEC 60364-4-41, extra-low voltage). */
const EXTRA_LOW_V = 60;

export const dcAbove60: Rule = {
  id: "dc-above-60",
  group: "DC wiring",
  title: "Touch protection above 60 V DC",
  asks: "A battery that is charged to more than 60 V is outside the rule set’s extra-low voltage: live parts are covered, both poles are switched, its insulation is monitored and its devices are rated for it, by a licensed person.",
  clause: by("NEC 480.10, 110.27", "ABYC TE-30; ISO 16315", "IEC 60364-4-41", "ISO 16315", "AS/NZS 5139"),
  broken: "Stop",
  ofThings: true,
  fix: "Have it built by a licensed person: covered, switched at both poles, its insulation monitored.",
  system({ system: { values, job } }) {
    const highest = values.bank.chargeToVoltage.value;
    if (highest <= EXTRA_LOW_V) return [];
    const said = job.wiring.above60 ?? "unsaid";
    return [
      presence({
        key: "above60",
        title: "touch protection above 60 V DC",
        fault: said === "none" ? "no touch protection above 60 V DC" : "touch protection above 60 V DC not stated",
        met: said === "covered",
        gravity: said === "none" ? "Stop" : "Tight",
        reason: say("notices.above60", { highest: Math.round(highest) }),
        fix: say("notices.coverAbove60"),
        part: "wiring.above60",
      }),
    ];
  },
};

export const example: Example = {
  what: "a battery of 96 V without touch protection",
  breaks: () => high({ above60: "none" }),
  word: "Stop",
  meets: () => high({ above60: "covered" }),
};
